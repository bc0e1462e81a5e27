// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.block.TransferWatch;
import exordium.core.copies.vault.VaultCheck;
import exordium.core.copies.vault.VaultPrune;
import exordium.core.copies.vault.VaultRun;
import exordium.core.image.ImageFile;
import exordium.core.testing.DiskBuilder;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.CancellationException;
import java.util.stream.Stream;

/** What befalls a vault, drawn by chance from a seed; after each step, every copy is held to what its drive held. */
final class VaultHistory {
    private static final int DRIVE = 6 << 20;

    private final Path vault;
    private final Path disk;
    private final Random random;
    private final byte[] now = new byte[DRIVE];
    private final Map<Path, byte[]> proven = new TreeMap<>();
    private boolean rotten;
    private int step;

    private VaultHistory(Path folder, long seed) throws IOException {
        this.random = new Random(seed);
        this.vault = folder.resolve("vault-" + seed);
        this.disk = folder.resolve("disk-" + seed);
        random.nextBytes(now);
        // No table and no file system: all of it counts. A quarter is zeros.
        Arrays.fill(now, DRIVE / 2, DRIVE / 4 * 3, (byte) 0);
        Files.write(disk, now);
    }

    static void of(Path folder, long seed, int steps) throws IOException {
        VaultHistory history = new VaultHistory(folder, seed);
        for (history.step = 0; history.step < steps; history.step++) {
            history.go();
            history.hold(seed);
        }
    }

    private String stamp() {
        return String.format(java.util.Locale.ROOT, "2026-11-01T%06dZ", step);
    }

    private void go() throws IOException {
        switch (random.nextInt(7)) {
            case 0, 1, 2 -> copy(-1);
            case 3 -> change();
            case 4 -> prune();
            case 5 -> copy(1 + random.nextInt(6));
            default -> befalls();
        }
    }

    /** Where stopAfter: of how many batches; -1 lets it end. */
    private void copy(int stopAfter) throws IOException {
        Path file = vault.resolve("board").resolve("board-" + stamp() + ".copy");
        TransferWatch watch = new TransferWatch() {
            private int moved;

            @Override
            public void moved(Phase phase, long position, int bytes, long nanos, long total) {
                moved++;
            }

            @Override
            public boolean cancelled() {
                return stopAfter >= 0 && moved >= stopAfter;
            }
        };
        try (BlockDevice device = FileDevice.forReading(disk)) {
            VaultRun.execute(device, vault, file, Map.of(), watch);
            proven.put(file, now.clone());
        } catch (CancellationException e) {
            assertThat(file).doesNotExist();
        }
    }

    private void change() throws IOException {
        byte[] piece = new byte[1 + random.nextInt(60_000)];
        random.nextBytes(piece);
        int at = random.nextInt(DRIVE - piece.length);
        System.arraycopy(piece, 0, now, at, piece.length);
        try (FileChannel out = FileChannel.open(disk, StandardOpenOption.WRITE)) {
            out.write(ByteBuffer.wrap(piece), at);
        }
    }

    private void prune() throws IOException {
        List<Path> going = new ArrayList<>();
        for (Path each : proven.keySet()) {
            if (random.nextInt(3) == 0) {
                going.add(each);
            }
        }
        VaultPrune.run(vault, going, stamp(), TransferWatch.NONE);
        going.forEach(proven::remove);
    }

    /** Half-made files as a kill leaves them, or a bit that turned. */
    private void befalls() throws IOException {
        Path packs = vault.resolve("packs");
        if (!Files.isDirectory(packs)) {
            return;
        }
        if (random.nextBoolean()) {
            Files.write(packs.resolve(stamp() + "-board.part"), new byte[3000]);
            Files.write(packs.resolve(stamp() + "-orphan.pack"), new byte[3000]);
            return;
        }
        List<Path> all;
        try (Stream<Path> files = Files.list(packs)) {
            all = files.filter(each -> each.toString().endsWith(".pack"))
                    .sorted()
                    .toList();
        }
        if (!all.isEmpty()) {
            Path pack = all.get(random.nextInt(all.size()));
            if (Files.size(pack) > 0) {
                DiskBuilder.flip(pack, (long) (random.nextDouble() * Files.size(pack)));
                rotten = true;
            }
        }
    }

    private void hold(long seed) throws IOException {
        List<Path> named = VaultCheck.of(vault, OptionalInt.empty(), seed, TransferWatch.NONE).damages().stream()
                .map(VaultCheck.Damage::copy)
                .toList();
        assertThat(rotten || named.isEmpty()).as("seed %d step %d", seed, step).isTrue();
        for (Map.Entry<Path, byte[]> each : proven.entrySet()) {
            if (!named.contains(each.getKey())) {
                try (InputStream stream = ImageFile.open(each.getKey()).stream()) {
                    assertThat(Arrays.equals(stream.readAllBytes(), each.getValue()))
                            .as("seed %d step %d %s", seed, step, each.getKey())
                            .isTrue();
                }
            }
        }
    }
}
