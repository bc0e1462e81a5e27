// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.diagnosis;

import exordium.core.finding.Step;
import exordium.core.quantity.Coded;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import java.util.Map;
import java.util.Optional;

/**
 * One thing that may be wrong with a board, and what its start looks like then.
 *
 * @param port of the medium it concerns; empty where it concerns the board
 * @param name of that medium
 */
public record Suspect(SuspectKind kind, Optional<String> port, String name, Trace trace, Map<Sign, String> signs) {
    /** What can be wrong, with how often it is, one against the other; common practice, no source. */
    public enum SuspectKind implements Coded {
        NOTHING(
                3,
                "Nothing is wrong",
                "It should start as rehearsed: look again, or switch it on once more.",
                Step.REHEARSAL),
        WEAK_SUPPLY(3, "The supply is too weak", "Use the supply it is made for, and a short cable.", Step.STORAGE),
        CHIP_DEAD(1, "Its firmware is damaged", "Write it anew with a recovery card.", Step.FIRMWARE),
        RECOVERY_CARD(1, "A recovery card is still in the slot", "Take it out and switch on again.", Step.FIRMWARE),
        OTHER_ORDER(
                3,
                "It holds the usual order, not the one set here",
                "Set the order again and restart it; do not switch it off.",
                Step.ORDER),
        OLD_FIRMWARE(
                2,
                "Its firmware is older than thought",
                "Read the date off its screen; update it and restart.",
                Step.FIRMWARE),
        PORT_OFF(
                2,
                "The port of the drive is switched off, or its carrier is not looked for",
                "Set it in the firmware's settings and restart.",
                Step.ORDER),
        FUSE(
                2,
                "The bit for starting from USB is not set",
                "Put a card in, or set the bit; that can never be undone.",
                Step.ORDER),
        OUT(2, "is not plugged in", "Plug it in, with the power off.", Step.STORAGE),
        LOOSE(
                4,
                "makes no contact",
                "Power off; see that it sits square, cable and drive, the right way round.",
                Step.STORAGE),
        WRONG_KIND(
                1,
                "is of a kind that does not work there",
                "Use a drive of the right kind, or another carrier.",
                Step.STORAGE),
        BLANK(2, "has no table: written over, or never written", "Write an image to it.", Step.IMAGE),
        NO_START_FILES(2, "has lost its start files", "Write the image to it again.", Step.IMAGE),
        OTHER_BOARD(2, "holds a system for another board", "Write an image made for this board.", Step.IMAGE),
        SETTINGS(
                1,
                "has a settings file that was spoiled",
                "Open it, and save it as plain text in UTF-8.",
                Step.FIRST_START),
        KERNEL_LINE(
                3,
                "has a kernel line that is broken",
                "Put everything on one line again, with root= in it.",
                Step.FIRST_START),
        ROOT_MOVED(
                4,
                "has a kernel line that names a root which is not there",
                "Name the root by the identifier of its partition.",
                Step.FIRST_START),
        ROOT_BROKEN(
                3,
                "has a damaged root",
                "Check its file system at the PC; else write it again from a copy.",
                Step.COPIES),
        TWIN(
                2,
                "has a twin with the same identifiers",
                "Take one of them out, or give it identifiers of its own.",
                Step.STORAGE),
        FSTAB(3, "mounts something that is gone", "Take that line out of fstab, or add nofail.", Step.FIRST_START),
        LOGIN_OFF(
                3, "runs, with remote login off", "Put the empty file ssh into its small partition.", Step.FIRST_START),
        NO_ACCOUNT(2, "runs, with no account to log in with", "Set one up for its first start.", Step.FIRST_START),
        CABLE(3, "The network cable is out, or dead", "Try another cable and another socket.", Step.ORDER),
        NO_LEASE(2, "Nobody gives it an address", "Start the server or router that does, first.", Step.ORDER),
        NO_DIRECTORY(
                3,
                "The server has no directory for its serial",
                "Name it by the serial without leading zeros.",
                Step.ORDER),
        NO_FILES(2, "The server does not have its start files", "Put them into the board's directory.", Step.ORDER),
        NO_EXPORT(
                2,
                "The server does not hand out its root",
                "Add it to the exports, and have the server read them again.",
                Step.ORDER);

        private final int weight;
        private final String words;
        private final String mend;
        private final Step step;

        SuspectKind(int weight, String words, String mend, Step step) {
            this.weight = weight;
            this.words = words;
            this.mend = mend;
            this.step = step;
        }

        /** What comes and goes by itself: power, plugs, and which of two copies is found first. Common practice, no source. */
        boolean nowAndThen() {
            return this == WEAK_SUPPLY || this == LOOSE || this == TWIN;
        }

        int weight() {
            return weight;
        }

        public Step step() {
            return step;
        }
    }

    static Suspect of(SuspectKind kind, Bench.Attached medium, Bench bench) {
        Trace trace = Rehearsal.of(bench);
        Map<Sign, String> signs = Sign.of(trace, bench);
        signs.put(Sign.OFTEN, kind.nowAndThen() ? "sometimes" : "always");
        signs.put(Sign.PLUGGED, kind == SuspectKind.OUT ? medium.port() : "all");
        return new Suspect(
                kind,
                medium == null ? Optional.empty() : Optional.of(medium.port()),
                medium == null ? "" : medium.name(),
                trace,
                signs);
    }

    /** In one sentence. */
    public String text() {
        return (name.isEmpty() ? "" : name + " on " + port.orElse("") + " ") + kind.words + ".";
    }

    public String mend() {
        return kind.mend;
    }
}
