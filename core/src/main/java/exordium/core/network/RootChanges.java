// SPDX-License-Identifier: Apache-2.0
package exordium.core.network;

import exordium.core.filesystem.FileBody;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.firststart.dialect.MediumFiles;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What a root needs to be one on a server: nothing local is mounted, and what boards of a shared one may not share is elsewhere. */
final class RootChanges {
    private static final String FSTAB = "etc/fstab";
    private static final String LOCAL = "/dev/(?!nfs).*|(UUID|LABEL|PARTUUID|PARTLABEL)=.*";
    private static final List<String> IN_MEMORY = List.of("/tmp", "/var/tmp", "/var/log", "/var/lib/systemd");

    private RootChanges() {}

    /** Where startFolder: below the server's folder of start files, where the system may put kernels; empty where it has none. */
    static void put(
            Map<String, Optional<FileBody>> root,
            NetworkPlan.Server server,
            NetworkPlan.Client client,
            MediumFiles files,
            List<Finding> findings,
            String startFolder) {
        fstab(root, server, client, files, findings, startFolder);
        if (!client.rootKind().shared()) {
            return;
        }
        for (String each : List.of("etc/hostname", "var/lib/dbus/machine-id", "var/lib/systemd/random-seed")) {
            if (files.has("/" + each)) {
                root.put(each, Optional.empty());
            }
        }
        if (files.has("/etc/machine-id")) {
            root.put("etc/machine-id", Optional.of(FileBody.of("")));
        }
        keys(root, client, files);
        if (client.rootKind() == NetworkPlan.Root.MEMORY) {
            findings.add(Finding.note(
                    "written-in-memory",
                    "What " + client.id()
                            + " writes is in memory and gone at its next start, logs too; give it 2 GB or more.",
                    Basis.practice()));
        }
    }

    private static void fstab(
            Map<String, Optional<FileBody>> root,
            NetworkPlan.Server server,
            NetworkPlan.Client client,
            MediumFiles files,
            List<Finding> findings,
            String startFolder) {
        // A first start may have changed it already.
        String text = root.getOrDefault(FSTAB, files.body("/" + FSTAB))
                .map(FileBody::text)
                .orElse("");
        List<String> lines = new ArrayList<>();
        int off = 0;
        Optional<String> startAt = Optional.empty();
        for (String line : text.lines().toList()) {
            String[] fields = line.strip().split("\\s+");
            if (!line.isBlank() && !fields[0].startsWith("#") && fields[0].matches(LOCAL)) {
                lines.add("# on its medium: " + line.strip());
                off++;
                boolean start =
                        fields.length > 2 && fields[1].startsWith("/boot") && fields[2].matches("vfat|msdos|auto");
                startAt = start ? Optional.of(fields[1]) : startAt;
            } else {
                lines.add(line);
            }
        }
        if (startAt.isPresent() && !startFolder.isEmpty() && !client.rootKind().shared()) {
            lines.add(server.address() + ":" + server.at("tftp/" + startFolder) + " " + startAt.get()
                    + " nfs defaults,vers=3,proto=tcp,nolock,nofail 0 0");
        }
        if (client.rootKind() == NetworkPlan.Root.MEMORY) {
            IN_MEMORY.forEach(place -> lines.add("tmpfs " + place + " tmpfs defaults,nosuid,nodev 0 0"));
        } else if (client.rootKind() == NetworkPlan.Root.STATE) {
            lines.add("tmpfs /tmp tmpfs defaults,nosuid,nodev 0 0");
            ownState(root, server);
        }
        root.put(FSTAB, Optional.of(FileBody.of(String.join("\n", lines) + "\n")));
        if (off > 0) {
            findings.add(ClientFiles.noLocalMounts(off));
        }
    }

    /** One fstab serves all boards of a shared root: each finds its own part by its name (systemd.unit(5), %H; systemd.mount(5)). */
    private static void ownState(Map<String, Optional<FileBody>> root, NetworkPlan.Server server) {
        root.put(
                "etc/systemd/system/var.mount",
                Optional.of(FileBody.of("[Unit]\nBefore=local-fs.target\n\n[Mount]\nWhat=" + server.address() + ":"
                        + server.at("state") + "/%H\nWhere=/var\nType=nfs\nOptions=vers=3,proto=tcp,nolock\n")));
        root.put(
                "etc/systemd/system/local-fs.target.requires/var.mount",
                Optional.of(FileBody.linkTo("/etc/systemd/system/var.mount")));
    }

    /** sshd_config(5), HostKey; systemd.unit(5): a file beside the unit. Keys of the image go: all boards would have the same. */
    private static void keys(Map<String, Optional<FileBody>> root, NetworkPlan.Client client, MediumFiles files) {
        files.in("/etc/ssh/")
                .filter(path -> path.startsWith("/etc/ssh/ssh_host_"))
                .forEach(path -> root.put(path.substring(1), Optional.empty()));
        if (!files.has("/usr/sbin/sshd")) {
            return;
        }
        String place = client.rootKind() == NetworkPlan.Root.STATE ? "/var/lib/host-key" : "/run/host-key";
        root.put("etc/ssh/sshd_config.d/50-host-key.conf", Optional.of(FileBody.of("HostKey " + place + "\n")));
        String unit = files.has("/usr/lib/systemd/system/sshd.service") ? "sshd" : "ssh";
        root.put(
                "etc/systemd/system/" + unit + ".service.d/50-host-key.conf",
                Optional.of(FileBody.of("[Service]\nExecStartPre=\nExecStartPre=/bin/sh -c 'test -s " + place
                        + " || ssh-keygen -q -t ed25519 -N \"\" -f " + place + "'\n")));
    }
}
