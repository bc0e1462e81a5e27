// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.block.AlignedBuffers;
import exordium.core.block.BlockDevice;
import exordium.core.block.TransferWatch;
import exordium.core.finding.Refused;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.zip.CRC32C;

/**
 * Carries out one write plan: decode and write side by side, flush, read back past the cache, report.
 *
 * <p>The first chunk, with the partition table, is blanked at the beginning and written last. A write that was killed
 * half-way therefore leaves a drive without a table, which nothing starts from and nobody takes for good.
 *
 * <p>Memory: six buffers of 4 MiB, and four bytes of checksum for each 4 MiB of image.
 */
public final class WriteRun {
    private final WritePlan plan;
    private final BlockDevice target;
    private final TransferWatch watch;
    private final List<Integer> checksums = new ArrayList<>();
    private final ByteBuffer spare = AlignedBuffers.allocate(ChunkSource.CHUNK);

    private long written;
    private long skipped;
    private boolean tableBlanked;

    public WriteRun(WritePlan plan, BlockDevice target, TransferWatch watch) {
        this.plan = plan;
        this.target = target;
        this.watch = watch;
    }

    /**
     * Writes and proves. Every ending is a report; only a plan with a stop in it throws.
     *
     * @throws Refused when the plan has a stop; nothing was touched
     */
    public WriteReport execute() {
        Refused.ifAnyStops(plan.findings());
        long begin = System.nanoTime();
        long afterWrite = begin;
        Optional<String> sha = Optional.empty();
        Optional<Verification> verification = Optional.empty();
        Verdict verdict;
        String sentence;
        try {
            sha = writeAll();
            afterWrite = System.nanoTime();
            if (plan.verify()) {
                verification = Optional.of(verify());
                boolean agrees = verification.get().agrees();
                verdict = agrees ? Verdict.VERIFIED : Verdict.DIFFERENT;
                sentence = agrees ? provenSentence(verification.get()) : differSentence(verification.get());
            } else {
                verdict = Verdict.WRITTEN;
                sentence = "Written to " + target.name() + " and flushed; not read back.";
            }
        } catch (CancellationException e) {
            verdict = Verdict.CANCELLED;
            sentence = "Stopped. " + incomplete();
        } catch (IOException e) {
            verdict = Verdict.FAILED;
            sentence = withStop(e.getMessage()) + " " + incomplete();
        }
        long end = System.nanoTime();
        afterWrite = Math.max(afterWrite, begin);
        boolean wroteAll = afterWrite > begin;
        return new WriteReport(
                plan.image().name(),
                target.name(),
                plan.mode(),
                plan.imageSize().bytes(),
                written,
                skipped,
                (end - begin) / 1e9,
                ((wroteAll ? afterWrite : end) - begin) / 1e9,
                wroteAll ? (end - afterWrite) / 1e9 : 0,
                sha,
                verification,
                verdict,
                sentence);
    }

    private Optional<String> writeAll() throws IOException {
        try (ChunkSource source = new ChunkSource(plan.image().stream(), plan.digest())) {
            ChunkSource.Chunk first = source.next();
            if (first == null) {
                throw new IOException(plan.image().name() + " holds no bytes");
            }
            checksums.add(first.crc());
            boolean firstDiffers = differs(first);
            if (plan.mode() == WriteMode.WHOLE) {
                blankTable(first);
            }
            for (ChunkSource.Chunk chunk = source.next(); chunk != null; chunk = source.next()) {
                continueOrStop();
                requireRoom(chunk);
                checksums.add(chunk.crc());
                if (differs(chunk)) {
                    blankTable(first);
                    put(chunk);
                } else {
                    skip(chunk);
                }
                source.release(chunk);
            }
            target.flush();
            continueOrStop();
            if (tableBlanked || firstDiffers) {
                put(first);
                target.flush();
            } else {
                skip(first);
            }
            if (written + skipped != plan.imageSize().bytes()) {
                throw new IOException(plan.image().name() + " unpacked to " + (written + skipped) + " bytes where "
                        + plan.imageSize().bytes() + " were planned");
            }
            return source.sha256();
        }
    }

