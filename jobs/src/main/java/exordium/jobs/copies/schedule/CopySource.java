// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies.schedule;

import exordium.core.copies.care.CopyAdvice;
import exordium.core.inspection.DriveInspection;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.MediaHealth;
import exordium.jobs.bench.Workbench;
import exordium.store.Judged;
import exordium.store.Media;
import java.io.IOException;
import java.util.HashMap;
import java.util.Map;

/** What copies of boards' media would read: as each medium is, here or as last read, at the rate it was measured at. */
public final class CopySource {
    private final Workbench workbench;
    private final BenchReader benches;
    private final MediaHealth health;
    private final Map<String, Judged.Extent> known;
    private final Map<String, Judged.Extent> fresh = new HashMap<>();

    /** For any number of them, with what was worked out before. */
    public CopySource(Workbench workbench, BenchReader benches, MediaHealth health) {
        this.workbench = workbench;
        this.benches = benches;
        this.health = health;
        this.known = workbench.workspace().judged().all();
    }

    public CopyAdvice.Source of(Workbench.BoardAtHand at, Media.Medium medium) throws IOException {
        Judged.Extent extent = extent(at, medium);
        return new CopyAdvice.Source(
                extent.least(),
                extent.used(),
                workbench.asCandidate(medium, health.signs(medium).paces()).readRate());
    }

    private Judged.Extent extent(Workbench.BoardAtHand at, Media.Medium medium) throws IOException {
        String stamp = benches.stamp(medium);
        Judged.Extent before = fresh.getOrDefault(medium.id(), known.get(medium.id()));
        if (before != null && !stamp.isEmpty() && before.stamp().equals(stamp)) {
            return before;
        }
        DriveInspection inspection = benches.inspection(medium, at.profile());
        Judged.Extent now = new Judged.Extent(stamp, inspection.leastMedium(), inspection.used());
        if (!stamp.isEmpty()) {
            fresh.put(medium.id(), now);
        }
        return now;
    }

    /** Keeps what was worked out now for those who ask next. */
    public void keep() {
        if (!fresh.isEmpty()) {
            workbench.workspace().inTransaction(() -> {
                fresh.forEach(workbench.workspace().judged()::put);
                return null;
            });
            fresh.clear();
        }
    }
}
