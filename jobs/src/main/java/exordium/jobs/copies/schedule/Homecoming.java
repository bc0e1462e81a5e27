// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies.schedule;

import exordium.core.copies.schedule.CopyRule;
import exordium.core.quantity.Span;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.MediaHealth;
import exordium.jobs.bench.Workbench;
import exordium.jobs.daysheet.DaySheets;
import exordium.store.Media;
import java.io.IOException;
import java.time.Duration;
import java.util.Optional;

/**
 * A medium that came to this machine: whose it is, what is due for it, and where it goes back to.
 *
 * @param port of the board, by its title
 * @param time a copy takes, at the rate the medium was measured at; nothing where that is not known
 */
public record Homecoming(String board, String name, String place, String port, CopyRule.Due due, Duration time) {

    /** Empty where the medium starts no board. */
    public static Optional<Homecoming> of(Workbench workbench, DaySheets sheets, Media.Medium medium)
            throws IOException {
        Optional<Workbench.BoardAtHand> holder = workbench.holder(medium.file());
        if (holder.isEmpty()
                || workbench
                        .mainMedium(holder.get())
                        .filter(main -> main.id().equals(medium.id()))
                        .isEmpty()) {
            return Optional.empty();
        }
        Workbench.BoardAtHand at = holder.get();
        String port = at.board().attached().stream()
                .filter(plug -> plug.drive().equals(medium.file()))
                .findFirst()
                .flatMap(plug -> at.profile().port(plug.port()))
                .map(each -> each.title())
                .orElse("");
        return Optional.of(new Homecoming(
                at.register().id(),
                at.register().name(),
                at.register().place(),
                port,
                sheets.due(at.register()),
                new CopySource(workbench, new BenchReader(workbench), MediaHealth.of(workbench))
                        .of(at, medium)
                        .time()));
    }

    /** Whose it is and when it was last copied, in one sentence. */
    public String sentence() {
        return "of " + name + ", " + port + ", " + place + ": copy "
                + (due.overdue() ? "due since " + due.date() : "due " + due.date());
    }

    /** The copy's button: whose it is, and how long it takes. */
    public String deed() {
        return "Copy it for " + name + (time.toSeconds() == 0 ? "" : ", about " + Span.said(time));
    }

    /** Where it goes when the copy is made. */
    public String back() {
        return "It goes back into " + port + " of " + name + ", " + place + "; power off first.";
    }
}
