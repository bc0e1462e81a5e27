// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.passage;

import exordium.core.bootorder.OrderDialect;
import exordium.core.firmware.FirmwareChip;
import exordium.core.passage.Deed;
import exordium.core.passage.Step;
import exordium.jobs.bench.Workbench;
import exordium.store.Copies;
import exordium.store.Media;
import exordium.store.Operations;
import java.io.IOException;
import java.nio.file.Files;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Whether what showed that a step was done still holds. */
final class StepEvidence {
    private final Workbench workbench;
    private final Workbench.BoardAtHand at;
    private final Map<String, Operations.Operation> writes;

    StepEvidence(Workbench workbench, Workbench.BoardAtHand at) {
        this.workbench = workbench;
        this.at = at;
        this.writes = workbench.workspace().operations().lastWrites();
    }

    /** Why a step that was done does not hold any more; empty while it does. Where later: done after it. */
    Optional<String> fallen(KeptPlan.Kept kept, List<Step> later) throws IOException {
        Step step = kept.step();
        return switch (step.deed()) {
            case PLUG -> undone(later, Deed.TAKE_OUT, step) ? Optional.empty() : plugged(step);
            case TAKE_OUT -> undone(later, Deed.PLUG, step) ? Optional.empty() : takenOut(step);
            case WRITE, CLONE, RESTORE ->
                later.stream().anyMatch(each -> onto(each, step)) ? Optional.empty() : written(kept);
            case COPY -> copied(kept);
            case STAGE_FIRMWARE -> firmware(step, later);
            case STAGE_ORDER ->
                later.stream().anyMatch(each -> each.deed() == Deed.STAGE_ORDER)
                        ? Optional.empty()
                        : order(step, later);
            default -> Optional.empty();
        };
    }

    private static boolean undone(List<Step> later, Deed by, Step step) {
        return later.stream()
                .anyMatch(each -> each.deed() == by && each.medium().equals(step.medium()));
    }

    private static boolean onto(Step later, Step step) {
        return later.medium().equals(step.medium()) && (later.source().isPresent() || later.deed() == Deed.CLEAR);
    }

    private Optional<Media.Medium> medium(Step step) {
        return workbench.workspace().media().all().stream()
                .filter(each -> step.medium().filter(each.id()::equals).isPresent())
                .findFirst();
    }

    private String name(Step step) {
        return medium(step).map(Media.Medium::name).orElse(step.medium().orElse("it"));
    }

    private Optional<String> plugged(Step step) {
        boolean there = at.board().attached().stream()
                .anyMatch(plug -> step.port().filter(plug.port()::equals).isPresent()
                        && medium(step)
                                .map(Media.Medium::file)
                                .filter(plug.drive()::equals)
                                .isPresent());
        return there
                ? Optional.empty()
                : Optional.of(name(step) + " is not in " + step.port().orElse("its port") + " any more.");
    }

    private Optional<String> takenOut(Step step) {
        boolean there = at.board().attached().stream().anyMatch(plug -> medium(step)
                .map(Media.Medium::file)
                .filter(plug.drive()::equals)
                .isPresent());
        return there ? Optional.of(name(step) + " is in the board again.") : Optional.empty();
    }

    private Optional<String> written(KeptPlan.Kept kept) {
        Optional<Long> last = kept.step().medium().map(writes::get).map(Operations.Operation::id);
        return kept.evidence().isEmpty() || kept.evidence().equals(last)
                ? Optional.empty()
                : Optional.of(name(kept.step()) + " was written with something else since.");
    }

    private Optional<String> copied(KeptPlan.Kept kept) {
        Optional<Copies.Copy> copy = workbench.workspace().copies().all().stream()
                .filter(each -> kept.evidence().filter(id -> id == each.id()).isPresent())
                .findFirst();
        return copy.filter(each -> Files.isRegularFile(workbench.vault().resolve(each.file())))
                        .isPresent()
                ? Optional.empty()
                : Optional.of("The copy is not in the vault any more.");
    }

    private static boolean restarted(List<Step> later) {
        return later.stream().anyMatch(each -> each.deed() == Deed.RESTART);
    }

    private Optional<String> firmware(Step step, List<Step> later) {
        LocalDate release = LocalDate.parse(step.value().orElseThrow());
        FirmwareChip chip = at.board().chip();
        if (restarted(later)) {
            return chip.running().isBefore(release)
                    ? Optional.of("The board does not run release " + release + " any more.")
                    : Optional.empty();
        }
        return chip.staged().filter(release::equals).isPresent()
                        || !chip.running().isBefore(release)
                ? Optional.empty()
                : Optional.of("Release " + release + " is not staged any more: it was switched off, not restarted.");
    }

    private Optional<String> order(Step step, List<Step> later) {
        String value = step.value().orElseThrow();
        boolean holds = restarted(later)
                ? same(at.order(), value)
                : at.stagedOrder().filter(staged -> same(staged, value)).isPresent() || same(at.order(), value);
        return holds ? Optional.empty() : Optional.of("The order " + value + " is neither set nor staged any more.");
    }

    private boolean same(String one, String other) {
        OrderDialect dialect = OrderDialect.of(at.profile());
        return one.equals(other)
                || dialect.decode(one).sources().equals(dialect.decode(other).sources());
    }
}
