// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import exordium.core.board.StartSource;
import exordium.core.finding.UnreadableInput;
import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * One entry of a UEFI start menu, the content of a variable {@code Boot####} (UEFI specification 2.10, 3.1.3, EFI_LOAD_OPTION).
 *
 * @param attributes bit 0: active, else the entry is passed over; bit 3: hidden
 * @param path the way to what is started
 * @param data handed to it as it is
 */
public record EfiLoadOption(int attributes, String title, List<EfiPathNode> path, byte[] data) {
    private static final int ACTIVE = 1;
    /** Far above what any firmware keeps. */
    private static final int MOST_BYTES = 64 << 10;

    public EfiLoadOption {
        path = List.copyOf(path);
    }

    public static EfiLoadOption active(String title, EfiPathNode... path) {
        return new EfiLoadOption(ACTIVE, title, List.of(path), new byte[0]);
    }

    public boolean isActive() {
        return (attributes & ACTIVE) != 0;
    }

    /** The variable's name: four hex digits in capitals. */
    public static String variable(int number) {
        return String.format(Locale.ROOT, "Boot%04X", number);
    }

    /** @throws UnreadableInput with the offset at which it is no entry */
    public static EfiLoadOption parse(byte[] content) throws UnreadableInput {
        ByteBuffer in = ByteBuffer.wrap(content).order(ByteOrder.LITTLE_ENDIAN);
        if (content.length < 8 || content.length > MOST_BYTES) {
            throw new UnreadableInput("An entry of " + content.length + " bytes is none of a UEFI start menu.");
        }
        int attributes = in.getInt();
        int pathBytes = Short.toUnsignedInt(in.getShort());
        int end = 6;
        while (end + 1 < content.length && (content[end] != 0 || content[end + 1] != 0)) {
            end += 2;
        }
        if (end + 2 > content.length) {
            throw new UnreadableInput("The entry's title does not end (at byte " + end + ").");
        }
        String title = EfiPathNode.printable(new String(content, 6, end - 6, StandardCharsets.UTF_16LE));
        int at = end + 2;
        int behind = at + pathBytes;
        if (behind > content.length) {
            throw new UnreadableInput("The entry's path goes beyond its end (at byte " + at + ").");
        }
        return new EfiLoadOption(
                attributes, title, path(content, at, behind), Arrays.copyOfRange(content, behind, content.length));
    }

    private static List<EfiPathNode> path(byte[] content, int from, int behind) throws UnreadableInput {
        List<EfiPathNode> nodes = new ArrayList<>();
        int at = from;
        while (at + EfiPathNode.HEADER <= behind) {
            int type = content[at] & 0xff;
            int subType = content[at + 1] & 0xff;
            int length = (content[at + 2] & 0xff) | ((content[at + 3] & 0xff) << 8);
            if (length < EfiPathNode.HEADER || at + length > behind) {
                throw new UnreadableInput("A part of the entry's path has a length of " + length + " (at byte " + at
                        + "), which cannot be.");
            }
            if (type == EfiPathNode.END && subType == EfiPathNode.END_ENTIRE) {
                return nodes;
            }
            nodes.add(
                    new EfiPathNode(type, subType, Arrays.copyOfRange(content, at + EfiPathNode.HEADER, at + length)));
            at += length;
        }
        throw new UnreadableInput("The entry's path does not end (at byte " + at + ").");
    }

    /** The variable's content. */
    public byte[] bytes() {
        ByteArrayOutputStream nodes = new ByteArrayOutputStream();
        for (EfiPathNode node : path) {
            put(nodes, node.type(), node.subType(), node.body());
        }
        put(nodes, EfiPathNode.END, EfiPathNode.END_ENTIRE, new byte[0]);
        byte[] titled = (title + "\0").getBytes(StandardCharsets.UTF_16LE);
        ByteBuffer out = ByteBuffer.allocate(6 + titled.length + nodes.size() + data.length)
                .order(ByteOrder.LITTLE_ENDIAN);
        out.putInt(attributes).putShort((short) nodes.size());
        out.put(titled).put(nodes.toByteArray()).put(data);
        return out.array();
    }

    private static void put(ByteArrayOutputStream out, int type, int subType, byte[] body) {
        int length = EfiPathNode.HEADER + body.length;
        out.write(type);
        out.write(subType);
        out.write(length);
        out.write(length >>> 8);
        out.writeBytes(body);
    }

    /** What kind of place it starts from, where its path tells; a partition by its identifier alone does not. */
    public Optional<StartSource> source() {
        for (EfiPathNode node : path) {
            if (node.is(EfiPathNode.NodeKind.MAC)) {
                boolean install = path.stream().anyMatch(each -> each.is(EfiPathNode.NodeKind.URI));
                return Optional.of(install ? StartSource.NETWORK_INSTALL : StartSource.NETWORK);
            }
            if (node.is(EfiPathNode.NodeKind.SD)) {
                return Optional.of(StartSource.CARD);
            }
            if (node.is(EfiPathNode.NodeKind.EMMC)) {
                return Optional.of(StartSource.EMMC);
            }
            if (node.is(EfiPathNode.NodeKind.NVME)) {
                return Optional.of(StartSource.NVME);
            }
            if (node.is(EfiPathNode.NodeKind.USB) || node.is(EfiPathNode.NodeKind.USB_WWID)) {
                return Optional.of(StartSource.USB);
            }
        }
        return Optional.empty();
    }

    /** Where it leads, in a few words. */
    public String said() {
        return path.isEmpty()
                ? "nowhere"
                : String.join(", ", path.stream().map(EfiPathNode::said).toList());
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof EfiLoadOption option
                && option.attributes == attributes
                && option.title.equals(title)
                && option.path.equals(path)
                && Arrays.equals(option.data, data);
    }

    @Override
    public int hashCode() {
        return 31 * (31 * attributes + title.hashCode()) + path.hashCode();
    }
}
