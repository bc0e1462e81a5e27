// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.demo;

import exordium.core.block.TransferWatch;
import exordium.core.multiboot.StartSets;
import exordium.core.network.NetworkPlan;
import exordium.core.profile.ProfileReader;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Workbench;
import exordium.jobs.multiboot.SetsJob;
import exordium.jobs.network.NetworkKit;
import java.io.IOException;

/** What was planned in the demo: a network start, and the start sets of a board; made like any others. */
final class DemoPlans {
    private DemoPlans() {}

    static void make(Workbench bench, ProfileReader reader) throws IOException {
        // A server and two boards that start from it, with no network anywhere.
        NetworkPlan plan = reader.shipped(DemoWorkspace.DEMO + "network.yaml", NetworkPlan.class)
                .settled();
        NetworkKit.of(bench).bringTo(plan, NetworkKit.Roots.TAR, TransferWatch.NONE);
        sets(bench, reader, "wave-tank");
    }

    private static void sets(Workbench bench, ProfileReader reader, String board) throws IOException {
        SetsJob job = new SetsJob(bench, new BenchReader(bench));
        for (StartSets.StartSet set : reader.shipped(DemoWorkspace.DEMO + "sets-" + board + ".yaml", StartSets.class)
                .sets()) {
            job.keep(bench.board(board), set);
        }
    }
}