    /** In mode whole everything counts as different; nothing is read from the target first. */
    private boolean differs(ChunkSource.Chunk chunk) throws IOException {
        if (plan.mode() == WriteMode.WHOLE) {
            return true;
        }
        requireRoom(chunk);
        spare.clear().limit(chunk.length());
        target.readBack(chunk.position(), spare);
        return spare.flip().mismatch(chunk.buffer().duplicate()) >= 0;
    }

    private void requireRoom(ChunkSource.Chunk chunk) throws IOException {
        if (chunk.position() + chunk.length() > plan.imageSize().bytes()) {
            throw new IOException(plan.image().name() + " unpacks to more than the "
                    + plan.imageSize().exact() + " it announces");
        }
    }

    private void blankTable(ChunkSource.Chunk first) throws IOException {
        if (tableBlanked) {
            return;
        }
        ByteBuffer zeros = AlignedBuffers.allocate(ChunkSource.CHUNK);
        target.write(0, zeros.limit(first.length()));
        target.flush();
        tableBlanked = true;
    }

    private void put(ChunkSource.Chunk chunk) throws IOException {
        long begin = System.nanoTime();
        target.write(chunk.position(), chunk.buffer().duplicate());
        written += chunk.length();
        tell(TransferWatch.Phase.WRITING, chunk.position(), chunk.length(), begin);
    }

    private void skip(ChunkSource.Chunk chunk) {
        skipped += chunk.length();
        tell(TransferWatch.Phase.WRITING, chunk.position(), chunk.length(), System.nanoTime());
    }

    private Verification verify() throws IOException {
        BitSet bad = new BitSet();
        long size = plan.imageSize().bytes();
        for (int i = 0; i < checksums.size(); i++) {
            continueOrStop();
            long position = (long) i * ChunkSource.CHUNK;
            int length = (int) Math.min(ChunkSource.CHUNK, size - position);
            long begin = System.nanoTime();
            spare.clear().limit(length);
            target.readBack(position, spare);
            CRC32C crc = new CRC32C();
            crc.update(spare.flip());
            if ((int) crc.getValue() != checksums.get(i)) {
                bad.set(i);
            }
            tell(TransferWatch.Phase.READING_BACK, position, length, begin);
        }
        if (bad.isEmpty()) {
            return new Verification(size, target.readsPastCache(), List.of());
        }
        Verification exact = Comparison.of(
                plan.image(), target, position -> bad.get((int) (position / ChunkSource.CHUNK)), TransferWatch.NONE);
        List<Difference> differences = exact.differences();
        if (differences.isEmpty()) {
            // It differed once and agrees now: a medium that reads unsteadily is not good either.
            differences = bad.stream()
                    .mapToObj(i -> new Difference((long) i * ChunkSource.CHUNK, ChunkSource.CHUNK))
                    .toList();
        }
        return new Verification(size, target.readsPastCache(), differences);
    }

    private void tell(TransferWatch.Phase phase, long position, int length, long begin) {
        watch.moved(
                phase,
                position,
                length,
                System.nanoTime() - begin,
                plan.imageSize().bytes());
    }

    private void continueOrStop() {
        if (watch.cancelled()) {
            throw new CancellationException();
        }
    }

    private String incomplete() {
        if (!tableBlanked && written == 0) {
            return "Nothing was written; " + target.name() + " is as it was.";
        }
        return target.name() + " is incomplete and is not to be used; write it again.";
    }

    private String provenSentence(Verification proof) {
        return "Every byte of " + target.name() + " was read back and agrees with the image"
                + (proof.pastCache()
                        ? "."
                        : "; the file system here allows no reading past the page cache, so this proves the file, not the medium.");
    }

    private String differSentence(Verification proof) {
        Difference first = proof.differences().get(0);
        return target.name() + " differs from the image at byte " + first.offset()
                + (proof.differences().size() == 1
                        ? ""
                        : " and in " + (proof.differences().size() - 1) + " more places")
                + ". It is not to be used as it is; write it again, and replace the medium if it differs again.";
    }

    private static String withStop(String sentence) {
        return sentence == null ? "The write failed." : sentence.endsWith(".") ? sentence : sentence + ".";
    }
}
