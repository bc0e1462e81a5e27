// SPDX-License-Identifier: Apache-2.0
package exordium.core.board;

import exordium.core.finding.UnreadableInput;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What a board's start screen tells of its family, typed off or pasted from a serial console. Lines are those that loaders print:
 * U-Boot (2023.01, as run under qemu), EDK2 (BdsDxe) and firmware that shows its order as digits or a register of bits.
 */
public final class FamilyFromScreen {
    private static final int LONGEST = 256 << 10;
    private static final int IGNORE_CASE = Pattern.CASE_INSENSITIVE;

    private static final Pattern DIGITS = Pattern.compile(
            "(?:boot_?order|order)\\s*[=:]?\\s*(0x[0-9a-f]{1,8})\\b|^\\s*boot:\\s.*\\border\\s+([0-9a-f]{1,8})\\b",
            IGNORE_CASE | Pattern.MULTILINE);
    /** The register of the bit that allows another start, as the tool prints it. */
    private static final Pattern FUSES = Pattern.compile("^\\s*17:([0-9a-f]{8})\\s*$", Pattern.MULTILINE);

    private static final Pattern TARGETS = Pattern.compile("boot_targets=([a-z0-9 _]+)");
    private static final Pattern SCANNED = Pattern.compile("Scanning (nvme|usb|mmc|scsi|virtio) (\\d+):\\d+");
    private static final Pattern BOOTDEV = Pattern.compile("Scanning bootdev '(nvme|usb|mmc)[^']*#(\\d+)[^']*'");
    private static final Pattern LOADER =
            Pattern.compile("\\bU-Boot (?:SPL )?\\d{4}\\.\\d{2}|Hit any key to stop autoboot");
    private static final Pattern UEFI = Pattern.compile("BdsDxe:|Boot(?:Order|Current|[0-9A-F]{4})\\b[*:= ]|UEFI");
    private static final Pattern UEFI_ORDER = Pattern.compile("BootOrder[:= ]+((?:[0-9A-F]{4},?\\s*)+)");
    private static final Pattern UEFI_TRIED =
            Pattern.compile("BdsDxe: (?:loading|starting|failed to load) Boot([0-9A-F]{4})");
    private static final Pattern MEMORY = Pattern.compile(
            "(?:(?:DRAM|RAM|memory)\\s*[:=]?|^\\S.{2,60}? -)\\s*(\\d{1,5})\\s*(MiB|GiB|MB|GB)\\b",
            IGNORE_CASE | Pattern.MULTILINE);
    private static final Pattern WIDE = Pattern.compile("aarch64|arm64|64[- ]bit", IGNORE_CASE);
    private static final Pattern CHIP = Pattern.compile("SF: Detected|SPI flash|from SPI", IGNORE_CASE);

    private FamilyFromScreen() {}

    /**
     * What was seen; what is not on the screen is empty.
     *
     * @param form how its order is kept
     * @param usual the order it showed
     * @param sources what it can start from, as far as it named them
     * @param read all of it in words
     */
    public record Seen(
            Optional<OrderForm> form,
            Optional<String> usual,
            List<String> memory,
            Optional<Integer> width,
            Optional<String> where,
            Set<StartSource> sources,
            List<String> read) {}

    /**
     * The same from a text file.
     *
     * @throws UnreadableInput when there is none, or nothing in it tells anything
     */
    public static Seen read(Path file) throws IOException {
        if (!Files.isRegularFile(file)) {
            throw new UnreadableInput("There is no file " + file + " with lines of a start screen.");
        }
        try (InputStream in = Files.newInputStream(file)) {
            return read(new String(in.readNBytes(LONGEST + 1), StandardCharsets.UTF_8));
        }
    }

