// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies.care;

import exordium.core.block.BlockDevice;
import exordium.core.board.BoardProfile;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Step;
import exordium.core.firststart.intents.Intents;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.contents.Cause;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firststart.FirstStartJob;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** A drive that was just made from another one or from a copy: an identity of its own, and whether its board starts from it. */
public final class AfterWrite {
    private final Workbench workbench;
    private final BenchReader benches;

    public AfterWrite(Workbench workbench, BenchReader benches) {
        this.workbench = workbench;
        this.benches = benches;
    }

    /** What becomes of it; hostName: a name of its own, where it gets an identity of its own. */
    public record Wanted(boolean ownIdentity, Optional<String> hostName) {}

    /** Gives it an identity where that is wanted, and rehearses it in its board. */
    public Rehearsed finish(Targets.Target target, Optional<Workbench.BoardAtHand> board, Wanted wanted)
            throws IOException {
        if (wanted.ownIdentity()) {
            give(target, board, wanted.hostName());
        }
        return rehearsed(target, board, wanted.ownIdentity());
    }

    /** Another disk identifier with kernel line and fstab after it, no host keys and machine identity of the original. */
    private void give(Targets.Target target, Optional<Workbench.BoardAtHand> board, Optional<String> hostName)
            throws IOException {
        Map<String, Object> wanted = new LinkedHashMap<>();
        wanted.put("ownIdentity", true);
        hostName.ifPresent(name -> wanted.put("hostName", name));
        Intents intents = IntentsReader.of(wanted);
        BoardProfile profile = board.map(Workbench.BoardAtHand::profile)
                .or(() -> family(target))
                .orElseThrow(() -> new NotPossible(
                        "It is written and proven, and keeps the original's identity: no family here starts from it, so"
                                + " nobody knows where its files are."));
        new FirstStartJob(workbench).apply(new FirstStartJob.Order(target, profile, intents, Optional.empty()));
    }

    private Optional<BoardProfile> family(Targets.Target target) {
        return workbench.profiles().all().stream()
                .filter(profile -> {
                    try (BlockDevice device = target.opener().open(false)) {
                        return ContentsReader.read(device, profile.startFiles()).hasKernelFor(profile);
                    } catch (IOException e) {
                        return false;
                    }
                })
                .findFirst();
    }

    /**
     * What a rehearsal says of it.
     *
     * @param alone the start from it with the original out; empty where it belongs to no board
     */
    public record Rehearsed(Optional<Trace> alone, List<Finding> findings) {}

    private Rehearsed rehearsed(Targets.Target target, Optional<Workbench.BoardAtHand> board, boolean ownIdentity)
            throws IOException {
        if (board.isEmpty()) {
            return new Rehearsed(Optional.empty(), List.of());
        }
        Basis rehearsal = Basis.computed("the rehearsal with its real bytes");
        RehearsedSwap bench = new RehearsedSwap(workbench, benches);
        Optional<RehearsedSwap.Instead> instead = bench.instead(board.get(), target);
        boolean itself = workbench
                .registered(target)
                .filter(medium ->
                        workbench.mainMedium(board.get()).filter(medium::equals).isPresent())
                .isPresent();
        List<Finding> findings = new ArrayList<>();
        if (instead.isEmpty()) {
            findings.add(Finding.caution(
                            "clone-has-no-port",
                            board.get().register().name() + " has no port that takes "
                                    + target.description().id() + ", so whether it starts from it was not rehearsed.",
                            rehearsal)
                    .mendAt(Step.STORAGE));
        } else {
            findings.add(start(instead.get(), itself, rehearsal));
        }
        Optional<Trace> alone = instead.map(RehearsedSwap.Instead::trace);
        // Back on the board's own medium there is no other one that could stay in.
        Optional<Trace> both = itself ? Optional.empty() : bench.beside(board.get(), target);
        if (both.filter(trace -> trace.cause() == Cause.ROOT_AMBIGUOUS).isPresent()
                || (!itself && !ownIdentity && both.isEmpty())) {
            findings.add(Finding.caution(
                            "clone-is-twin",
                            "It has the original's identifiers: with both in, which one runs is chance. Take the original"
                                    + " out, or give this one an identity of its own.",
                            rehearsal)
                    .mendAt(Step.COPIES));
        }
        return new Rehearsed(alone, Finding.worstFirst(findings));
    }

    private static Finding start(RehearsedSwap.Instead instead, boolean itself, Basis rehearsal) {
        Trace trace = instead.trace();
        String where = itself
                ? "Back in its board it "
                : "With the original out and this one on " + instead.port().id() + " it ";
        String order = instead.order()
                .map(value -> " It starts from " + instead.port().id() + " with the order " + value
                        + ": stage that, and restart.")
                .orElse("");
        return trace.runs()
                ? Finding.note(
                        "clone-starts",
                        where + "starts from " + trace.startedFrom().orElse("nowhere") + " in " + trace.seconds()
                                + " s." + order,
                        rehearsal)
                : Finding.caution(
                                "clone-does-not-start",
                                where + "does not start (" + trace.outcome().code() + "): "
                                        + trace.cause().shortText() + "." + order,
                                rehearsal)
                        .mendAt(order.isEmpty() ? Step.REHEARSAL : Step.ORDER);
    }
}
