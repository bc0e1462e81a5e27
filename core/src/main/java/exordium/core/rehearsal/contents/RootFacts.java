// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.contents;

import exordium.core.filesystem.FileSystemReader;
import exordium.core.firststart.dialect.SelfGrowth;
import exordium.core.firststart.kernelline.FirstProgram;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Optional;

/** Reads of a root what decides about a start: from a file system on a medium, or from a folder that a server exports. */
public final class RootFacts {
    /** Programs a kernel starts first, in the order it looks (Linux kernel, init/main.c). */
    private static final List<String> FIRST_PROGRAMS = List.of("/sbin/init", "/etc/init", "/bin/init", "/bin/sh");

    private static final List<String> LOGIN_SERVICES = List.of(
            "/etc/systemd/system/multi-user.target.wants/ssh.service",
            "/etc/systemd/system/multi-user.target.wants/sshd.service",
            "/etc/rc3.d/S01ssh",
            "/etc/runlevels/default/sshd",
            "/etc/init.d/S50sshd");
    private static final List<String> GROWERS = List.of(
            "/etc/systemd/system",
            "/etc/systemd/system/multi-user.target.wants",
            "/etc/init.d",
            "/etc/initramfs-tools/scripts/init-bottom",
            "/usr/share/initramfs-tools/scripts/init-bottom");
    private static final int ELF_CLASS = 4;
    static final int MOST_LINKS = 16;

    private static final long LARGEST = 16L << 20;

    private RootFacts() {}

    /** The little that is asked of a root. */
    interface Contents {
        Optional<byte[]> read(String path) throws IOException;

        boolean has(String path) throws IOException;

        List<String> list(String folder) throws IOException;
    }

    public static MediumContents.RootFiles of(FileSystemReader reader) throws IOException {
        return of(new Contents() {
            @Override
            public Optional<byte[]> read(String path) throws IOException {
                return reader.read(path);
            }

            @Override
            public boolean has(String path) throws IOException {
                int slash = path.lastIndexOf('/');
                return reader.has(path.substring(0, slash), path.substring(slash + 1));
            }

            @Override
            public List<String> list(String folder) throws IOException {
                return reader.list(folder);
            }
        });
    }

    /** Of a folder, or of a tar of one; empty where there is nothing in it. */
    public static Optional<MediumContents.RootFiles> of(Path folder) throws IOException {
        Optional<Contents> contents = contents(folder);
        return contents.isEmpty() ? Optional.empty() : Optional.of(of(contents.get()));
    }

    /** What is in a folder or in a tar of one; empty where that is nothing. */
    static Optional<Contents> contents(Path folder) throws IOException {
        if (Files.isRegularFile(folder) && folder.toString().endsWith(".tar")) {
            TarContents tar = TarContents.of(folder);
            return tar.isEmpty() ? Optional.empty() : Optional.of(tar);
        }
        if (!Files.isDirectory(folder)) {
            return Optional.empty();
        }
        try (var entries = Files.list(folder)) {
            if (entries.findAny().isEmpty()) {
                return Optional.empty();
            }
        }
        return Optional.of(new FolderContents(folder));
    }

    private record FolderContents(Path folder) implements Contents {
        @Override
        public Optional<byte[]> read(String path) throws IOException {
            Optional<Path> file = inside(folder, path);
            return file.isPresent() && Files.isRegularFile(file.get()) && Files.size(file.get()) <= LARGEST
                    ? Optional.of(Files.readAllBytes(file.get()))
                    : Optional.empty();
        }

        @Override
        public boolean has(String path) {
            return Files.exists(folder.resolve(path.substring(1)), java.nio.file.LinkOption.NOFOLLOW_LINKS);
        }

        @Override
        public List<String> list(String path) throws IOException {
            Optional<Path> place = inside(folder, path);
            if (place.isEmpty() || !Files.isDirectory(place.get())) {
                return List.of();
            }
            try (var entries = Files.list(place.get())) {
                return entries.map(each -> each.getFileName().toString()).toList();
            }
        }
    }

    /** Links lead on within the root, as they do for whoever runs in it. */
    private static Optional<Path> inside(Path root, String path) throws IOException {
        Deque<String> left = new ArrayDeque<>(List.of(path.split("/")));
        Path at = root;
        for (int links = 0; !left.isEmpty(); ) {
            String name = left.pop();
            if (name.isEmpty() || name.equals(".")) {
                continue;
            }
            if (name.equals("..")) {
                at = at.equals(root) ? root : at.getParent();
                continue;
            }
            Path next = at.resolve(name);
            if (Files.isSymbolicLink(next)) {
                links++;
                if (links > MOST_LINKS) {
                    return Optional.empty();
                }
                String target = Files.readSymbolicLink(next).toString();
                at = target.startsWith("/") ? root : at;
                String[] parts = target.split("/");
                for (int i = parts.length - 1; i >= 0; i--) {
                    left.push(parts[i]);
                }
            } else {
                at = next;
            }
        }
        return Files.exists(at) ? Optional.of(at) : Optional.empty();
    }

    static MediumContents.RootFiles of(Contents files) throws IOException {
        Optional<Integer> width = Optional.empty();
        for (String program : FIRST_PROGRAMS) {
            Optional<byte[]> content = files.read(program);
            if (content.isPresent() && content.get().length > ELF_CLASS && content.get()[0] == 0x7F) {
                width = Optional.of(content.get()[ELF_CLASS] == 2 ? 64 : 32);
                break;
            }
            if (content.isPresent() && content.get().length > 2 && content.get()[0] == '#' && content.get()[1] == '!') {
                width = Optional.of(32);
                break;
            }
        }
        boolean login = false;
        for (String service : LOGIN_SERVICES) {
            login |= files.has(service);
        }
        return new MediumContents.RootFiles(
                files.read("/etc/fstab").map(bytes -> new String(bytes, StandardCharsets.UTF_8)),
                width,
                login,
                Accounts.in(files),
                Accounts.keyed(files),
                growsBy(files),
                WiredAddress.in(files),
                services(files).stream()
                        .filter(FirstProgram::isFlasher)
                        .sorted()
                        .findFirst(),
                Optional.empty(),
                Accounts.cloudUser(files.read("/etc/cloud/cloud.cfg")));
    }

    private static List<String> services(Contents files) throws IOException {
        List<String> names = new ArrayList<>();
        for (String folder : GROWERS) {
            files.list(folder).forEach(name -> names.add(folder + "/" + name));
        }
        return names;
    }

    /** The mark of a system that fills its medium, by the names of its services and scripts. */
    private static Optional<String> growsBy(Contents files) throws IOException {
        List<String> names = services(files);
        String cloud = files.read("/etc/cloud/cloud.cfg")
                .map(bytes -> new String(bytes, StandardCharsets.UTF_8))
                .orElse("");
        return SelfGrowth.inRoot(names, () -> cloud);
    }
}
