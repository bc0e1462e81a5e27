// SPDX-License-Identifier: Apache-2.0
package exordium.core.inspection;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.TransferWatch;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.GeneralTools;
import java.io.BufferedOutputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.locks.LockSupport;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Containers that unpack to far more than they are, made with the general tools: one sentence, nothing left behind. */
class BombsTest {
    private static final long PATIENCE_NANOS = 60_000_000_000L;
    private static final long LOOK_NANOS = 20_000_000L;
    private static final boolean LONG = Boolean.getBoolean("exordium.longRuns");
    /** In benchmarks/long-runs as if there were no target, to the bound for what no image is packed like. */
    private static final ByteSize ROOM = ByteSize.of(LONG ? 20_000_000_000L : 100_000_000L);

    private static final long FEW_GIB = 4_600_000_000L;

    @TempDir
    Path folder;

    private void refused(Path bomb) throws IOException {
        refused(bomb, UnaryOperator.identity());
    }

    private static void refused(Path bomb, UnaryOperator<ImageFile> bounded) throws IOException {
        List<Path> before = temporary();
        assertThatThrownBy(() -> {
                    try (UnpackedImage unpacked =
                            UnpackedImage.open(bounded.apply(ImageFile.open(bomb)), false, TransferWatch.NONE)) {
                        Inspector.inspect(unpacked.device());
                    }
                })
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining(bomb.getFileName().toString());
        // Other tests may be at work beside this one; what is left behind stays, what they use goes.
        long end = System.nanoTime() + PATIENCE_NANOS;
        while (!before.containsAll(temporary()) && System.nanoTime() < end) {
            LockSupport.parkNanos(LOOK_NANOS);
        }
        assertThat(before).containsAll(temporary());
    }

    private static List<Path> temporary() throws IOException {
        try (Stream<Path> files = Files.list(Path.of(System.getProperty("java.io.tmpdir")))) {
            return files.filter(file -> file.getFileName().toString().startsWith("exordium-"))
                    .sorted()
                    .toList();
        }
    }

    private Path packed(String name, long bytes, String tool) {
        Path file = folder.resolve(name);
        GeneralTools.run("sh", "-c", "head -c " + bytes + " /dev/zero | " + tool + " > " + file);
        return file;
    }

    /** Read from a pipe, zstd does not know the size; told of it, it announces it. */
    @ParameterizedTest
    @ValueSource(strings = {"zstd -q", "zstd -q --stream-size=4600000000"})
    void zerosWithoutEndAreRefused(String tool) throws IOException {
        refused(packed("bomb.zst", FEW_GIB, tool));
    }

    private Path repeated(String name, byte[] part, int times) throws IOException {
        Path file = folder.resolve(name);
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(file))) {
            for (int i = 0; i < times; i++) {
                out.write(part);
            }
        }
        return file;
    }

    @Test
    void manyStreamsOfBzip2AreRefused() throws IOException {
        byte[] stream = Files.readAllBytes(packed("one.bz2", 45_000_000, "bzip2 -9"));
        assertThat(stream.length).isLessThan(200);
        Path bomb = repeated("bomb.bz2", stream, 200);
        refused(bomb, image -> image.within(ROOM, "card.img"));
    }

    @Test
    void millionsOfPartsThatHoldNothingAreRefused() throws IOException {
        byte[] empty = Files.readAllBytes(packed("one.zst", 0, "zstd -q"));
        refused(repeated("empty.zst", empty, 600_000));
        byte[] skippable = {0x50, 0x2A, 0x4D, 0x18, 0, 0, 0, 0};
        ByteArrayOutputStream first = new ByteArrayOutputStream();
        first.write(empty);
        for (int i = 0; i < 600_000; i++) {
            first.write(skippable);
        }
        refused(Files.write(folder.resolve("skippable.zst"), first.toByteArray()));
        refused(repeated("empty.bz2", Files.readAllBytes(packed("one.bz2", 0, "bzip2")), 5000));
        // Each of half a million costs this one so much that the suite leaves it to benchmarks/long-runs.
        if (LONG) {
            refused(repeated("empty.gz", Files.readAllBytes(packed("one.gz", 0, "gzip")), 600_000));
        }
    }

    @Test
    void aContainerThatAnnouncesTooMuchIsRefusedBeforeItIsUnpacked() throws IOException {
        Path zeros = folder.resolve("zeros.img");
        exordium.core.testing.DiskBuilder.blank(zeros, 540_000_000);
        GeneralTools.run(folder, "7z", "a", "-bd", "-mx=1", "-m0=bzip2", "bomb.7z", "zeros.img");
        assertThatThrownBy(() -> ImageFile.open(folder.resolve("bomb.7z"))).isInstanceOf(UnreadableInput.class);
    }

    @Test
    void theRoomOfATargetBoundsWhatIsUnpackedForIt() throws IOException {
        Path zeros = packed("zeros.gz", 200_000_000, "gzip -1");
        ImageFile image = ImageFile.open(zeros).within(ByteSize.of(50_000_000), "card.img");
        assertThatThrownBy(() -> image.stream().transferTo(OutputStream.nullOutputStream()))
                .hasMessageContaining("card.img");
    }
}
