// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.writing.WritePlan;
import exordium.store.Media;
import java.io.IOException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** What the registers know of a target: which medium it is, where it is in service, when it was last copied. */
public final class TargetHistory {
    private final Workbench workbench;

    public TargetHistory(Workbench workbench) {
        this.workbench = workbench;
    }

    /** The same target, saying what would be lost with it, and the pace it was last measured at. */
    public Targets.Target known(Targets.Target target) throws IOException {
        Optional<String> loses = loses(target);
        if (loses.isEmpty()) {
            return target;
        }
        Optional<Media.Medium> medium = workbench.registered(target);
        WritePlan.TargetDescription plain = target.description();
        return new Targets.Target(
                new WritePlan.TargetDescription(
                        plain.id(),
                        plain.path(),
                        plain.size(),
                        medium.flatMap(each -> workbench.measured(each.id(), "write"))
                                .or(plain::writeRate),
                        medium.flatMap(each -> workbench.measured(each.id(), "read"))
                                .or(plain::readRate),
                        loses,
                        plain.refusals()),
                target.simulated(),
                target.serial(),
                target.opener());
    }

    /** Drives that nothing forbids to be written over, each with what would be lost with it. */
    public List<Targets.Target> free(Targets reach) throws IOException {
        List<Targets.Target> free = new ArrayList<>();
        for (Targets.Target each : reach.all(workbench.drives())) {
            if (each.description().refusals().isEmpty()) {
                free.add(known(each));
            }
        }
        return free;
    }

    private Optional<String> loses(Targets.Target target) throws IOException {
        Optional<Media.Medium> medium = workbench.registered(target);
        if (medium.isEmpty()) {
            return Optional.empty();
        }
        String serial =
                medium.get().serial().isEmpty() ? "" : " (" + medium.get().serial() + ")";
        String lost = "Everything on " + medium.get().name() + serial + " will be lost; it is in service ";
        Optional<Workbench.BoardAtHand> holder = workbench.holder(medium.get().file());
        if (holder.isEmpty()) {
            return Optional.of(lost + "nowhere.");
        }
        Optional<LocalDate> copied = workbench.lastCopyOf(medium.get().id());
        return Optional.of(
                lost + "at " + holder.get().register().name() + ". "
                        + copied.map(day -> "Its last proven copy is of " + day + "; what came since is not in it.")
                                .orElse(
                                        "No copy of it is in the vault: make one first unless you can do without what it holds."));
    }
}
