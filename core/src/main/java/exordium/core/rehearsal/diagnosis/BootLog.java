// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.diagnosis;

import exordium.core.finding.UnreadableInput;
import exordium.core.reading.Pasted;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.contents.Cause;
import java.nio.charset.StandardCharsets;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What a pasted boot log, or the output of a few commands, says of a start. The lines are those of Linux 6.1, systemd 252, U-Boot 2023.01,
 * EDK2 and dnsmasq as they say them here (tests hold the kernel, U-Boot and EDK2 against the real ones), findmnt's and mount's own forms.
 */
public final class BootLog {
    private static final int MOST = 1 << 20;

    /** One line to look for: the cause it names, and what it shows of the screen. */
    private record Line(Pattern pattern, Optional<Cause> cause, Optional<String> screen) {
        Line(String pattern, Cause cause, String screen) {
            this(
                    Pattern.compile(pattern, Pattern.CASE_INSENSITIVE),
                    Optional.ofNullable(cause),
                    Optional.ofNullable(screen));
        }
    }

    private static final List<Line> LINES = List.of(
            new Line(
                    "VFS: Cannot open root device \"(?!\\(null\\)|\")[^\"]+\".*error -6",
                    Cause.ROOT_NOT_FOUND,
                    "kernel-stops"),
            new Line("VFS: Cannot open root device \"(\\(null\\))?\"", Cause.KERNEL_LINE_BROKEN, "kernel-stops"),
            new Line("VFS: Cannot open root device.*error -(19|22|5|117)", Cause.ROOT_UNREADABLE, "kernel-stops"),
            new Line("Waiting for root device", Cause.ROOT_NOT_FOUND, "kernel-waits"),
            new Line(
                    "Gave up waiting for (root|suspend).*device|ALERT!\\s+\\S+ does not exist",
                    Cause.ROOT_NOT_FOUND,
                    "emergency"),
            new Line("Unable to mount root fs on unknown-block\\((?!0,0\\))", Cause.ROOT_UNREADABLE, "kernel-stops"),
            new Line("Unable to mount root fs on (unknown-block\\(0,0\\)|\"\")", null, "kernel-stops"),
            new Line(
                    "EXT4-fs.*(unable to read|bad|invalid|corrupt|error).*|No working init found|Requested init .* failed|Failed to execute /init",
                    Cause.ROOT_UNREADABLE,
                    "kernel-stops"),
            new Line(
                    "Timed out waiting for device|Dependency failed for (Local File Systems|/)",
                    Cause.FSTAB_MISSING_DEVICE,
                    "emergency"),
            new Line("You are in emergency mode", Cause.FSTAB_MISSING_DEVICE, "emergency"),
            new Line("Under-?voltage|supply.*(too low|weak)", Cause.SUPPLY_TOO_WEAK, null),
            new Line(
                    "\\*\\* File not found .*(image|kernel)|Skipping \\S+ for failure retrieving|Retrieving file: .*\\R.*File not found",
                    Cause.NO_START_FILES,
                    "start-screen"),
            new Line("No partition table|Couldn't find partition", Cause.NO_PARTITION_TABLE, "start-screen"),
            new Line("BdsDxe: failed to load Boot.*Not Found", Cause.NO_START_FILES, "start-screen"),
            new Line("PXE-E18|BOOTP broadcast 1[0-7]|Retry time exceeded", Cause.NETWORK_NO_LEASE, "start-screen"),
            new Line("PXE-E16|DHCPDISCOVER.*no address available", Cause.NETWORK_NO_LEASE, "start-screen"),
            new Line("file \\S+ not found for \\S+|TFTP error: .*not found", Cause.NETWORK_NO_FILES, "start-screen"),
            new Line(
                    "mount\\.nfs: access denied|MNT3ERR_ACCES|Root-NFS: .*(denied|not permitted)|refused mount request",
                    Cause.NETWORK_NO_EXPORT,
                    "kernel-waits"),
            new Line("(?m)^\\S* ?login:|Reached target .*(Multi-User|Graphical)", null, "login"));

    /** findmnt: "/  /dev/mmcblk0p2 ext4 rw"; mount: "/dev/mmcblk0p2 on / type ext4". */
    private static final List<Pattern> ROOTS = List.of(
            Pattern.compile("(?m)^/\\s+(\\S+)\\s+\\w+"),
            Pattern.compile("(?m)^(\\S+) on / type "),
            Pattern.compile("(?m)^(/dev/\\S+)\\s.*\\s/\\s*$"));

    private BootLog() {}

    /** What a login's client, or a remote screen's, said (ssh(1)); one that meets another key was answered. */
    private static Optional<String> login(String text) {
        try {
            return Pasted.of(text.getBytes(StandardCharsets.UTF_8))
                    .only("loginFault")
                    .map(fault -> switch (fault) {
                        case "refused", "denied" -> fault;
                        case "key-changed" -> "answers";
                        default -> "silent";
                    });
        } catch (UnreadableInput e) {
            return Optional.empty();
        }
    }

    /** What it says; of a very long one its end counts. */
    public static Diagnosis.Seen read(String text, Bench bench) {
        String end = text.length() > MOST ? text.substring(text.length() - MOST) : text;
        Map<Sign, String> signs = new EnumMap<>(Sign.class);
        login(end).ifPresent(met -> signs.put(Sign.LOGIN, met));
        Set<Cause> named = EnumSet.noneOf(Cause.class);
        int last = -1;
        for (Line line : LINES) {
            Matcher found = line.pattern().matcher(end);
            int at = -1;
            while (found.find()) {
                at = found.start();
            }
            if (at >= 0) {
                line.cause().ifPresent(named::add);
                // What is said last is what the screen shows.
                if (line.screen().isPresent() && at > last) {
                    last = at;
                    signs.put(Sign.SCREEN, line.screen().get());
                }
            }
        }
        for (Pattern pattern : ROOTS) {
            Matcher found = pattern.matcher(end);
            if (found.find()) {
                Sign.portOf(found.group(1), bench).ifPresent(port -> signs.putIfAbsent(Sign.ROOT, port));
            }
        }
        if ("login".equals(signs.get(Sign.SCREEN))) {
            // It came up all the same: what was said on the way did not stop it.
            named.clear();
        }
        return new Diagnosis.Seen(signs, named);
    }
}
