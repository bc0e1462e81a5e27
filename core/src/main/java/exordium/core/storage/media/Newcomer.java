// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.media;

import exordium.core.quantity.ByteSize;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * What a drive that was never here is called until its owner says otherwise, and what it most likely is: by how this machine has it
 * connected, whether its medium comes out, and what it says of itself.
 */
public record Newcomer(String name, MediumKind kind) {
    /** Sizes that are printed on media, in GB (common practice, no source). */
    private static final List<Integer> PRINTED = List.of(
            1, 2, 4, 8, 16, 32, 64, 120, 128, 240, 250, 256, 480, 500, 512, 960, 1000, 1024, 2000, 2048, 4000, 4096);

    /** What readers of cards call themselves; what the card is called they do not pass on. */
    private static final Pattern READER = Pattern.compile("(?i)\\b(card|reader|sd[hx]?c?|mmc)\\b|sd/mmc");

    /** What is missing of the printed size at the most. */
    private static final double SHORT_OF = 0.93;

    /**
     * The guess.
     *
     * @param bus how it is connected: usb, sata, nvme, mmc, loop, other
     * @param model as it says itself; empty where it says nothing
     * @param taken names that others have
     */
    public static Newcomer of(
            List<MediumKind> kinds, String bus, boolean removable, String model, ByteSize size, Set<String> taken) {
        String said = model.strip().replaceAll("\\s+", " ");
        boolean reader = READER.matcher(said).find();
        MediumKind kind = kind(kinds, bus, removable, reader);
        String name = said.isEmpty() || reader ? noun(kind) + " " + printed(size) : said;
        String free = name;
        for (int number = 2; taken.contains(free); number++) {
            free = name + " " + number;
        }
        return new Newcomer(free, kind);
    }

    /** A reader has cards; what hangs on USB and does not come out of its case is a drive, else a stick. */
    private static MediumKind kind(List<MediumKind> kinds, String bus, boolean removable, boolean reader) {
        String form =
                switch (bus) {
                    case "usb" -> reader ? "card" : removable ? "stick" : "boxed";
                    case "nvme", "sata" -> "m2";
                    default -> "card";
                };
        String own = form.equals("card") ? "sd" : bus;
        return kinds.stream()
                .filter(kind -> kind.form().equals(form) && kind.bus().equals(own))
                .findFirst()
                .orElse(kinds.get(0));
    }

    private static String noun(MediumKind kind) {
        return switch (kind.form()) {
            case "card" -> "Card";
            case "stick" -> "Stick";
            default -> "Drive";
        };
    }

    /** The size it was sold by, in GB; in MB where it is smaller than any. */
    private static String printed(ByteSize size) {
        double gigabytes = size.bytes() / 1e9;
        return PRINTED.stream()
                .filter(each -> each >= gigabytes && each * SHORT_OF <= gigabytes)
                .findFirst()
                .map(String::valueOf)
                .orElse(gigabytes < 1 ? size.bytes() / 1_000_000 + " MB" : String.valueOf(Math.round(gigabytes)));
    }
}
