// SPDX-License-Identifier: Apache-2.0
package exordium.core.network;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.block.StagedDevice;
import exordium.core.filesystem.FileBody;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.UnreadableInput;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.Needs;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Roots out of real ext4 as tars: unpacked by GNU tar they are the folder mke2fs took them from. */
class RootTarTest {
    /** Everything about each file that a root must keep, as Python's os module sees it. */
    private static final String LOOK =
            """
            import os, sys, stat, hashlib
            top = sys.argv[1]
            seen = {}
            for folder, dirs, files in os.walk(top):
                for name in ['.'] * (folder == top) + dirs + files:
                    path = os.path.normpath(os.path.join(folder, name))
                    s = os.lstat(path)
                    line = [os.path.relpath(path, top), oct(s.st_mode), s.st_uid, s.st_gid, 0 if path == top else int(s.st_mtime_ns / 1000)]
                    if stat.S_ISREG(s.st_mode):
                        line += [s.st_size, hashlib.sha256(open(path, 'rb').read()).hexdigest(), s.st_nlink]
                    if stat.S_ISLNK(s.st_mode):
                        line += [os.readlink(path)]
                    if stat.S_ISBLK(s.st_mode) or stat.S_ISCHR(s.st_mode):
                        line += [os.major(s.st_rdev), os.minor(s.st_rdev)]
                    if not stat.S_ISLNK(s.st_mode):
                        line += sorted((a, os.getxattr(path, a).hex()) for a in os.listxattr(path))
                    seen[line[0]] = line
            seen.pop('lost+found', None)
            for each in sorted(seen):
                print(seen[each])
            """;

    private static final String MAKE =
            """
            import os, struct, sys
            top = sys.argv[1]
            os.makedirs(top + '/etc'); os.makedirs(top + '/home/a'); os.makedirs(top + '/dev'); os.makedirs(top + '/var/empty')
            def put(path, data, mode=0o644, uid=0, gid=0):
                with open(top + '/' + path, 'wb') as f: f.write(data)
                os.chown(top + '/' + path, uid, gid); os.chmod(top + '/' + path, mode)
            put('etc/fstab', b'UUID=1 / ext4 defaults 0 1\\n')
            put('etc/shadow', b'root:*:1:', 0o640, 0, 42)
            put('etc/sudo', b'program', 0o4755)
            put('home/a/big', os.urandom(3 << 20), 0o600, 1000, 1000)
            put('home/a/far', b'x', 0o600, 3000000, 70000)
            put('home/a/' + 'n' * 180, b'long name')
            put('home/a/gr\\u00fc\\u00dfe', b'not of these letters')
            os.link(top + '/home/a/big', top + '/home/a/again')
            os.symlink('../home/a/big', top + '/etc/link')
            os.symlink('/' + 'd/' * 80 + 'end', top + '/etc/far-link')
            os.mknod(top + '/dev/null', 0o20666, os.makedev(1, 3))
            os.mknod(top + '/dev/disk', 0o60660, os.makedev(259, 70000))
            os.mkfifo(top + '/dev/pipe')
            os.chmod(top + '/var/empty', 0o1777)
            os.setxattr(top + '/etc/sudo', 'security.capability', bytes.fromhex('0100000200040000000000000000000000000000'))
            os.setxattr(top + '/etc/fstab', 'user.note', b'\\x00\\xff many')
            os.setxattr(top + '/home/a/far', 'user.long', b'y' * 900)
            acl = struct.pack('<I', 2) + b''.join(struct.pack('<HHI', *e) for e in
                [(1, 6, 0xffffffff), (2, 4, 1000), (4, 4, 0xffffffff), (16, 4, 0xffffffff), (32, 0, 0xffffffff)])
            os.setxattr(top + '/etc/shadow', 'system.posix_acl_access', acl)
            os.utime(top + '/etc/fstab', ns=(0, 1700000000123456000))
            """;

    @TempDir
    Path folder;

    private Path tree;

    @BeforeEach
    void mayGiveFilesAway() {
        Needs.here("root".equals(System.getProperty("user.name")), "not root");
        tree = folder.resolve("tree");
    }

    private Path image(String... options) throws IOException {
        Path image = folder.resolve("root.ext4");
        GeneralTools.run(java.util.stream.Stream.concat(
                        java.util.stream.Stream.of("mke2fs", "-q", "-F", "-d", tree.toString()),
                        java.util.stream.Stream.concat(
                                java.util.Arrays.stream(options), java.util.stream.Stream.of(image.toString(), "24M")))
                .toArray(String[]::new));
        return image;
    }

