// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies;

import exordium.core.copies.CopyAdvice;
import exordium.core.inspection.DriveInspection;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.MediaHealth;
import exordium.jobs.bench.Workbench;
import exordium.store.Media;
import java.io.IOException;

/** What a copy of a board's medium would read: as the medium is, here or as last read, at the rate it was measured at. */
public final class CopySource {
    private CopySource() {}

    public static CopyAdvice.Source of(
            Workbench workbench, BenchReader benches, Workbench.BoardAtHand at, Media.Medium medium, MediaHealth health)
            throws IOException {
        DriveInspection inspection = benches.inspection(medium, at.profile());
        return new CopyAdvice.Source(
                inspection.leastMedium(),
                inspection.used(),
                workbench.asCandidate(medium, health.signs(medium).paces()).readRate());
    }
}
