// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.judgement;

import exordium.core.finding.Finding;
import exordium.core.finding.Severity;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Watts;
import exordium.core.storage.media.Enclosure;
import exordium.core.storage.media.LinkChain;
import exordium.core.storage.media.MediumKind;
import java.time.Duration;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;

/**
 * What one medium would do for one board, with the numbers the judgement rests on.
 *
 * @param socket where it goes; enclosure: what it goes in
 * @param headroom bytes left today, headroomAtTheEnd: at the end of the role's years
 * @param enduranceYears the mean case; cautiousYears: twice the amplification and six tenths of the rating
 * @param price in euros, with what is needed to plug it in
 * @param worker writes out how the figures came about, which is wanted of one medium in many
 * @param judged what is to be said of it, sentences written when they are asked for
 * @param merit from 0 to 1, the weighted sum of the parts
 */
public record StorageAssessment(
        MediumKind.Medium medium,
        Optional<StorageNeed.Socket> socket,
        Optional<Enclosure> enclosure,
        boolean fits,
        ByteSize headroom,
        ByteSize headroomAtTheEnd,
        LinkChain readChain,
        LinkChain writeChain,
        ByteRate randomRead,
        Optional<Duration> writeTime,
        Duration startTime,
        double enduranceYears,
        double cautiousYears,
        Watts draw,
        Watts powerMargin,
        double price,
        double merit,
        List<MeritPart> parts,
        Supplier<List<Working>> worker,
        FindingToBe.Sentences judged) {

    /** One ground of the ranking: how well it does, from 0 to 1, how much that weighs here, and in words. */
    public record MeritPart(String name, double share, double weight, Supplier<String> writer) {
        public double counts() {
            return share * weight;
        }

        public String words() {
            return writer.get();
        }
    }

    /** What is to be said of it, worst first. */
    public List<Finding> findings() {
        return judged.written();
    }

    /** Whether anything speaks against it that does not rule it out. */
    public boolean anyCautions() {
        return judged.count(Severity.CAUTION) > 0;
    }

    /** The one sentence that says most of it: what rules it out, what speaks against it, else what speaks for it most. */
    public String verdict() {
        return !fits || anyCautions() ? judged.first().text() : strongest();
    }

    /** What speaks for it most. */
    public String strongest() {
        return parts.stream()
                .max(Comparator.comparing(MeritPart::counts))
                .map(MeritPart::words)
                .orElse("");
    }

    /** How one figure came about. */
    public record Working(String figure, String formula, String inputs, String basis) {}

    public List<Working> workings() {
        return worker.get();
    }

    public ByteRate effectiveRead() {
        return readChain.effective();
    }

    public ByteRate effectiveWrite() {
        return writeChain.effective();
    }

    /** Euros for each year of life, ten years at the most: nobody keeps a board longer. */
    public double pricePerYear() {
        return price / Math.max(0.1, Math.min(10, enduranceYears));
    }

    public StorageAssessment with(FindingToBe more) {
        return new StorageAssessment(
                medium,
                socket,
                enclosure,
                fits,
                headroom,
                headroomAtTheEnd,
                readChain,
                writeChain,
                randomRead,
                writeTime,
                startTime,
                enduranceYears,
                cautiousYears,
                draw,
                powerMargin,
                price,
                merit,
                parts,
                worker,
                judged.and(more));
    }
}
