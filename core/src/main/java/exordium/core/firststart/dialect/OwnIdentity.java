// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import exordium.core.filesystem.FileBody;
import java.util.List;

/**
 * What no two boards may share goes, and the first start makes its own: host keys of the remote login (sshd(8)), the machine's
 * identity (machine-id(5): an empty file is filled at the start), what random numbers begin with.
 */
final class OwnIdentity {
    private static final List<String> GONE = List.of("/var/lib/dbus/machine-id", "/var/lib/systemd/random-seed");
    private static final String MACHINE = "/etc/machine-id";
    private static final String KEYS = "/etc/ssh/ssh_host_";
    private static final List<String> UNITS =
            List.of("/usr/lib/systemd/system/", "/lib/systemd/system/", "/etc/systemd/system/");

    private OwnIdentity() {}

    static void put(Draft draft) {
        if (!draft.root("host keys and machine identity of its own")) {
            return;
        }
        List<String> keys =
                draft.in("/etc/ssh/").filter(path -> path.startsWith(KEYS)).toList();
        keys.forEach(draft::remove);
        GONE.forEach(draft::remove);
        if (draft.has(MACHINE)
                && draft.body(MACHINE).filter(body -> !body.link()).isPresent()) {
            draft.put(MACHINE, FileBody.of(""));
        }
        boolean server = draft.has("/usr/sbin/sshd") || !keys.isEmpty();
        if (server && !makesKeys(draft)) {
            // systemd.unit(5): a file beside the unit; an empty assignment takes back what stood before. ssh-keygen(1):
            // -A makes
            // every kind that is missing.
            String unit = UNITS.stream().anyMatch(folder -> draft.has(folder + "sshd.service")) ? "sshd" : "ssh";
            draft.put(
                    "/etc/systemd/system/" + unit + ".service.d/50-host-keys.conf",
                    "[Service]\nExecStartPre=\nExecStartPre=/usr/bin/ssh-keygen -A\nExecStartPre=/usr/sbin/sshd -t\n");
        }
        if (!keys.isEmpty()) {
            draft.note(
                    "host-keys-new",
                    "The first start makes host keys of its own: whoever knew the old ones has to forget them"
                            + " (ssh-keygen -R with the board's name).");
        }
    }

    /** Whether the system itself makes what is missing: a service that does is in it. */
    private static boolean makesKeys(Draft draft) {
        return UNITS.stream()
                .flatMap(draft::in)
                .anyMatch(path -> path.matches(".*/(sshd?-?keygen[a-z@-]*|.*host-keys)\\.(service|target)"));
    }
}
