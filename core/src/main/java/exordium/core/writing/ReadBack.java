// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.block.BlockDevice;
import exordium.core.block.MediumException;
import exordium.core.block.TransferWatch;
import exordium.core.block.TransferWatch.Phase;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** What was written to a target, read back in the medium's own order and held to the checksums of what was to be there. */
final class ReadBack {
    /** This many unreadable chunks on end are no bad places any more but a drive that is gone. */
    private static final int GONE = 4;

    private final List<Proof> proofs = new ArrayList<>();
    private final ReadAhead ahead;
    private long nanos;

    ReadBack(ReadAhead ahead) {
        this.ahead = ahead;
    }

    /** What is to be read back of one chunk. */
    private record Proof(long position, int length, Pieces pieces, int crc) {}

    /** Where pieces: those of the chunk that were written, or found right. */
    void expect(ChunkSource.Chunk chunk, Pieces pieces) {
        if (pieces.bytes() > 0) {
            proofs.add(new Proof(chunk.position(), chunk.length(), pieces, crc(chunk, pieces)));
        }
    }

    /** That of a whole chunk was worked out beside the decoding. */
    static int crc(ChunkSource.Chunk chunk, Pieces pieces) {
        if (chunk.held().isEmpty()) {
            return 0;
        }
        return pieces.bytes() == chunk.length() ? chunk.crc() : pieces.crc(chunk.buffer());
    }

    /** There is nothing to read a second time. */
    void nothing() {
        proofs.clear();
    }

    /** What there is to read back. */
    long bytes() {
        return proofs.stream().mapToLong(proof -> proof.pieces().bytes()).sum();
    }

    /** The time reading took. */
    long nanos() {
        return nanos;
    }

    /** What differs or cannot be read, looked at once more. @throws MediumException when the medium is gone */
    List<Difference> differences(WritePlan plan, BlockDevice target, int chunk, TransferWatch watch)
            throws IOException {
        long total = bytes();
        // The first chunk was written last and is read first: a medium is read in its own order.
        proofs.sort(Comparator.comparingLong(Proof::position));
        List<Proof> doubtful = new ArrayList<>();
        int unreadable = 0;
        ask(0);
        for (int i = 0; i < proofs.size(); i++) {
            watch.goOnOrStop();
            Proof proof = proofs.get(i);
            boolean agrees = false;
            try {
                ByteBuffer back = ahead.take();
                ask(i + 1);
                agrees = proof.pieces().crc(back) == proof.crc();
                unreadable = 0;
            } catch (MediumException e) {
                unreadable++;
                if (unreadable >= GONE) {
                    throw e;
                }
                ask(i + 1);
            }
            if (!agrees) {
                doubtful.add(proof);
            }
            nanos += ahead.nanos();
            watch.moved(Phase.READING_BACK, proof.position(), proof.pieces().bytes(), ahead.nanos(), total);
        }
        return doubtful.isEmpty() ? List.of() : mapped(doubtful, plan, target, chunk, watch);
    }

    private void ask(int proof) {
        if (proof < proofs.size()) {
            ahead.ask(proofs.get(proof).position(), proofs.get(proof).pieces());
        }
    }

    /** Byte for byte where it can be read, and as a stretch where not. */
    private static List<Difference> mapped(
            List<Proof> doubtful, WritePlan plan, BlockDevice target, int chunk, TransferWatch watch)
            throws IOException {
        List<Difference> exact = Comparison.ofDoubtful(
                plan.image(),
                target,
                chunk,
                position -> doubtful.stream().anyMatch(proof -> proof.position() == position),
                (position, from) -> doubtful.stream()
                        .filter(proof -> proof.position() == position)
                        .anyMatch(proof -> proof.pieces().extents().stream()
                                .anyMatch(each -> from >= each.from() && from < each.to())),
                TransferWatch.stopOnly(watch));
        if (!exact.isEmpty()) {
            return exact;
        }
        // It differed once and agrees now: a medium that reads unsteadily is not good either.
        return doubtful.stream()
                .map(proof -> new Difference(proof.position(), proof.length()))
                .toList();
    }
}
