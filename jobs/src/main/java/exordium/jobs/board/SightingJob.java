// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.board;

import exordium.core.access.Ability;
import exordium.core.access.BoardState;
import exordium.core.access.Known;
import exordium.core.access.Sighting;
import exordium.core.board.BoardProfile;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareChip;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.SeenAtBoard;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.RegisterSnapshot;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.BoardDeed;
import exordium.jobs.run.JobRunner;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** Puts down what was seen at a board: told by somebody, or looked at by its way. */
public final class SightingJob {
    private static final JobRunner.DeedKind TELL =
            JobRunner.DeedKind.reading("board-told", Step.REHEARSAL, "putting down what was seen at");

    private static final JobRunner.DeedKind LOOK =
            JobRunner.DeedKind.reading("board-read", Step.REHEARSAL, "looking at");

    private final Workbench workbench;
    private final BenchReader benches;

    public SightingJob(Workbench workbench, BenchReader benches) {
        this.workbench = workbench;
        this.benches = benches;
    }

    /** The board as it is known now, and what is to be said of what was told. */
    public record Outcome(BoardState state, List<Finding> findings) {}

    /** @throws BadArgument when the board is always read, or something told cannot be */
    public Outcome told(Workbench.BoardAtHand at, Sighting sighting) throws IOException {
        if (at.register().can(Ability.ALWAYS_READ)) {
            throw new BadArgument(
                    at.register().name() + " is " + at.register().way().said()
                            + ": what it is, is read, not told. Make it a board by hand with"
                            + " \"board edit --reach by-hand\" first.",
                    at.register().id());
        }
        if (sighting.isEmpty()) {
            throw new UnreadableInput("Tell something that was seen at "
                    + at.register().name() + ": its firmware, its order, the device that holds /, what it started from,"
                    + " or what went wrong.");
        }
        Sighting seen = checked(at.profile(), sighting);
        return new BoardDeed(workbench, at).run(TELL, now -> putDown(now, seen, Known.By.TOLD));
    }

    /**
     * Has its way look at the board, and puts down what that brings back.
     *
     * @throws BadArgument when nothing is read by its way
     */
    public Outcome looked(Workbench.BoardAtHand at) throws IOException {
        if (!at.register().can(Ability.LOOK)) {
            throw new BadArgument(
                    at.register().can(Ability.ALWAYS_READ)
                            ? at.register().name() + " is "
                                    + at.register().way().said() + ": what it is, is read whenever it is asked for."
                            : at.register().name() + " is a board "
                                    + at.register().way().said()
                                    + ": look at it, and put down what it shows with \"board told\".",
                    at.register().id());
        }
        return new BoardDeed(workbench, at)
                .run(
                        LOOK,
                        now -> putDown(
                                now,
                                checked(
                                        now.at().profile(),
                                        workbench
                                                .boards()
                                                .reading(now.at().register())
                                                .look()),
                                Known.By.READ));
    }

    private JobRunner.Outcome<Outcome> putDown(BoardDeed now, Sighting seen, Known.By by) throws IOException {
        Known known = new Known(by, workbench.clock().instant());
        Workbench.BoardAtHand at = now.at();
        FirmwareChip before = at.board().chip();
        BoardState state = workbench.boards().change(at.register().id(), board -> board.with(
                        chip(at.profile(), board.chip(), seen))
                .with(board.known().with(seen, known)));
        List<Finding> findings = SeenAtBoard.findings(
                at.profile(),
                before,
                state.chip(),
                seen,
                Rehearsal.of(benches.of(new Workbench.BoardAtHand(at.register(), at.profile(), state))));
        String verb = Character.toUpperCase(by.code().charAt(0)) + by.code().substring(1);
        log(now, before, state.chip(), seen, verb);
        return now.outcome(new Outcome(state, findings), "board-" + by.code(), verb + ": " + words(seen) + ".");
    }

    private static void log(BoardDeed deed, FirmwareChip before, FirmwareChip after, Sighting seen, String verb) {
        seen.started()
                .ifPresent(port -> deed.log(
                        Step.REHEARSAL, RegisterSnapshot.START_SEEN, verb + " to have started from " + port + "."));
        seen.trouble()
                .ifPresent(what -> deed.log(Step.REHEARSAL, "start-failed", verb + " not to have started: " + what));
        if (before.staged().isPresent() && after.staged().isEmpty()) {
            deed.log(
                    Step.FIRMWARE,
                    "firmware-updated",
                    "Runs " + after.running() + " since the restart, as " + verb.toLowerCase(Locale.ROOT) + ".");
        }
        if (before.stagedConfig().isPresent() && after.stagedConfig().isEmpty()) {
            deed.log(
                    Step.ORDER,
                    "order-changed",
                    "What was to be set counts since the restart, as " + verb.toLowerCase(Locale.ROOT) + ".");
        }
    }

    /** What was meant to be set and is now told to be so, waits no more. */
    private static FirmwareChip chip(BoardProfile profile, FirmwareChip known, Sighting seen) throws BadArgument {
        FirmwareChip chip = known;
        if (seen.firmware().isPresent()) {
            chip = new FirmwareChip(
                    seen.firmware().get(),
                    chip.config(),
                    chip.staged().filter(each -> !each.equals(seen.firmware().get())),
                    chip.stagedConfig());
        }
        if (seen.order().isPresent()) {
            String key = profile.order().key();
            chip = BoardChecks.ordered(profile, chip, seen.order().get());
            if (chip.stagedConfig().flatMap(config -> config.value(key)).equals(seen.order())) {
                chip = new FirmwareChip(
                        chip.running(), chip.stagedConfig().orElseThrow(), chip.staged(), Optional.empty());
            }
        }
        return chip;
    }

    private Sighting checked(BoardProfile profile, Sighting sighting) throws UnreadableInput {
        if (sighting.firmware().isPresent()) {
            BoardChecks.notLater(sighting.firmware().get(), workbench.today());
        }
        if (sighting.started().isPresent()) {
            BoardChecks.requirePort(profile, sighting.started().get());
        }
        if (sighting.started().isPresent() && sighting.trouble().isPresent()) {
            throw new BadArgument(
                    "Tell either what it started from or what went wrong, not both.",
                    sighting.trouble().get());
        }
        Optional<String> root =
                sighting.root().isPresent() ? Optional.of(device(sighting.root().get())) : Optional.empty();
        return new Sighting(
                sighting.firmware(), sighting.order().map(String::strip), root, sighting.started(), sighting.trouble());
    }

    /** "sda2" is "/dev/sda2"; a root on a server is called as the kernel calls it. */
    private static String device(String typed) throws BadArgument {
        String device = typed.strip();
        String whole = device.startsWith("/") || device.contains(":") ? device : "/dev/" + device;
        if (!whole.matches("/dev/[0-9A-Za-z/_.-]+|[0-9A-Za-z.-]+:/\\S*")) {
            throw new BadArgument("\"" + typed + "\" is no device such as /dev/mmcblk0p2 or sda2.", typed);
        }
        return whole;
    }

    private static String words(Sighting seen) {
        List<String> words = new ArrayList<>();
        seen.firmware().ifPresent(release -> words.add("firmware " + release));
        seen.order().ifPresent(order -> words.add("order " + order));
        seen.root().ifPresent(root -> words.add("/ is on " + root));
        seen.started().ifPresent(port -> words.add("started from " + port));
        seen.trouble().ifPresent(what -> words.add("did not start: " + what));
        return String.join(", ", words);
    }
}
