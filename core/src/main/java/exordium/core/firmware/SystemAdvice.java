// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.inspection.InstalledSystem;
import exordium.core.quantity.Span;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** The other kind of update: what the system on a medium is beside the images at hand, and when its packages were last updated. */
public final class SystemAdvice {
    /** Where package databases keep what is installed; its date is that of the last change (common practice, no source). */
    public static final List<String> PACKAGE_RECORDS = List.of(
            "/var/lib/dpkg/status", "/var/lib/rpm/rpmdb.sqlite", "/lib/apk/db/installed", "/var/lib/pacman/local");

    private static final long STALE_DAYS = 180;

    private SystemAdvice() {}

    /** An image of the shelf: what it is called, its system and that one's version. */
    public record Image(String title, String system, String version) {
        /** Whether it is of the same system, and as new or newer. */
        public boolean succeeds(InstalledSystem installed) {
            return system.equals(installed.id()) && compare(version, installed.version()) >= 0;
        }
    }

    /**
     * What is to be said, worst first.
     *
     * @param installed what the medium holds; empty where nothing is known of it
     * @param images that start this board
     * @param updated when its packages were last changed
     */
    public static List<Finding> of(
            BoardProfile profile,
            Optional<InstalledSystem> installed,
            List<Image> images,
            Optional<LocalDate> updated,
            LocalDate today) {
        List<Finding> findings = new ArrayList<>();
        if (installed.isPresent()) {
            InstalledSystem system = installed.get();
            boolean soldered = profile.ports().stream().anyMatch(port -> port.source() == StartSource.EMMC);
            Optional<Image> newest = images.stream()
                    .filter(image -> image.succeeds(system))
                    .max((one, other) -> compare(one.version(), other.version()));
            int order = newest.map(image -> compare(system.version(), image.version()))
                    .orElse(0);
            if (newest.isPresent() && order < 0) {
                findings.add(Finding.note(
                                "newer-image",
                                "The medium holds " + system.title() + "; "
                                        + newest.get().title() + " on the shelf is newer. "
                                        + (soldered
                                                ? "A flasher card writes it onto the board's own storage in 5 to 10 minutes: it makes"
                                                        + " the partitions anew, so keep what is to be kept, and take the card out"
                                                        + " afterwards, or it begins again."
                                                : "Write it to a second medium and keep this one until the new one is proven."),
                                Basis.practice())
                        .mendAt(Step.IMAGE));
            } else if (newest.isPresent() && soldered) {
                findings.add(Finding.note(
                        "same-system",
                        "The board's own storage holds " + system.title()
                                + ", as new as any image here: leave it, there is no reason to write it again.",
                        Basis.practice()));
            }
        }
        updated.ifPresent(at -> {
            long days = ChronoUnit.DAYS.between(at, today);
            findings.add(
                    days > STALE_DAYS
                            ? Finding.caution(
                                    "packages-old",
                                    "Its packages were last changed on " + at + ", " + Span.days(days)
                                            + " ago: update them from within the system, after a copy.",
                                    Basis.computed("the date of its package records"))
                            : Finding.note(
                                    "packages-updated",
                                    "Its packages were last changed on " + at + ".",
                                    Basis.computed("the date of its package records")));
        });
        return Finding.worstFirst(findings);
    }

    /** Versions part by part: numbers as numbers, everything else as text. */
    static int compare(String one, String other) {
        String[] ours = one.split("[.\\-+~ ]");
        String[] theirs = other.split("[.\\-+~ ]");
        for (int i = 0; i < Math.max(ours.length, theirs.length); i++) {
            String a = i < ours.length ? ours[i] : "";
            String b = i < theirs.length ? theirs[i] : "";
            boolean numbers = a.matches("\\d{1,9}") && b.matches("\\d{1,9}");
            int order = numbers ? Integer.compare(Integer.parseInt(a), Integer.parseInt(b)) : a.compareTo(b);
            if (order != 0) {
                return order;
            }
        }
        return 0;
    }
}
