// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.plan;

import exordium.core.finding.Finding;
import exordium.core.finding.Subject;
import exordium.core.quantity.Coded;
import exordium.core.storage.judgement.StorageAssessment;
import exordium.core.storage.media.MediumKind;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * Storage for all boards together: who keeps what it has, which medium of the drawer goes where, what has to be bought, what
 * that costs. The board in most need chooses first; a medium goes to one board only. Complexity: boards times media.
 */
public record HousePlan(List<Row> rows, double cost) {

    /** What is done for one board. */
    public enum Advice implements Coded {
        KEEP,
        MOVE,
        BUY,
        NOTHING_FITS;
    }

    /**
     * A board with its choice.
     *
     * @param current what is in it now
     */
    public record Case(String board, String name, StorageChoice choice, Optional<MediumKind.Medium> current) {}

    /** What one board gets, and why. */
    public record Row(String board, String name, Advice deed, Optional<StorageAssessment> medium, String reason) {}

    /** Where drawer: media in no board; offers: what shops have. */
    public static HousePlan of(List<Case> cases, List<MediumKind.Medium> drawer, List<MediumKind.Medium> offers) {
        List<MediumKind.Medium> left = new ArrayList<>(drawer);
        List<Row> rows = new ArrayList<>();
        List<Case> byNeed = cases.stream()
                .sorted(Comparator.comparingDouble(HousePlan::ease))
                .toList();
        for (Case each : byNeed) {
            Row row = row(each, left, offers);
            row.medium()
                    .filter(medium -> row.deed() == Advice.MOVE)
                    .ifPresent(medium -> left.removeIf(
                            other -> other.id().equals(medium.medium().id())));
            rows.add(row);
        }
        rows.sort(Comparator.comparingInt(
                row -> cases.stream().map(Case::board).toList().indexOf(row.board())));
        double cost = rows.stream()
                .filter(row -> row.deed() == Advice.BUY)
                .mapToDouble(row -> row.medium().orElseThrow().price())
                .sum();
        return new HousePlan(List.copyOf(rows), cost);
    }

    /** How well off a board is; boards with nothing, or with what does not do, come first. */
    private static double ease(Case each) {
        return each.current()
                .map(each.choice()::assess)
                .map(now -> now.fits() ? Math.min(20, now.cautiousYears()) : -1)
                .orElse(-2.0);
    }

    private static Row row(Case each, List<MediumKind.Medium> drawer, List<MediumKind.Medium> offers) {
        Optional<StorageAssessment> now = each.current().map(each.choice()::assess);
        String trouble = now.map(HousePlan::trouble).orElse("It has nothing to start from.");
        if (now.isPresent() && trouble.isEmpty()) {
            return new Row(each.board(), each.name(), Advice.KEEP, now, "What it has does: " + best(now.get()) + ".");
        }
        Optional<StorageAssessment> moved = first(each.choice(), drawer);
        if (moved.isPresent() && trouble(moved.get()).isEmpty()) {
            return new Row(each.board(), each.name(), Advice.MOVE, moved, trouble);
        }
        Optional<StorageAssessment> bought = first(each.choice(), offers);
        if (bought.isPresent()) {
            return new Row(each.board(), each.name(), Advice.BUY, bought, trouble);
        }
        return moved.map(medium -> new Row(each.board(), each.name(), Advice.MOVE, moved, trouble))
                .orElseGet(() -> new Row(each.board(), each.name(), Advice.NOTHING_FITS, Optional.empty(), trouble));
    }

    private static Optional<StorageAssessment> first(StorageChoice choice, List<MediumKind.Medium> media) {
        return choice.rank(media).stream().findFirst().filter(StorageAssessment::fits);
    }

    /** Why what is there does not do; empty where it does. */
    private static String trouble(StorageAssessment now) {
        return now.findings().stream()
                .filter(finding -> finding.stops() || finding.isAbout(Subject.LASTING))
                .findFirst()
                .map(Finding::text)
                .orElse("");
    }

    private static String best(StorageAssessment now) {
        return now.parts().stream()
                .filter(part -> part.name().equals("life"))
                .findFirst()
                .map(StorageAssessment.MeritPart::words)
                .orElse("");
    }
}
