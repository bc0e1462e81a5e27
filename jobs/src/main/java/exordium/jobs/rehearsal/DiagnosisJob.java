// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal;

import exordium.core.finding.BadArgument;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.profile.InputFile;
import exordium.core.reading.Pasted;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.diagnosis.BootLog;
import exordium.core.rehearsal.diagnosis.Diagnosis;
import exordium.core.rehearsal.diagnosis.Sign;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.BoardDeed;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;

/** What was seen at a board taken in as people tell it, and what is thought of it put down in the logbook. */
public final class DiagnosisJob {
    private static final long LARGEST_LOG = 64L << 20;

    private DiagnosisJob() {}

    /**
     * One thing seen, as {@code screen=kernel-waits}, {@code root=/dev/mmcblk0p2} or {@code started=card}.
     *
     * @throws UnreadableInput when there is no such sign, or it never has that value
     */
    public static Diagnosis.Seen told(Diagnosis.Seen seen, String words, Bench bench) throws UnreadableInput {
        int equals = words.indexOf('=');
        String name = equals < 0 ? words : words.substring(0, equals);
        Sign sign = Arrays.stream(Sign.values())
                .filter(each -> each.code().equals(name.strip().toLowerCase(Locale.ROOT)))
                .findFirst()
                .orElseThrow(() -> new BadArgument(
                        "\"" + name + "\" is nothing that is asked for; there are "
                                + Arrays.stream(Sign.values()).map(Sign::code).collect(Collectors.joining(", ")) + ".",
                        name));
        String value = equals < 0 ? "" : words.substring(equals + 1).strip();
        if (sign == Sign.ROOT && value.contains("/")) {
            String device = value;
            value = Sign.portOf(device, bench)
                    .orElseThrow(() -> new BadArgument(
                            "No port of a " + bench.profile().id() + " has a drive called " + device + ".", device));
        }
        List<String> known = known(sign, bench);
        if (!known.contains(value)) {
            throw new BadArgument(
                    "\"" + value + "\" is nothing that " + sign.code() + " can be; there are "
                            + String.join(", ", known) + ".",
                    value);
        }
        return seen.with(sign, value);
    }

    private static List<String> known(Sign sign, Bench bench) {
        if (!sign.told().isEmpty()) {
            return sign.told();
        }
        List<String> ports =
                bench.profile().ports().stream().map(port -> port.id()).collect(Collectors.toList());
        ports.add(sign == Sign.PLUGGED ? "all" : "none");
        return ports;
    }

    /** @throws UnreadableInput when there is no such file, or it is too large for a log */
    public static Diagnosis.Seen log(Path file, Bench bench) throws IOException {
        return BootLog.read(new String(InputFile.read(file, LARGEST_LOG), StandardCharsets.ISO_8859_1), bench);
    }

    /**
     * What a client that meets another key than before is to be told: most often the board's medium was written anew since.
     *
     * @param logs what was pasted
     */
    public static Optional<Finding> keyChanged(Workbench workbench, Workbench.BoardAtHand at, List<Path> logs)
            throws IOException {
        boolean changed = false;
        for (Path log : logs) {
            changed |= Pasted.of(InputFile.read(log, LARGEST_LOG))
                    .only("loginFault")
                    .filter("key-changed"::equals)
                    .isPresent();
        }
        if (!changed) {
            return Optional.empty();
        }
        Optional<String> written = workbench
                .mainMedium(at)
                .map(medium -> workbench.workspace().operations().lastWrites().get(medium.id()))
                .map(row -> LocalDate.ofInstant(row.started(), workbench.zone()).toString());
        return Optional.of(Finding.note(
                "host-key-changed",
                "Something answers there with another key than before. "
                        + written.map(day -> "This board's medium was written anew on " + day
                                        + ", which makes a new key: compare its fingerprint at the board, then take the old one out of the"
                                        + " PC's list (ssh-keygen -R with the address).")
                                .orElse(
                                        "Nothing here wrote its medium anew: look at the board itself whether it is this board that answers,"
                                                + " before anything is typed into it."),
                Basis.standard("ssh(1), ssh-keygen(1)")));
    }

    /** Puts down what was seen and what is thought of it. */
    public static void putDown(
            Workbench workbench, Workbench.BoardAtHand at, Diagnosis diagnosis, Diagnosis.Seen seen) {
        String what = seen.signs().entrySet().stream()
                .sorted(java.util.Map.Entry.comparingByKey())
                .map(each -> each.getKey().code() + " " + each.getKey().words(each.getValue(), at.profile()))
                .collect(Collectors.joining("; "));
        String log = seen.named().isEmpty()
                ? ""
                : (what.isEmpty() ? "" : "; ") + "a log that names "
                        + seen.named().stream().map(cause -> cause.code()).collect(Collectors.joining(", "));
        Diagnosis.Ranked first = diagnosis.ranked().get(0);
        new BoardDeed(workbench, at)
                .log(
                        Step.REHEARSAL,
                        "diagnosed",
                        "Seen: " + what + log + ". Likeliest, " + Math.round(first.share() * 100) + " of 100: "
                                + first.suspect().text());
    }
}
