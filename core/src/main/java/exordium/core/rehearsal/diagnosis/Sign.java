// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.diagnosis;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.quantity.Coded;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.SeenDrive;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.contents.Cause;
import exordium.core.rehearsal.contents.MediumContents;
import java.nio.charset.StandardCharsets;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What can be seen of a start without tools, each with the few values it is told by; common practice, no source. */
public enum Sign implements Coded {
    SCREEN(
            "What does the screen show in the end?",
            "nothing",
            "nothing at all",
            "start-screen",
            "the firmware's own page or text, and no system",
            "green",
            "all green",
            "kernel-stops",
            "kernel text that ends with \"not syncing\"",
            "kernel-waits",
            "kernel text that ends with \"Waiting for root device\"",
            "emergency",
            "\"emergency mode\", or a shell of the initramfs",
            "login",
            "a login, or the desktop"),
    LIGHT(
            "What does the light on the board do in the end?",
            "still",
            "on or off, and never blinks",
            "flickers",
            "goes off and on, or dims",
            "pattern",
            "the same few blinks, over and over",
            "again",
            "busy for a moment, again and again",
            "steady-blink",
            "quick and steady blinking",
            "busy-then-still",
            "busy at first, then still",
            "busy",
            "busy for a minute, then now and then"),
    PLUGGED("Is everything plugged in as it is put down here?"),
    SAYS(
            "What does the firmware's page say of the drive it should start from?",
            "not-seen",
            "that it does not see it, or nothing of it",
            "no-table",
            "that it has no partitions, or cannot be read",
            "no-files",
            "that a start file is not found",
            "other-board",
            "that no kernel or device tree fits"),
    PANIC(
            "What do the lines above \"not syncing\" say?",
            "names-root",
            "that a root with a name cannot be opened",
            "no-root",
            "that a root with no name, \"\" or (null), cannot be opened",
            "not-mounted",
            "that it cannot be mounted, or no working init was found"),
    NETWORK("Does it answer to a remote login?", "answers", "yes", "silent", "no"),
    LOGIN(
            "What does the login's client say?",
            "answers",
            "it asks for a password or lets in",
            "refused",
            "that the connection is refused",
            "denied",
            "that permission is denied",
            "silent",
            "that it timed out, or finds no way or no such name"),
    OFTEN("Is it so at every start?", "always", "yes", "sometimes", "only now and then"),
    STARTED("Which medium's light flickers at the start, or which was it started from?"),
    ROOT("Which device holds / (findmnt / says it)?"),
    SERVER(
            "What does the server's log show of it?",
            "silent",
            "nothing of this board",
            "asks",
            "it asks for an address and gets none",
            "no-directory",
            "it asks for files in a directory that is not there",
            "no-file",
            "a file it asks for is not found",
            "no-export",
            "its files were sent, and its root was refused",
            "served",
            "files and root were served");

    private final String question;
    /** Values that are the same for all boards, with what they look like; none where they are the board's ports. */
    private final Map<String, String> words = new LinkedHashMap<>();

    Sign(String question, String... values) {
        this.question = question;
        for (int i = 0; i < values.length; i += 2) {
            words.put(values[i], values[i + 1]);
        }
    }

    /** Whether people are asked for it; one that is told by a text alone is not. */
    boolean isAskedFor() {
        return this != LOGIN && this != OFTEN;
    }

    public String question() {
        return question;
    }

    /** What a value looks like; a port by its name on the board. */
    public String words(String value, BoardProfile profile) {
        return !words.isEmpty()
                ? words.getOrDefault(value, value)
                : profile.port(value)
                        .map(port -> port.title()
                                + (this == ROOT ? " (/dev/" + port.device().replace("*", "…") + ")" : ""))
                        .orElse(value.equals("all") ? "yes, all of it" : value);
    }

    /** The values a user can tell, for signs that are the same for all boards. */
    public List<String> told() {
        return List.copyOf(words.keySet());
    }

    /** What a start that goes this way looks like. */
    static Map<Sign, String> of(Trace trace, Bench bench) {
        Map<Sign, String> signs = new EnumMap<>(Sign.class);
        signs.put(SCREEN, screen(trace, bench));
        signs.put(LIGHT, light(trace, bench));
        if (signs.get(SCREEN).equals("start-screen")) {
            says(trace.cause()).ifPresent(value -> signs.put(SAYS, value));
        }
        if (signs.get(SCREEN).equals("kernel-stops")) {
            signs.put(
                    PANIC,
                    trace.cause() == Cause.ROOT_NOT_FOUND
                            ? "names-root"
                            : trace.cause() == Cause.KERNEL_LINE_BROKEN ? "no-root" : "not-mounted");
        }
        signs.put(NETWORK, trace.reachable() ? "answers" : "silent");
        signs.put(LOGIN, trace.login().code());
        signs.put(STARTED, trace.startedFrom().orElse("none"));
        signs.put(ROOT, trace.rootFrom().orElse("none"));
        server(trace, bench).ifPresent(value -> signs.put(SERVER, value));
        return signs;
    }

