// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.board;

import exordium.core.access.BoardState;
import exordium.core.access.Told;
import exordium.core.board.BoardProfile;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareChip;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.SeenAtBoard;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.OnRecord;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.JobRunner;
import exordium.jobs.run.OnBoard;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Puts down what somebody saw at a board by hand. */
public final class ToldJob {
    private static final JobRunner.Kind TELL =
            JobRunner.Kind.reading("board-told", Step.REHEARSAL, "putting down what was seen at");

    private final Workbench workbench;
    private final BenchReader benches;

    public ToldJob(Workbench workbench, BenchReader benches) {
        this.workbench = workbench;
        this.benches = benches;
    }

    /** The board as it is known now, and what is to be said of what was told. */
    public record Outcome(BoardState state, List<Finding> findings) {}

    /** @throws BadArgument when the board is played by the program, or something told cannot be */
    public Outcome told(Workbench.BoardAtHand at, Told.Telling telling) throws IOException {
        if (!at.register().byHand()) {
            throw new BadArgument(
                    at.register().name() + " is simulated: what it is, is read, not told. Make it a board by hand with"
                            + " \"board edit --reach by-hand\" first.",
                    at.register().id());
        }
        if (telling.isEmpty()) {
            throw new UnreadableInput("Tell something that was seen at "
                    + at.register().name() + ": its firmware, its order, the device that holds /, what it started from,"
                    + " or what went wrong.");
        }
        Told.Telling seen = checked(at.profile(), telling);
        return new OnBoard(workbench, at).run(TELL, now -> {
            BoardState before = now.at().board();
            BoardState state = before.with(chip(now.at(), seen))
                    .with(before.told().with(seen, workbench.clock().instant()));
            Workbench.BoardAtHand known = new Workbench.BoardAtHand(at.register(), at.profile(), state);
            List<Finding> findings = SeenAtBoard.findings(
                    at.profile(), before.chip(), state.chip(), seen, Rehearsal.of(benches.of(known)));
            workbench.put(at.register().id(), state);
            tell(now, before.chip(), state.chip(), seen);
            return now.outcome(new Outcome(state, findings), "board-told", "Told: " + words(seen) + ".");
        });
    }

    private static void tell(OnBoard deed, FirmwareChip before, FirmwareChip after, Told.Telling seen) {
        seen.started()
                .ifPresent(port ->
                        deed.log(Step.REHEARSAL, OnRecord.START_SEEN, "Told to have started from " + port + "."));
        seen.trouble().ifPresent(what -> deed.log(Step.REHEARSAL, "start-failed", "Told not to have started: " + what));
        if (before.staged().isPresent() && after.staged().isEmpty()) {
            deed.log(Step.FIRMWARE, "firmware-updated", "Runs " + after.running() + " since the restart, as told.");
        }
        if (before.stagedConfig().isPresent() && after.stagedConfig().isEmpty()) {
            deed.log(Step.ORDER, "order-changed", "What was to be set counts since the restart, as told.");
        }
    }

    /** What was meant to be set and is now told to be so, waits no more. */
    private static FirmwareChip chip(Workbench.BoardAtHand at, Told.Telling seen) throws BadArgument {
        FirmwareChip chip = at.board().chip();
        if (seen.firmware().isPresent()) {
            chip = new FirmwareChip(
                    seen.firmware().get(),
                    chip.config(),
                    chip.staged().filter(each -> !each.equals(seen.firmware().get())),
                    chip.stagedConfig());
        }
        if (seen.order().isPresent()) {
            String key = at.profile().order().key();
            chip = BoardChecks.ordered(at.profile(), chip, seen.order().get());
            if (chip.stagedConfig().flatMap(config -> config.value(key)).equals(seen.order())) {
                chip = new FirmwareChip(
                        chip.running(), chip.stagedConfig().orElseThrow(), chip.staged(), Optional.empty());
            }
        }
        return chip;
    }

    private Told.Telling checked(BoardProfile profile, Told.Telling telling) throws UnreadableInput {
        if (telling.firmware().isPresent()) {
            BoardChecks.notLater(telling.firmware().get(), workbench.today());
        }
        if (telling.started().isPresent()) {
            BoardChecks.requirePort(profile, telling.started().get());
        }
        if (telling.started().isPresent() && telling.trouble().isPresent()) {
            throw new BadArgument(
                    "Tell either what it started from or what went wrong, not both.",
                    telling.trouble().get());
        }
        Optional<String> root =
                telling.root().isPresent() ? Optional.of(device(telling.root().get())) : Optional.empty();
        return new Told.Telling(
                telling.firmware(), telling.order().map(String::strip), root, telling.started(), telling.trouble());
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

    private static String words(Told.Telling seen) {
        List<String> words = new ArrayList<>();
        seen.firmware().ifPresent(release -> words.add("firmware " + release));
        seen.order().ifPresent(order -> words.add("order " + order));
        seen.root().ifPresent(root -> words.add("/ is on " + root));
        seen.started().ifPresent(port -> words.add("started from " + port));
        seen.trouble().ifPresent(what -> words.add("did not start: " + what));
        return String.join(", ", words);
    }
}
