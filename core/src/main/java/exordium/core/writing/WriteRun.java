// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.block.BlockDevice;
import exordium.core.block.TransferWatch;
import exordium.core.block.Waiting;
import exordium.core.finding.Refused;
import exordium.core.image.ImageFile;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;

/**
 * Carries out write plans of one image: decode and write side by side, flush, read back past the cache, report. Several
 * targets are written from one reading of the image; one that fails drops out, the others go on.
 *
 * <p>Memory: five buffers of 4 MiB for the image, two for each target, and a checksum for each 4 MiB written.
 */
public final class WriteRun {
    private final List<Lane> wanted;
    private final WriteGranularity grain;
    private final List<TargetLane> lanes = new ArrayList<>();

    /** One target with its plan. */
    public record Lane(WritePlan plan, BlockDevice target, TransferWatch watch, WriteJournal journal) {}

    public WriteRun(WritePlan plan, BlockDevice target, TransferWatch watch) {
        this(List.of(new Lane(plan, target, watch, WriteJournal.NONE)));
    }

    /** All lanes write one and the same image. */
    public WriteRun(List<Lane> wanted) {
        this(wanted, WriteGranularity.USUAL);
    }

    /** The same in other steps. */
    public WriteRun(List<Lane> wanted, WriteGranularity grain) {
        this.grain = grain;
        this.wanted = List.copyOf(wanted);
    }

    /**
     * Writes and proves a single target.
     *
     * @throws Refused when its plan has a stop; nothing was touched
     */
    public WriteReport execute() {
        return executeAll().get(0);
    }

    /** Writes and proves; every ending is a report, in the order of the lanes. */
    public List<WriteReport> executeAll() {
        wanted.forEach(lane -> Refused.ifAnyStops(lane.plan().findings()));
        for (Lane lane : wanted) {
            lanes.add(new TargetLane(lane.plan(), lane.target(), lane.watch(), lane.journal(), grain));
        }
        Optional<String> sha256 = Optional.empty();
        ExecutorService workers = Executors.newFixedThreadPool(Math.max(1, lanes.size() - 1), work -> {
            Thread thread = new Thread(work, "target-writer");
            thread.setDaemon(true);
            return thread;
        });
        try {
            ImageFile image = wanted.get(0).plan().image();
            if (image.isStill()) {
                sha256 = writeAll(workers);
                inEach(workers, TargetLane::verify);
            }
            if (!image.isStill()) {
                lanes.forEach(TargetLane::imageChanged);
            }
        } catch (IOException e) {
            for (TargetLane lane : lanes) {
                lane.attempt(() -> {
                    throw e;
                });
            }
        } finally {
            workers.shutdownNow();
            lanes.forEach(TargetLane::close);
        }
        Optional<String> sum = sha256;
        return lanes.stream().map(lane -> lane.report(sum)).toList();
    }

    private Optional<String> writeAll(ExecutorService workers) throws IOException {
        WritePlan plan = lanes.get(0).plan();
        try (ChunkSource source = new ChunkSource(plan.image(), grain.chunk(), plan.digest(), this::needed)) {
            ChunkSource.Chunk first = source.next();
            if (first == null) {
                throw new IOException(plan.image().name() + " holds no bytes");
            }
            inEach(workers, lane -> lane.begin(first));
            for (ChunkSource.Chunk chunk = source.next(); chunk != null && anyGoesOn(); chunk = source.next()) {
                ChunkSource.Chunk now = chunk;
                inEach(workers, lane -> lane.take(now));
                source.release(chunk);
            }
            inEach(workers, lane -> lane.finish(first));
            return anyGoesOn() ? source.sha256() : Optional.empty();
        }
    }

    /** The first chunk holds the table, whatever else a lane wants. */
    private boolean needed(long position) {
        return position == 0 || lanes.stream().anyMatch(lane -> lane.wants(position));
    }

    private boolean anyGoesOn() {
        return lanes.stream().anyMatch(lane -> !lane.ended());
    }

    private interface LaneStep {
        void on(TargetLane lane) throws IOException;
    }

    /** One step in every lane at once; the first lane on this thread. An error of the machine ends all. */
    private void inEach(ExecutorService workers, LaneStep step) throws IOException {
        List<Future<Void>> others = new ArrayList<>();
        for (TargetLane lane : lanes.subList(1, lanes.size())) {
            Callable<Void> work = () -> {
                lane.attempt(() -> step.on(lane));
                return null;
            };
            others.add(workers.submit(work));
        }
        lanes.get(0).attempt(() -> step.on(lanes.get(0)));
        for (Future<Void> other : others) {
            Waiting.on(other);
        }
    }
}