    private static String screen(Trace trace, Bench bench) {
        if (trace.runs()) {
            return "login";
        }
        return switch (trace.cause()) {
            case SUPPLY_TOO_WEAK -> trace.startedFrom().isPresent() ? "start-screen" : nothingStarted(trace, bench);
            case FIRMWARE_MISSING -> "nothing";
            case RECOVERY_WRITTEN -> "green";
            case KERNEL_LINE_BROKEN, ROOT_UNREADABLE -> "kernel-stops";
            case ROOT_NOT_FOUND -> waits(trace, bench) ? "kernel-waits" : "kernel-stops";
            case NETWORK_NO_EXPORT -> "kernel-waits";
            case FSTAB_MISSING_DEVICE -> "emergency";
            default -> nothingStarted(trace, bench);
        };
    }

    /** A firmware in a chip or a boot menu of its own has something to show; one that comes with the medium has not. */
    private static String nothingStarted(Trace trace, Bench bench) {
        boolean noPower = trace.steps().stream()
                .anyMatch(step -> step.stage() == Trace.Stage.POWER && step.result() == Trace.Result.FAILS);
        boolean ownPage = bench.profile().firmware().inChip()
                || bench.profile().order().fuse().isEmpty();
        return noPower || !ownPage ? "nothing" : "start-screen";
    }

    private static boolean waits(Trace trace, Bench bench) {
        return trace.startedFrom()
                .flatMap(port -> bench.attached().stream()
                        .filter(each -> each.port().equals(port))
                        .findFirst())
                .flatMap(each -> each.contents().start())
                .flatMap(MediumContents.StartPartition::kernelLine)
                .filter(line -> new String(line, StandardCharsets.ISO_8859_1).contains("rootwait"))
                .isPresent();
    }

    private static Optional<String> says(Cause cause) {
        return switch (cause) {
            case NO_PARTITION_TABLE -> Optional.of("no-table");
            case NO_START_PARTITION, NO_START_FILES, SETTINGS_BROKEN -> Optional.of("no-files");
            case KERNEL_FOR_OTHER_BOARD -> Optional.of("other-board");
            case DRIVE_NOT_SEEN, DRIVE_WRONG_KIND, PCIE_OFF, NO_SOURCE_LEFT, STOPPED_BY_ORDER, FIRMWARE_TOO_OLD ->
                Optional.of("not-seen");
            default -> Optional.empty();
        };
    }

    private static String light(Trace trace, Bench bench) {
        if (trace.runs()) {
            return "busy";
        }
        if (trace.cause() == Cause.SUPPLY_TOO_WEAK && trace.startedFrom().isEmpty()) {
            return "flickers";
        }
        if (trace.cause() == Cause.FIRMWARE_MISSING) {
            return "still";
        }
        if (trace.cause() == Cause.RECOVERY_WRITTEN) {
            return "steady-blink";
        }
        if (trace.outcome() == Trace.Outcome.LOOPING) {
            return "again";
        }
        if (trace.startedFrom().isPresent()) {
            return "busy-then-still";
        }
        return bench.profile().firmware().inChip() ? "pattern" : "still";
    }

    private static Optional<String> server(Trace trace, Bench bench) {
        boolean asked = trace.steps().stream()
                .anyMatch(step -> step.port().filter("network"::equals).isPresent());
        boolean planned = bench.network().tftpRoot().isPresent();
        if (!asked || !planned) {
            return Optional.empty();
        }
        return Optional.of(
                switch (trace.cause()) {
                    case NETWORK_NO_LINK -> "silent";
                    case NETWORK_NO_LEASE -> "asks";
                    case NETWORK_NO_DIRECTORY -> "no-directory";
                    case NETWORK_NO_FILES, NO_START_FILES, KERNEL_FOR_OTHER_BOARD -> "no-file";
                    case NETWORK_NO_EXPORT -> "no-export";
                    default -> trace.startedFrom().filter("network"::equals).isPresent() ? "served" : "silent";
                });
    }

    /** Which port a device of the kernel is on; drives on USB by the order they are found in. */
    public static Optional<String> portOf(String device, Bench bench) {
        String name = device.strip().replaceFirst("^/dev/", "");
        if (name.contains(":") || name.equals("nfs")) {
            return Optional.of("network");
        }
        for (SeenDrive drive : SeenDrive.of(bench)) {
            if (name.equals(drive.device()) || name.matches(drive.device() + "p?\\d+")) {
                return Optional.of(drive.medium().port());
            }
        }
        return bench.profile().ports().stream()
                .filter(port -> port.source().holdsMedium() && port.source() != StartSource.USB)
                .filter(port -> name.startsWith(port.device()))
                .map(BoardProfile.Port::id)
                .findFirst();
    }
}
