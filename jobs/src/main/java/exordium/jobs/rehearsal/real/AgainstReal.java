// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import exordium.core.finding.NotPossible;
import exordium.core.rehearsal.Bench;
import exordium.jobs.bench.Folders;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.ServiceLoader;

/**
 * Holds a rehearsal against everything real that is installed and has something to say of it; those who ask are found by the service
 * loader, beside the program's own tests.
 *
 * @param silent by peer: why it was not asked
 */
public record AgainstReal(List<Compared> compared, Map<String, String> silent) {
    /** Takes seconds each; the drives are only read. @throws IOException when a drive cannot be read */
    public static AgainstReal of(RealBench real) throws IOException {
        List<Compared> compared = new ArrayList<>();
        Map<String, String> silent = new LinkedHashMap<>();
        for (RealPeer peer : ServiceLoader.load(RealPeer.class)) {
            if (peer.silent(real).isPresent()) {
                silent.put(peer.title(), peer.silent(real).get());
            } else {
                compared.add(peer.compare(real));
            }
        }
        if (compared.isEmpty() && silent.isEmpty()) {
            throw new NotPossible(
                    "What asks real firmware and kernels stands beside this program's sources, and is in no package of it.");
        }
        return new AgainstReal(compared, silent);
    }

    /** The same in a folder of its own, which is gone afterwards. */
    public static AgainstReal of(Bench bench, Map<String, RealBench.Drive> drives, Path room) throws IOException {
        try (Folders.Working folder = Folders.Working.in(room)) {
            return of(RealBench.of(bench, drives, folder.path()));
        }
    }

    public boolean agrees() {
        return compared.stream().allMatch(Compared::agrees);
    }
}
