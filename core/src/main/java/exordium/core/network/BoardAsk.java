// SPDX-License-Identifier: Apache-2.0
package exordium.core.network;

import exordium.core.board.BoardProfile;
import exordium.core.board.NamePattern;
import exordium.core.board.StartSource;
import exordium.core.bootorder.OrderDialect;
import exordium.core.firststart.kernelline.KernelLine;
import exordium.core.firststart.kernelline.StartMenu;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.contents.Cause;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * What a board asks a server for, one request after the other, until it is up or an answer is missing. Who answers is a real server or
 * one that is played. Firmware asks for names; where a family is known by patterns, by those that are there.
 */
public final class BoardAsk {
    private static final Pattern MOUNTED = Pattern.compile(
            "^(?!\\s*#)\\s*(/dev/(?!nfs)\\S+|(UUID|LABEL|PARTUUID|PARTLABEL)=\\S+)\\s+(\\S+)\\s+(\\S+)(\\s+(\\S+))?.*");

    private final BoardProfile profile;
    private final NetworkPlan.Client client;
    private final Collection<String> known;
    private final Answers answers;
    private final List<Step> steps = new ArrayList<>();
    private long bytes;
    private String address = "";

    private BoardAsk(BoardProfile profile, NetworkPlan.Client client, Collection<String> known, Answers answers) {
        this.profile = profile;
        this.client = client;
        this.known = known;
        this.answers = answers;
    }

    /** Who answers a board. */
    public interface Answers {
        /** Empty where nobody hands one out. */
        Optional<Lease> lease(String mac) throws IOException;

        /** A start file by its path from the top; empty where it is not there. */
        Optional<byte[]> fetch(String path) throws IOException;

        /** Whether it may mount this. */
        boolean mounts(String path) throws IOException;

        /** A file in what it mounted; empty where it is not there. */
        Optional<byte[]> look(String mounted, String path) throws IOException;

        /** What the server put in its log since this was last asked, in its own words. */
        List<String> said() throws IOException;
    }

    /** An address, and the file that is named with it. */
    public record Lease(String address, Optional<String> bootFile) {}

    /** How far a board came. */
    public enum Reached {
        NOTHING("never heard of"),
        ASKED("asked for an address"),
        LEASE("has an address"),
        FILES("fetched start files"),
        KERNEL("has kernel and kernel line"),
        ROOT("mounted its root");

        private final String said;

        Reached(String said) {
            this.said = said;
        }

        public String said() {
            return said;
        }
    }

    /** One request and what came of it; log: what the server says of it. */
    public record Step(String text, boolean good, List<String> log) {}

    /**
     * How it went.
     *
     * @param cause none where it came up to its root and that can run
     * @param fetched bytes of start files
     * @param address the one it was given; empty where it got none
     */
    public record Come(List<Step> steps, Reached reached, Cause cause, String text, ByteSize fetched, String address) {}

    /** Where known: names of start files that are there, from the top of the server's folder. */
    public static Come of(BoardProfile profile, NetworkPlan.Client client, Collection<String> known, Answers answers)
            throws IOException {
        return new BoardAsk(profile, client, known, answers).run();
    }

    private Come run() throws IOException {
        Optional<Lease> lease = answers.lease(client.plainMac());
        step("asks for an address as " + client.plainMac(), lease.isPresent());
        if (lease.isEmpty()) {
            return ended(Reached.ASKED, Cause.NETWORK_NO_LEASE, "Nobody hands out an address.");
        }
        address = lease.get().address();
        step(
                "has " + address
                        + lease.get()
                                .bootFile()
                                .map(file -> ", boot file " + file)
                                .orElse(""),
                true);
        return switch (profile.network().by()) {
            case "menu" -> byMenu();
            case "boot-file" -> byBootFile(lease.get().bootFile().filter(file -> !file.isBlank()));
            default -> bySerial();
        };
    }

