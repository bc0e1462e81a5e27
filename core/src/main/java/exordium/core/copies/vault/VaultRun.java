// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.vault;

import exordium.core.block.BlockDevice;
import exordium.core.block.Durable;
import exordium.core.block.FileExtents;
import exordium.core.block.TransferWatch;
import exordium.core.block.Waiting;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ChunkPacks;
import exordium.core.image.CopyManifest;
import exordium.core.image.PublishedChecksum;
import exordium.core.inspection.UsedMap;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Future;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Copies a drive into a vault: what its tables and file systems count as taken, in chunks, each kept once. The copy has a name
 * only after everything it needs was read back from the vault's disk. Memory: what the reader holds, a batch of 2 MiB for every
 * processor, {@link #AHEAD} batches of what was packed, and 150 bytes for every chunk the vault has.
 */
public final class VaultRun {
    public static final String SUFFIX = ".copy";
    private static final Pattern STAMPED = Pattern.compile("(.+)-(\\d{4}-\\d{2}-\\d{2}T\\d{6}Z)");
    /** Batches that are being read, made into chunks, or wait for the pack. */
    private static final int AHEAD = 12;

    private final BlockDevice drive;
    private final Path vault;
    private final TransferWatch watch;
    private final UsedMap used;
    private final Optional<List<FileExtents.Extent>> stretches;
    private final long extent;
    private final List<CopyManifest.Place> places = new ArrayList<>();

    private VaultRun(BlockDevice drive, Path vault, TransferWatch watch) throws IOException {
        this.drive = drive;
        this.vault = vault;
        this.watch = watch;
        this.extent = CopyRun.extent(drive).bytes();
        if (extent == 0) {
            throw new UnreadableInput(drive.name() + " holds nothing to copy.");
        }
        this.used = UsedMap.of(drive);
        this.stretches = drive.stretches();
    }

    /**
     * @param vault its folder
     * @param copy where the copy's list goes, in a folder of the vault; must not exist
     * @param facts what the list says beside
     * @throws UnreadableInput when it does not read back as what was read from the drive, or somebody wrote to the drive
     * @throws CancellationException when the watch says stop; nothing is left behind
     */
    public static CopyReport execute(
            BlockDevice drive, Path vault, Path copy, Map<String, String> facts, TransferWatch watch)
            throws IOException {
        long begin = System.nanoTime();
        return VaultLock.sharing(vault, () -> {
            VaultRun run = new VaultRun(drive, vault, watch);
            long packed = run.packs(packName(copy));
            run.list(copy, facts);
            VaultScript.put(vault);
            return new CopyReport(
                    copy,
                    run.extent,
                    packed + Files.size(copy),
                    PublishedChecksum.sha256(copy),
                    (System.nanoTime() - begin) / 1e9,
                    drive.readsPastCache(),
                    run.used());
        });
    }

    /** With its list under its name, the copy is there. */
    private void list(Path copy, Map<String, String> facts) throws IOException {
        Files.createDirectories(copy.toAbsolutePath().getParent());
        Path working = copy.resolveSibling(copy.getFileName() + ".part");
        Files.deleteIfExists(working);
        try {
            CopyManifest manifest =
                    new CopyManifest(ByteSize.of(extent), drive.sectorSize(), new LinkedHashMap<>(facts), places);
            String written = manifest.save(working);
            if (!CopyManifest.verify(working).equals(written)) {
                throw new UnreadableInput("The copy's list does not read back as it was written.");
            }
            Files.move(working, copy, StandardCopyOption.ATOMIC_MOVE);
            Durable.folder(copy.toAbsolutePath().getParent());
        } finally {
            Files.deleteIfExists(working);
        }
    }

    /** Packs are read in the order of their names, the later one counts: the time stands first. */
    private static String packName(Path copy) {
        String name = String.valueOf(copy.getFileName()).replaceFirst("\\" + SUFFIX + "$", "");
        Matcher stamped = STAMPED.matcher(name);
        return stamped.matches() ? stamped.group(2) + "-" + stamped.group(1) : name;
    }

    /** Puts what the vault has not yet into a pack of its own; gives the bytes that took. */
    private long packs(String name) throws IOException {
        Path folder = vault.resolve(ChunkPacks.FOLDER);
        try (ChunkPacks known = ChunkPacks.in(folder);
                PackWriter pack = new PackWriter(folder, name)) {
            String mark = drive.changeMark();
            try (Packers packers = new Packers(known);
                    BatchReader reader = new BatchReader(drive, used, used(), watch)) {
                read(reader, packers, pack);
            }
            if (!drive.changeMark().equals(mark)) {
                throw new UnreadableInput(
                        drive.name() + " was written to while it was being copied: the copy would be neither"
                                + " what it held before nor what it holds now, and was not kept. Stop what writes, and copy again.");
            }
            return pack.isEmpty() ? 0 : pack.commit(watch);
        }
    }

    /** What there is to read: no more than the copy is long. */
    private long used() {
        return Math.min(extent, used.bytes().bytes());
    }

    private void read(BatchReader reader, Packers packers, PackWriter pack) throws IOException {
        Deque<Future<List<ChunkPacking.Piece>>> ahead = new ArrayDeque<>();
        for (long at = 0; at < extent; at += BatchReader.BATCH) {
            watch.goOnOrStop();
            int length = (int) Math.min(BatchReader.BATCH, extent - at);
            if (used.holds(at, length) && mayHold(at, length)) {
                ahead.add(packers.pieces(reader, reader.read(at, length)));
            }
            while (ahead.size() > AHEAD) {
                put(pack, ahead.remove());
            }
        }
        while (!ahead.isEmpty()) {
            watch.goOnOrStop();
            put(pack, ahead.remove());
        }
    }

    /** False where it is known without reading that there are only zeros. */
    private boolean mayHold(long at, long length) {
        return stretches.isEmpty()
                || stretches.get().stream().anyMatch(each -> each.at() < at + length && at < each.at() + each.bytes());
    }

    private void put(PackWriter pack, Future<List<ChunkPacking.Piece>> next) throws IOException {
        try {
            for (ChunkPacking.Piece piece : next.get()) {
                if (piece.packed().isPresent()) {
                    pack.add(piece.chunk(), piece.packed().get(), piece.bytes(), piece.crc());
                }
                places.add(new CopyManifest.Place(piece.at(), piece.bytes(), piece.chunk()));
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new CancellationException();
        } catch (ExecutionException e) {
            throw Waiting.failure(e);
        }
    }
}
