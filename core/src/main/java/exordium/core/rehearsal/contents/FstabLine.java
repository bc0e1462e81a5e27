// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.contents;

import java.util.List;
import java.util.Optional;
import java.util.Set;

/** One line of fstab(5). */
public record FstabLine(String device, String place, String type, List<String> options) {
    private static final Set<String> NETWORK_TYPES =
            Set.of("nfs", "nfs4", "cifs", "smb3", "smbfs", "9p", "ceph", "glusterfs", "sshfs", "fuse.sshfs", "davfs");

    public static List<FstabLine> in(String fstab) {
        return fstab.lines().map(FstabLine::of).flatMap(Optional::stream).toList();
    }

    private static Optional<FstabLine> of(String raw) {
        String[] fields = raw.strip().split("\\s+");
        if (raw.isBlank() || raw.strip().startsWith("#") || fields.length < 2) {
            return Optional.empty();
        }
        return Optional.of(new FstabLine(
                fields[0],
                fields[1],
                fields.length > 2 ? fields[2] : "auto",
                fields.length > 3 ? List.of(fields[3].split(",")) : List.of("defaults")));
    }

    public boolean isSwap() {
        return type.equals("swap") || place.equals("none") || place.equals("swap");
    }

    public boolean onNetwork() {
        return NETWORK_TYPES.contains(type) || options.contains("_netdev");
    }

    /** Whether the line names a drive; mapped volumes, loops and links by path are not looked for. */
    public boolean namesDrive() {
        boolean known = device.matches("(?i)(PARTUUID|PARTLABEL|UUID|LABEL)=.+")
                || device.matches("/dev/(sd|mmcblk|nvme|vd|hd).*")
                || device.matches("/dev/disk/by-(partuuid|partlabel|uuid|label)/.+");
        return known && !options.contains("bind");
    }

    public boolean waits() {
        return !options.contains("noauto") && !options.contains("nofail") && !options.contains("x-systemd.automount");
    }
}