    private Come bySerial() throws IOException {
        String folder = client.plainSerial();
        BoardProfile.StartFiles files = profile.startFiles();
        boolean any = files.settings().isPresent()
                && fetch(folder + "/" + files.settings().get()).isPresent();
        Optional<String> loader = first(folder, files.loaders());
        any |= loader.isPresent();
        List<String> kernels = files.kernels().entrySet().stream()
                .filter(each -> each.getValue() <= profile.width())
                .sorted(Map.Entry.<String, Integer>comparingByValue(Comparator.reverseOrder()))
                .map(Map.Entry::getKey)
                .toList();
        if (!any && known.stream().noneMatch(name -> name.startsWith(folder + "/"))) {
            return ended(
                    Reached.LEASE,
                    Cause.NETWORK_NO_DIRECTORY,
                    "The server hands out nothing below " + folder + ", the serial without its leading zeros.");
        }
        if (loader.isEmpty()) {
            return ended(
                    any ? Reached.FILES : Reached.LEASE,
                    Cause.NETWORK_NO_FILES,
                    "None of " + String.join(", ", files.loaders()) + " is in " + folder + ".");
        }
        Optional<String> kernel = first(folder, kernels);
        if (kernel.isEmpty()) {
            return ended(
                    Reached.FILES,
                    there(folder, files.kernelOfAny()) ? Cause.KERNEL_FOR_OTHER_BOARD : Cause.NETWORK_NO_FILES,
                    "No kernel for it is in " + folder + ", none of " + String.join(", ", kernels) + ".");
        }
        if (!files.deviceTrees().isEmpty() && first(folder, files.deviceTrees()).isEmpty()) {
            return ended(
                    Reached.FILES,
                    there(folder, files.treeOfAny()) ? Cause.KERNEL_FOR_OTHER_BOARD : Cause.NETWORK_NO_FILES,
                    "No device tree for it is in " + folder + ".");
        }
        return rooted(fetch(folder + "/" + files.kernelLine()), folder + "/" + files.kernelLine());
    }

    private Come byMenu() throws IOException {
        String names = profile.network().names().isEmpty()
                ? "pxelinux.cfg"
                : profile.network().names().get(0);
        Optional<byte[]> menu = fetch(ClientFiles.menu(client, profile));
        if (menu.isEmpty()) {
            menu = fetch(names + "/default");
        }
        if (menu.isEmpty()) {
            return ended(Reached.LEASE, Cause.NETWORK_NO_FILES, "The server has no menu for it in " + names + ".");
        }
        return byEntry(menu, "", "the menu");
    }

    private Come byBootFile(Optional<String> file) throws IOException {
        if (file.isEmpty()) {
            return ended(Reached.LEASE, Cause.NETWORK_NO_FILES, "Its lease names no boot file.");
        }
        if (fetch(file.get()).isEmpty()) {
            return ended(Reached.LEASE, Cause.NETWORK_NO_FILES, "The boot file " + file.get() + " is not there.");
        }
        String top = client.id() + "/";
        String folder = file.get().startsWith(top) ? top : "";
        String menu = profile.startFiles().kernelLine();
        return byEntry(fetch(folder + menu), folder, menu);
    }

    private Come byEntry(Optional<byte[]> menu, String folder, String name) throws IOException {
        Optional<StartMenu.Entry> entry = menu.map(bytes -> new String(bytes, StandardCharsets.UTF_8))
                .flatMap(text -> StartMenu.parse(text, profile.startFiles().kernelLineForm())
                        .chosen());
        if (entry.isEmpty()) {
            return ended(Reached.FILES, Cause.KERNEL_LINE_BROKEN, "There is no entry in " + name + ".");
        }
        for (Optional<String> each : List.of(
                entry.get().kernel(), entry.get().initramfs(), entry.get().tree())) {
            if (each.isPresent()) {
                String path = folder + each.get().strip().replaceFirst("^/+", "");
                if (fetch(path).isEmpty()) {
                    return ended(
                            Reached.FILES, Cause.NETWORK_NO_FILES, path + ", which " + name + " names, is not there.");
                }
            }
        }
        return rooted(menu, name);
    }

