// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.filesystem.ext.ExtWriter;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Sets of features of mke2fs(8), drawn by chance: what is changed is sound to e2fsck and read by debugfs, or nothing was changed. */
class ExtFeaturesTest {
    private static final int SYSTEMS = Integer.getInteger("exordium.extSystems", 16);
    private static final long SEED = Long.getLong("exordium.seed", 29);
    private static final List<String> FEATURES = List.of(
            "filetype",
            "extent",
            "64bit",
            "flex_bg",
            "metadata_csum",
            "uninit_bg",
            "dir_index",
            "resize_inode",
            "sparse_super",
            "sparse_super2",
            "has_journal",
            "huge_file",
            "large_file",
            "dir_nlink",
            "extra_isize",
            "meta_bg",
            "ext_attr",
            "large_dir",
            "inline_data",
            "metadata_csum_seed",
            "quota",
            "project",
            "mmp",
            "bigalloc",
            "casefold",
            "ea_inode",
            "encrypt",
            "verity",
            "stable_inodes",
            "fast_commit");

    @TempDir
    private Path folder;

    private Path tree;

    private Path made(Random random, int number) throws IOException {
        Path image = folder.resolve("fs-" + number + ".img");
        while (true) {
            List<String> chosen = new ArrayList<>();
            int changes = random.nextInt(6);
            for (int i = 0; i < changes; i++) {
                chosen.add((random.nextInt(3) > 0 ? "^" : "") + FEATURES.get(random.nextInt(FEATURES.size())));
            }
            List<String> command = new ArrayList<>(List.of(
                    "mke2fs",
                    "-q",
                    "-F",
                    "-t",
                    List.of("ext2", "ext3", "ext4").get(random.nextInt(3)),
                    "-b",
                    List.of("1024", "2048", "4096").get(random.nextInt(3)),
                    "-I",
                    List.of("128", "256").get(random.nextInt(2)),
                    "-d",
                    tree.toString()));
            if (!chosen.isEmpty()) {
                command.addAll(List.of("-O", String.join(",", chosen)));
            }
            command.addAll(List.of(image.toString(), "24M"));
            Files.deleteIfExists(image);
            if (GeneralTools.exitOf(command.toArray(String[]::new)) == 0) {
                what = String.join(" ", command);
                return image;
            }
        }
    }

    private String what = "";

    @Test
    void whateverItsFeaturesItIsSoundOrAsItWas() throws IOException {
        tree = Files.createDirectories(folder.resolve("tree/etc"));
        Files.writeString(tree.resolve("hosts"), "127.0.0.1 localhost\n");
        for (int i = 0; i < 40; i++) {
            Files.writeString(tree.resolve("a-file-with-a-long-name-" + i), "content " + i + "\n");
        }
        tree = folder.resolve("tree");
        Random random = new Random(SEED);
        int changed = 0;
        for (int i = 0; i < SYSTEMS; i++) {
            Path image = made(random, i);
            byte[] before = Files.readAllBytes(image);
            int sound = GeneralTools.exitOf("e2fsck", "-fn", image.toString());
            Map<String, FileBody> wanted = new TreeMap<>();
            try (BlockDevice device = FileDevice.forWriting(image, ByteSize.of(Files.size(image)))) {
                ExtWriter writer = ExtWriter.of(device);
                change(writer, random, wanted);
                changed++;
            } catch (FileSystemException e) {
                assertThat(e.getMessage()).as(what).doesNotContain("room");
                assertThat(Files.readAllBytes(image)).as(what).isEqualTo(before);
            }
            assertThat(GeneralTools.exitOf("e2fsck", "-fn", image.toString()))
                    .as(() -> "seed " + SEED + " " + what + "\n" + GeneralTools.said("e2fsck", "-fn", image.toString()))
                    .isLessThanOrEqualTo(sound);
            wanted.forEach(
                    (path, body) -> assertThat(GeneralTools.run("debugfs", "-R", "cat " + path, image.toString()))
                            .as("seed " + SEED + " " + what + " " + path)
                            .isEqualTo(body.text()));
            Files.delete(image);
        }
        assertThat(changed).isGreaterThan(SYSTEMS / 4);
    }

    private static void change(ExtWriter writer, Random random, Map<String, FileBody> wanted) throws IOException {
        for (int i = 0; i < 12; i++) {
            String path = List.of("/etc/hosts", "/etc/fresh-" + i, "/var/lib/deep/x" + i % 3)
                    .get(random.nextInt(3));
            int length = List.of(0, 20, 3000, 20_000, 300_000).get(random.nextInt(5));
            StringBuilder text = new StringBuilder();
            while (text.length() < length) {
                text.append("line ").append(random.nextInt(100_000)).append('\n');
            }
            FileBody body = FileBody.of(text.toString().getBytes(StandardCharsets.UTF_8));
            writer.write(path, body);
            wanted.put(path, body);
        }
    }
}
