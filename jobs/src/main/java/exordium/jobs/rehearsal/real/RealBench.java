// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import exordium.core.block.BlockDevice;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A bench with the bytes behind it.
 *
 * @param drives by port
 * @param folder of one's own, for what is made on the way
 */
public record RealBench(Bench bench, Trace trace, Map<String, Drive> drives, Path folder) {
    /** A drive's bytes, only ever read. */
    public interface Drive {
        BlockDevice open() throws IOException;

        /** The file, where its bytes lie in one as they are. */
        Optional<Path> raw() throws IOException;
    }

    public static RealBench of(Bench bench, Map<String, Drive> drives, Path folder) {
        return new RealBench(bench, Rehearsal.of(bench), drives, folder);
    }

    /** What is plugged in and seen, and of which the bytes are at hand. */
    public List<Bench.Attached> seen() {
        return Rehearsal.seen(bench).stream()
                .filter(each -> drives.containsKey(each.port()))
                .toList();
    }

    /** Ports with media on them in the order they were tried, up to the one that started. */
    public List<String> tried() {
        List<String> here = seen().stream().map(Bench.Attached::port).toList();
        return trace.steps().stream()
                .filter(step -> step.stage() == Trace.Stage.SOURCE)
                .flatMap(step -> step.port().stream())
                .filter(here::contains)
                .toList();
    }
}