    private Come rooted(Optional<byte[]> file, String name) throws IOException {
        Optional<KernelLine> line = file.flatMap(bytes -> KernelLine.in(
                new String(bytes, StandardCharsets.UTF_8), profile.startFiles().kernelLineForm()));
        Optional<String> root = line.flatMap(each -> each.value("root"));
        if (root.isEmpty()) {
            return ended(
                    Reached.FILES, Cause.KERNEL_LINE_BROKEN, "There is no kernel line with root= in " + name + ".");
        }
        if (!root.get().equals("/dev/nfs")) {
            return ended(
                    Reached.KERNEL,
                    Cause.ROOT_NOT_FOUND,
                    "Its kernel line asks for root=" + root.get() + ", which is on no server.");
        }
        Optional<String> nfs = line.get().value("nfsroot");
        if (nfs.isEmpty()) {
            return ended(
                    Reached.KERNEL,
                    Cause.KERNEL_LINE_BROKEN,
                    "Its kernel line does not say which root: nfsroot= is missing.");
        }
        String path = nfs.get().substring(nfs.get().indexOf(':') + 1).split(",")[0];
        boolean mounts = answers.mounts(path);
        step("mounts " + path, mounts);
        if (!mounts) {
            return ended(Reached.KERNEL, Cause.NETWORK_NO_EXPORT, "The server does not let it mount " + path + ".");
        }
        return inRoot(path);
    }

    private Come inRoot(String path) throws IOException {
        boolean program = false;
        for (String each : List.of("/sbin/init", "/etc/init", "/bin/init", "/bin/sh")) {
            program |= !program && answers.look(path, each).isPresent();
        }
        step("finds a first program in it", program);
        if (!program) {
            return ended(Reached.ROOT, Cause.ROOT_UNREADABLE, path + " holds no first program.");
        }
        String fstab = answers.look(path, "/etc/fstab")
                .map(bytes -> new String(bytes, StandardCharsets.UTF_8))
                .orElse("");
        for (String each : fstab.lines().toList()) {
            var mount = MOUNTED.matcher(each);
            boolean halts = mount.matches()
                    && !mount.group(3).equals("/")
                    && !mount.group(4).equals("swap")
                    && !List.of(Optional.ofNullable(mount.group(6)).orElse("").split(","))
                            .contains("nofail");
            if (halts) {
                step("mounts " + mount.group(3), false);
                return ended(
                        Reached.ROOT,
                        Cause.FSTAB_MISSING_DEVICE,
                        "Its fstab mounts " + mount.group(1) + ", a medium that is not there.");
            }
        }
        return ended(Reached.ROOT, Cause.NONE, "It comes up from " + path + ".");
    }

    private boolean there(String folder, String pattern) {
        return known.stream().anyMatch(name -> NamePattern.isSpeltLike(name, folder + "/" + pattern));
    }

    /** The first that is there of some names or patterns; for a pattern nothing is like, what a firmware would ask for is asked. */
    private Optional<String> first(String folder, List<String> patterns) throws IOException {
        for (String pattern : patterns) {
            List<String> names = known.stream()
                    .filter(name -> NamePattern.isSpeltLike(name, folder + "/" + pattern))
                    .sorted()
                    .toList();
            if (names.isEmpty()) {
                names = List.of(folder + "/" + pattern.replace("*", ""));
            }
            for (String name : names) {
                if (fetch(name).isPresent()) {
                    return Optional.of(name);
                }
            }
        }
        return Optional.empty();
    }

    private Optional<byte[]> fetch(String path) throws IOException {
        Optional<byte[]> found = answers.fetch(path);
        found.ifPresent(content -> bytes += content.length);
        step(
                "asks for " + path
                        + found.map(content -> ", " + content.length + " bytes").orElse(", not there"),
                found.isPresent());
        return found;
    }

    private void step(String text, boolean good) throws IOException {
        steps.add(new Step(text, good, List.copyOf(answers.said())));
    }

    private Come ended(Reached reached, Cause cause, String text) {
        return new Come(List.copyOf(steps), reached, cause, text, ByteSize.of(bytes), address);
    }

    /** Whether a family can start over the network at all: it has a socket for it, and its order a place. */
    public static boolean possible(BoardProfile profile) {
        return profile.ports().stream().anyMatch(port -> port.source() == StartSource.NETWORK)
                && OrderDialect.of(profile).available().contains(StartSource.NETWORK);
    }
}
