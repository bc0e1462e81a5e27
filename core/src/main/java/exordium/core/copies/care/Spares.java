// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.care;

import exordium.core.quantity.ByteSize;
import exordium.core.storage.media.Replacement;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * Which of the media in the drawer a board's next spare is written to: the one whose copy of this board is oldest, so that two
 * spares take turns; else one that holds nothing; never one that another board's copy is on. Common practice, no source.
 */
public final class Spares {
    private Spares() {}

    /**
     * A medium in the drawer.
     *
     * @param fits whether it goes into the place of the board's medium
     * @param copyOf the board whose copy was last put on it, and copied: of which day that copy is
     */
    public record Medium(
            String id,
            String name,
            ByteSize size,
            boolean fits,
            Optional<Replacement> replacement,
            Optional<String> copyOf,
            Optional<LocalDate> copied,
            boolean holdsOther) {}

    /** What becomes of a medium, and why. */
    public record Verdict(Medium medium, boolean usable, String why) {}

    /** The next one first, those that will not do at the end. Where extent: to the end of the board's last partition. */
    public static List<Verdict> of(String board, ByteSize extent, List<Medium> drawer) {
        List<Verdict> verdicts = new ArrayList<>();
        for (Medium each : drawer) {
            verdicts.add(verdict(board, extent, each));
        }
        verdicts.sort(Comparator.comparing((Verdict each) -> !each.usable())
                .thenComparing(each -> !mine(board, each.medium()))
                .thenComparing(each -> each.medium().copied().orElse(LocalDate.MIN))
                .thenComparing(each -> each.medium().size())
                .thenComparing(each -> each.medium().id()));
        return verdicts;
    }

    private static boolean mine(String board, Medium medium) {
        return medium.copyOf().filter(board::equals).isPresent();
    }

    private static Verdict verdict(String board, ByteSize extent, Medium medium) {
        if (!medium.fits()) {
            return new Verdict(medium, false, "it does not go into the place of the board's medium");
        }
        if (extent.compareTo(medium.size()) > 0) {
            return new Verdict(
                    medium, false, "it is " + extent.minusOrZero(medium.size()).said() + " too small");
        }
        if (medium.replacement().filter(Replacement::due).isPresent()) {
            return new Verdict(
                    medium,
                    false,
                    "it is to be replaced: " + medium.replacement().get().reason());
        }
        if (mine(board, medium)) {
            return new Verdict(
                    medium,
                    true,
                    "it holds this board's copy"
                            + medium.copied().map(day -> " of " + day).orElse("") + ", the oldest of its spares");
        }
        if (medium.copyOf().isPresent()) {
            return new Verdict(
                    medium, false, "it is a spare of " + medium.copyOf().get());
        }
        if (medium.holdsOther()) {
            return new Verdict(medium, false, "it holds something else");
        }
        return new Verdict(medium, true, "it holds nothing");
    }
}