    private void makeTree() {
        GeneralTools.run("mkdir", tree.toString());
        GeneralTools.run("python3", "-c", MAKE.replace("\\\\", "\\"), tree.toString());
    }

    private Path unpacked(Path image, RootTar.Part part, Map<String, Optional<FileBody>> changes) throws IOException {
        Path tar = folder.resolve("root.tar");
        try (FileDevice device = FileDevice.forReading(image);
                OutputStream out = Files.newOutputStream(tar)) {
            RootTar.write(FileSystems.open(device).orElseThrow(), part, changes, out);
        }
        Path to = Files.createTempDirectory(folder, "unpacked");
        GeneralTools.run(
                "tar",
                "-C",
                to.toString(),
                "--numeric-owner",
                "--xattrs",
                "--xattrs-include=*",
                "-xpf",
                tar.toString());
        return to;
    }

    private static String look(Path top) {
        return GeneralTools.run("python3", "-c", LOOK, top.toString());
    }

    /** More in benchmarks/long-runs. */
    private static final int BROKEN = Boolean.getBoolean("exordium.longRuns") ? 300 : 30;

    private static final RootTar.Part ALL = RootTar.Part.ALL;

    @Test
    void ownersModesLinksDevicesAndAttributesStay() throws IOException {
        makeTree();
        for (String[] options : new String[][] {
            {"-t", "ext4"}, {"-t", "ext4", "-b", "1024"}, {"-t", "ext4", "-I", "128"}, {"-t", "ext3"}
        }) {
            Path image = image(options);
            // mke2fs itself takes over whole seconds alone.
            assertThat(seconds(look(unpacked(image, ALL, Map.of()))))
                    .as(String.join(" ", options))
                    .isEqualTo(seconds(look(tree)));
            Files.delete(image);
        }
    }

    private static String seconds(String text) {
        return text.replaceAll("(\\d{10})\\d{6}(?=[,\\]])", "$1");
    }

    @Test
    void changedFilesComeInAndOthersGo() throws IOException {
        makeTree();
        Path to = unpacked(
                image("-t", "ext4"),
                ALL,
                Map.of(
                        "etc/fstab", Optional.of(FileBody.of("nothing\n")),
                        "etc/shadow", Optional.empty(),
                        "etc/new/deep/file", Optional.of(FileBody.secret("secret")),
                        "etc/new/link", Optional.of(FileBody.linkTo("deep/file"))));
        assertThat(to.resolve("etc/fstab")).hasContent("nothing\n");
        assertThat(to.resolve("etc/shadow")).doesNotExist();
        assertThat(to.resolve("etc/new/link")).hasContent("secret");
        assertThat(GeneralTools.run(
                                "stat",
                                "-c",
                                "%a %u",
                                to.resolve("etc/new/deep/file").toString())
                        .strip())
                .isEqualTo("600 0");
    }

    @Test
    void partsOfARootAreAskedForAlone() throws IOException {
        makeTree();
        Path image = image("-t", "ext4");
        assertThat(unpacked(image, new RootTar.Part("home", true), Map.of()).resolve("a/big"))
                .hasSameBinaryContentAs(tree.resolve("home/a/big"));
        Path rest = unpacked(image, new RootTar.Part("home", false), Map.of());
        assertThat(rest.resolve("home")).isEmptyDirectory();
        assertThat(rest.resolve("etc/sudo")).exists();
    }

    /** Broken file systems end in a sentence, whatever is broken. */
    @Test
    void brokenStructuresAreNamed() throws IOException {
        makeTree();
        Path image = image("-t", "ext4");
        Random random = new Random(7);
        int named = 0;
        for (int i = 0; i < BROKEN; i++) {
            try (FileDevice behind = FileDevice.forReading(image);
                    BlockDevice device = new StagedDevice(behind)) {
                for (int j = 0; j < 40; j++) {
                    byte[] other = {(byte) random.nextInt()};
                    device.write(2048 + random.nextInt(1 << 19), ByteBuffer.wrap(other));
                }
                RootTar.write(FileSystems.open(device).orElseThrow(), ALL, Map.of(), new ByteArrayOutputStream());
            } catch (UnreadableInput e) {
                assertThat(e).hasMessageNotContaining("null");
                named++;
            }
        }
        assertThat(named).isPositive();
        assertThatThrownBy(() -> RootTar.write(null, ALL, Map.of(), new ByteArrayOutputStream()))
                .isInstanceOf(UnreadableInput.class);
    }
}
