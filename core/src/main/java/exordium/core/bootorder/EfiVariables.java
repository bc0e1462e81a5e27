// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import exordium.core.finding.UnreadableInput;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What a UEFI firmware keeps of its start: {@code BootOrder}, a list of numbers of two bytes each, and the entries they mean
 * (UEFI specification 2.10, 3.3).
 */
public record EfiVariables(List<Integer> order, Map<Integer, EfiLoadOption> entries) {
    /** The owner of all of them (UEFI specification 2.10, 3.3, EFI_GLOBAL_VARIABLE). */
    public static final String OWNER = "8be4df61-93ca-11d2-aa0d-00e098032b8c";

    private static final Pattern FILE = Pattern.compile("(BootOrder|Boot[0-9A-F]{4})-" + OWNER);
    /** A file begins with the variable's attributes (Linux kernel documentation, efivarfs). */
    private static final int ATTRIBUTES = 4;

    private static final long MOST_BYTES = 64 << 10;
    private static final int MOST_FILES = 4096;

    public EfiVariables {
        order = List.copyOf(order);
        entries = Map.copyOf(entries);
    }

    /**
     * Reads a folder as a running Linux shows them below /sys/firmware/efi/efivars, or a copy of it.
     *
     * @throws UnreadableInput when there is no such folder, or one of the files holds something else
     */
    public static EfiVariables ofFolder(Path folder) throws IOException {
        if (!Files.isDirectory(folder)) {
            throw new UnreadableInput("There is no folder " + folder + ".");
        }
        List<Integer> order = List.of();
        Map<Integer, EfiLoadOption> entries = new TreeMap<>();
        int seen = 0;
        try (DirectoryStream<Path> files = Files.newDirectoryStream(folder)) {
            for (Path file : files) {
                String name = String.valueOf(file.getFileName());
                Matcher known = FILE.matcher(name);
                if (++seen > MOST_FILES) {
                    throw new UnreadableInput(folder + " holds more files than a firmware has variables.");
                }
                if (!known.matches() || !Files.isRegularFile(file)) {
                    continue;
                }
                if (Files.size(file) > MOST_BYTES || Files.size(file) < ATTRIBUTES) {
                    throw new UnreadableInput(name + " has " + Files.size(file) + " bytes, which no variable has.");
                }
                byte[] all = Files.readAllBytes(file);
                byte[] content = Arrays.copyOfRange(all, ATTRIBUTES, all.length);
                if (known.group(1).equals("BootOrder")) {
                    order = order(content);
                } else {
                    entries.put(Integer.parseInt(name.substring(4, 8), 16), EfiLoadOption.parse(content));
                }
            }
        }
        return new EfiVariables(order, entries);
    }

    /** @throws UnreadableInput when it is no list of numbers of two bytes */
    public static List<Integer> order(byte[] content) throws UnreadableInput {
        if (content.length % 2 != 0) {
            throw new UnreadableInput("BootOrder has " + content.length + " bytes; each entry takes two.");
        }
        ByteBuffer in = ByteBuffer.wrap(content).order(ByteOrder.LITTLE_ENDIAN);
        List<Integer> order = new ArrayList<>();
        while (in.hasRemaining()) {
            order.add(Short.toUnsignedInt(in.getShort()));
        }
        return order;
    }

    public static byte[] bytes(List<Integer> order) {
        ByteBuffer out = ByteBuffer.allocate(2 * order.size()).order(ByteOrder.LITTLE_ENDIAN);
        order.forEach(number -> out.putShort(number.shortValue()));
        return out.array();
    }

    /** As {@link NamedOrder} reads it. */
    public String value() {
        return String.join(
                ",",
                order.stream()
                        .map(number -> String.format(Locale.ROOT, "%04X", number))
                        .toList());
    }
}
