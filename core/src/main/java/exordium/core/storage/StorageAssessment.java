// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage;

import exordium.core.finding.Finding;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Watts;
import java.time.Duration;
import java.util.List;
import java.util.Optional;

/** What one medium would do for one board, with the numbers the judgement rests on. */
public record StorageAssessment(
        MediumKind.Medium medium,
        Optional<StorageNeed.Socket> socket,
        boolean fits,
        ByteSize headroom,
        LinkChain readChain,
        LinkChain writeChain,
        Optional<Duration> writeTime,
        double enduranceYears,
        Watts powerMargin,
        List<Finding> findings) {

    public ByteRate effectiveRead() {
        return readChain.effective();
    }

    public ByteRate effectiveWrite() {
        return writeChain.effective();
    }
}