    /** @throws UnreadableInput when nothing on it tells anything, or it is longer than any start screen */
    public static Seen read(String screen) throws UnreadableInput {
        if (screen.length() > LONGEST) {
            throw new UnreadableInput(
                    "That is too long for a start screen; give the lines of one start, 256 KiB at the most.");
        }
        List<String> read = new ArrayList<>();
        Order order = order(screen);
        order.form().ifPresent(each -> read.add("order kept as: " + each.code()));
        order.usual().ifPresent(each -> read.add("order shown: " + each));
        List<String> memory = memory(screen);
        memory.forEach(each -> read.add("memory: " + each));
        Optional<Integer> width = WIDE.matcher(screen).find() ? Optional.of(64) : Optional.empty();
        width.ifPresent(each -> read.add("processor: " + each + " bits"));
        Optional<String> where = CHIP.matcher(screen).find() ? Optional.of("chip") : Optional.empty();
        where.ifPresent(each -> read.add("firmware in: " + each));
        Set<StartSource> sources = sources(screen);
        if (!sources.isEmpty()) {
            read.add("starts from: "
                    + String.join(", ", sources.stream().map(StartSource::code).toList()));
        }
        if (read.isEmpty()) {
            throw new UnreadableInput(
                    "Nothing in those lines tells how such a board starts: neither an order, nor what it"
                            + " tried, nor its memory.");
        }
        return new Seen(order.form(), order.usual(), memory, width, where, sources, List.copyOf(read));
    }

    private record Order(Optional<OrderForm> form, Optional<String> usual) {
        static Order of(OrderForm form, Optional<String> usual) {
            return new Order(Optional.of(form), usual);
        }
    }

    private static Order order(String screen) {
        Optional<String> digits = DIGITS.matcher(screen)
                .results()
                .map(found -> found.group(1) != null ? found.group(1) : "0x" + found.group(2))
                .findFirst();
        if (digits.isPresent()) {
            return Order.of(OrderForm.HEX_DIGITS, digits.map(each -> each.toLowerCase(Locale.ROOT)));
        }
        Optional<String> targets = first(TARGETS, screen).map(String::strip);
        List<String> tried = tried(screen);
        if (targets.isPresent() || !tried.isEmpty() || LOADER.matcher(screen).find()) {
            return Order.of(
                    OrderForm.ORDERED_LIST,
                    targets.or(() -> tried.isEmpty() ? Optional.empty() : Optional.of(String.join(" ", tried))));
        }
        if (UEFI.matcher(screen).find()) {
            Optional<String> told = first(UEFI_ORDER, screen).map(each -> each.replaceAll("\\s", ""));
            List<String> entries = all(UEFI_TRIED, screen);
            return Order.of(
                    OrderForm.UEFI,
                    told.or(() -> entries.isEmpty() ? Optional.empty() : Optional.of(String.join(",", entries)))
                            .map(each -> each.replaceFirst(",$", "")));
        }
        return first(FUSES, screen)
                .map(each -> Order.of(OrderForm.FUSE_BITS, Optional.of(each)))
                .orElse(new Order(Optional.empty(), Optional.empty()));
    }

    /** What a loader that goes by a list tried, in its order, by the names of the list. */
    private static List<String> tried(String screen) {
        Set<String> names = new LinkedHashSet<>();
        for (Pattern pattern : List.of(SCANNED, BOOTDEV)) {
            Matcher matcher = pattern.matcher(screen);
            while (matcher.find()) {
                names.add(matcher.group(1) + matcher.group(2));
            }
        }
        if (screen.contains("BOOTP broadcast")) {
            names.add("dhcp");
        }
        return List.copyOf(names);
    }

    private static List<String> memory(String screen) {
        Matcher matcher = MEMORY.matcher(screen);
        if (!matcher.find()) {
            return List.of();
        }
        String unit = matcher.group(2).toUpperCase(Locale.ROOT).replace("I", "");
        return List.of(matcher.group(1) + " " + unit);
    }

    private static Set<StartSource> sources(String screen) {
        String all = screen.toLowerCase(Locale.ROOT);
        Set<StartSource> sources = new LinkedHashSet<>();
        add(sources, StartSource.CARD, all, "\\bmmc[0 :]|\\bsd card|\\bsdcard");
        add(sources, StartSource.EMMC, all, "\\bemmc\\b");
        add(sources, StartSource.NVME, all, "nvme");
        add(sources, StartSource.USB, all, "\\busb");
        add(sources, StartSource.NETWORK, all, "bootp broadcast|\\bpxe|\\bdhcp|\\bnetwork\\b");
        return sources;
    }

    private static void add(Set<StartSource> sources, StartSource source, String screen, String pattern) {
        if (Pattern.compile(pattern).matcher(screen).find()) {
            sources.add(source);
        }
    }

    private static Optional<String> first(Pattern pattern, String screen) {
        return all(pattern, screen).stream().findFirst();
    }

    private static List<String> all(Pattern pattern, String screen) {
        return pattern.matcher(screen)
                .results()
                .map(match -> match.group(1))
                .distinct()
                .toList();
    }
}
