// SPDX-License-Identifier: Apache-2.0
package exordium.core.network;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.filesystem.FileBody;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Subject;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.dialect.FileEdit;
import exordium.core.firststart.dialect.FirstStartFiles;
import exordium.core.firststart.dialect.FirstStartPlan;
import exordium.core.firststart.dialect.MediumFiles;
import exordium.core.firststart.intents.Intents;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.firststart.kernelline.FirstProgram;
import exordium.core.firststart.kernelline.KernelLine;
import exordium.core.firststart.kernelline.StartMenu;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.apache.commons.codec.digest.DigestUtils;

/**
 * What of an image becomes other files for one board that starts over the network.
 *
 * @param folder below the server's folder of start files, where the image's start files go
 * @param start files put beside or over them, by their paths from the top of the server's folder; empty for one that is left out
 * @param root changes of the root by paths without a slash in front; empty for what goes
 * @param kernelLine the line its kernel gets
 */
public record ClientFiles(
        String folder,
        Map<String, Optional<FileBody>> start,
        Map<String, Optional<FileBody>> root,
        String kernelLine,
        List<Finding> findings) {
    private static final Basis NFSROOT = Basis.standard("Linux kernel documentation, nfsroot");
    /** Words that speak of a root on a medium. */
    private static final Set<String> LOCAL = Set.of(
            "root",
            "rootfstype",
            "rootflags",
            "rootdelay",
            "nfsroot",
            "ip",
            "resume",
            "systemd.machine_id",
            "systemd.hostname",
            "fsck.repair");

    private static final Set<String> LOCAL_WORDS = Set.of("rootwait", "ro", "rw", "resize", "rootwait\r");

    /** @throws UnreadableInput when the image has no kernel line, or what its first start should do cannot be read */
    public static ClientFiles of(
            NetworkPlan.Server server, NetworkPlan.Client client, BoardProfile profile, FirstStartFiles found)
            throws UnreadableInput {
        boolean own = client.rootKind() == NetworkPlan.Root.OWN;
        FirstStartPlan first = FirstStartPlan.of(intents(client, own), writable(found), profile);
        List<Finding> findings = new ArrayList<>(first.findings());
        findings.removeIf(each -> each.isAbout(Subject.IDENTIFIERS));
        MediumFiles files = first.after(found).files();
        String folder = folder(client, profile);
        Map<String, Optional<FileBody>> start = new TreeMap<>();
        Map<String, Optional<FileBody>> root = new TreeMap<>();
        for (FileEdit edit : first.edits()) {
            if (edit.inRoot()) {
                root.put(edit.file().substring(1), edit.after());
            } else {
                start.put(folder + "/" + edit.file(), edit.after());
            }
        }
        String file = files.written(files.kernelLine());
        String text = files.body(file).map(FileBody::text).orElse("");
        KernelLine line = KernelLine.in(text, profile.startFiles().kernelLineForm())
                .orElseThrow(() -> new UnreadableInput(client.image() + " has no kernel line in " + file + ", where a "
                        + profile.id() + " looks for one."));
        KernelLine networked = networked(line, server, client, profile);
        switch (profile.network().by()) {
            case "menu" -> {
                start.put(menu(client, profile), Optional.of(FileBody.of(menu(text, networked, folder, client))));
                start.put(folder + "/" + file, Optional.empty());
            }
            default ->
                start.put(
                        folder + "/" + file,
                        Optional.of(FileBody.of(
                                networked.putInto(text, profile.startFiles().kernelLineForm()))));
        }
        RootChanges.put(
                root, server, client, files, findings, profile.network().by().equals("serial") ? folder : "");
        return new ClientFiles(folder, start, root, networked.text(), Finding.worstFirst(findings));
    }

    /** Below the server's folder of start files: as firmware asks for it, else by the board's name. */
    public static String folder(NetworkPlan.Client client, BoardProfile profile) {
        return profile.network().by().equals("serial") ? client.plainSerial() : client.id();
    }

    /** U-Boot documentation, pxe: the hardware address with its kind, 01 for Ethernet, in front. */
    static String menu(NetworkPlan.Client client, BoardProfile profile) {
        String names = profile.network().names().isEmpty()
                ? "pxelinux.cfg"
                : profile.network().names().get(0);
        return names + "/01-" + client.plainMac().replace(':', '-');
    }

    /** A root that becomes a tar can be changed whatever the image's file system is like. */
    private static FirstStartFiles writable(FirstStartFiles found) {
        MediumFiles files = found.files();
        return new FirstStartFiles(
                new MediumFiles(files.bodies(), files.names(), files.kernelLine(), Optional.empty()),
                found.rootPartUuid(),
                found.partUuids(),
                found.diskId(),
                found.last());
    }

    private static Intents intents(NetworkPlan.Client client, boolean own) throws UnreadableInput {
        Map<String, Object> wanted = new LinkedHashMap<>(client.intents().orElse(Map.of()));
        // What a shared root has for one board it has for all; that comes by the lease and the kernel line.
        if (own) {
            wanted.put("ownIdentity", true);
            wanted.put("hostName", client.host());
        } else {
            wanted.remove("hostName");
        }
        wanted.remove("grow");
        try {
            return IntentsReader.of(wanted);
        } catch (IllegalArgumentException e) {
            throw new UnreadableInput(
                    "What the first start of " + client.id() + " is to do cannot be read: " + e.getMessage(), e);
        }
    }

    /** Whatever a kernel line has started first on a medium makes that ready; a root on a server has none. */
    private static boolean firstProgram(String word) {
        return FirstProgram.isOnce(word)
                || (word.startsWith("init=")
                        && FirstProgram.in(KernelLine.parse(word)).isPresent());
    }

    private static KernelLine networked(
            KernelLine line, NetworkPlan.Server server, NetworkPlan.Client client, BoardProfile profile) {
        List<String> words = new ArrayList<>();
        for (String word : line.words()) {
            String key = word.split("=", 2)[0];
            if (!LOCAL.contains(key) && !LOCAL_WORDS.contains(word) && !firstProgram(word)) {
                words.add(word.replace("\r", ""));
            }
        }
        String device = profile.ports().stream()
                .filter(port -> port.source() == StartSource.NETWORK)
                .map(BoardProfile.Port::device)
                .findFirst()
                .orElse("eth0");
        words.add("ip=::::" + client.host() + ":" + device + ":dhcp");
        words.add("root=/dev/nfs");
        words.add("nfsroot=" + server.address() + ":" + server.at(rootFolder(client)) + ",vers=3,proto=tcp");
        words.add(client.rootKind().shared() ? "ro" : "rw");
        if (client.rootKind().shared()) {
            words.add("systemd.hostname=" + client.host());
            words.add("systemd.machine_id=" + machine(client));
        }
        return new KernelLine(List.copyOf(words));
    }

    /** Below the kit's folder: its own, or that of all boards of its image. */
    public static String rootFolder(NetworkPlan.Client client) {
        return "roots/" + rootName(client);
    }

    /** The name of its root; boards of one image that share it have the same. */
    public static String rootName(NetworkPlan.Client client) {
        if (!client.rootKind().shared()) {
            return client.id();
        }
        String file = client.image().substring(client.image().lastIndexOf('/') + 1);
        String plain = file.replaceFirst("\\.(xz|gz|zst|bz2|zip|7z)$", "").replaceFirst("\\.(img|iso)$", "");
        return "shared-" + client.rootKind().code() + "-"
                + plain.toLowerCase(java.util.Locale.ROOT).replaceAll("[^a-z0-9.-]", "-");
    }

    /** 32 hex digits (machine-id(5)), the same at every start of one board and of no other. */
    private static String machine(NetworkPlan.Client client) {
        return DigestUtils.sha256Hex((client.id() + " " + client.plainMac()).getBytes(StandardCharsets.UTF_8))
                .substring(0, 32);
    }

    private static String menu(String text, KernelLine line, String folder, NetworkPlan.Client client)
            throws UnreadableInput {
        StartMenu.Entry entry = StartMenu.parse(text, BoardProfile.KernelLineForm.APPEND)
                .chosen()
                .orElseThrow(() -> new UnreadableInput("The menu of " + client.image() + " has no entry."));
        StringBuilder menu = new StringBuilder("default network\nprompt 0\ntimeout 10\nlabel network\n");
        entry.kernel().ifPresent(name -> menu.append("  kernel ").append(below(folder, name)));
        entry.initramfs().ifPresent(name -> menu.append("  initrd ").append(below(folder, name)));
        entry.tree().ifPresent(name -> menu.append("  fdt ").append(below(folder, name)));
        return menu.append("  append ").append(line.text()).append('\n').toString();
    }

    private static String below(String folder, String name) {
        return "/" + folder + "/" + name.strip().replaceFirst("^/+", "") + "\n";
    }

    /** Notes that hold for a start over the network whatever the image. */
    static Finding noLocalMounts(int lines) {
        return Finding.note(
                "fstab-local",
                lines == 1
                        ? "One line of its fstab that mounts a medium is switched off."
                        : lines + " lines of its fstab that mount media are switched off.",
                NFSROOT);
    }
}
