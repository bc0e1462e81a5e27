// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import exordium.core.board.BoardProfile;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.MediaCatalogue;
import exordium.core.storage.StorageAssessment;
import exordium.core.storage.StorageChoice;
import exordium.core.storage.StorageNeed;
import exordium.core.storage.Supply;
import exordium.jobs.Inspections;
import exordium.jobs.StorageQuestion;
import exordium.jobs.Workbench;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code choose}: judges the catalogue's media for what a board needs. */
@Command(name = "choose", description = "Judge media for what a board needs.")
final class ChooseCommand implements Callable<Integer> {
    private static final String SCHEMA = "/exordium/profiles/needs.schema.json";
    private static final int SMALLEST_LABEL = 16;

    @Mixin
    private Common common;

    @Parameters(paramLabel = "NEEDS.yaml", arity = "0..1")
    private Path file;

    @Option(names = "--board", paramLabel = "ID", description = "a board of the register, from what is at hand for it")
    private String board;

    @Option(names = "--image", paramLabel = "FILE", description = "with --board: the image it is for")
    private Path image;

    /** The form of NEEDS.yaml; the supply is the one the board is made for where none is named. */
    record Needs(
            String profile,
            Optional<ByteSize> image,
            Optional<ByteSize> data,
            Optional<ByteSize> dailyWrites,
            Optional<Supply> supply) {}

    private record CandidateOut(
            String id,
            boolean fits,
            double effectiveReadRate,
            double effectiveWriteRate,
            String bottleneck,
            double enduranceYears,
            long capacityHeadroomBytes,
            double powerMarginWatts,
            int rank,
            List<Common.FindingOut> findings) {}

    private record Out(List<CandidateOut> candidates) {}

    @Override
    public Integer call() throws IOException {
        if ((file == null) == (board == null)) {
            throw new UnreadableInput("Give either a file of needs or --board.");
        }
        print(board == null ? fromCatalogue() : fromDrawer());
        return ExitCode.DONE;
    }

    private List<StorageAssessment> fromDrawer() throws IOException {
        Workbench bench = common.workbench();
        Optional<ByteSize> least = Optional.empty();
        if (image != null) {
            least = Optional.of(Inspections.ofImage(image).leastMedium());
        }
        return new StorageQuestion(bench).ranked(bench.board(board), least);
    }

    private List<StorageAssessment> fromCatalogue() throws IOException {
        Needs needs = common.reader().user(file, SCHEMA, Needs.class);
        BoardProfile profile = common.profile(needs.profile());
        StorageNeed need = new StorageNeed(
                needs.image(),
                needs.data().orElse(ByteSize.ZERO),
                needs.dailyWrites().orElse(ByteSize.ZERO),
                needs.supply()
                        .orElse(new Supply(
                                profile.power().volts(), profile.power().amps(), "adapter")),
                profile.power().baseWatts(),
                StorageNeed.leastOf(SMALLEST_LABEL),
                profile.sockets());
        return StorageChoice.rank(need, MediaCatalogue.shipped(common.reader()).offered());
    }

    private void print(List<StorageAssessment> ranked) {
        List<CandidateOut> out = new ArrayList<>();
        List<String> lines = new ArrayList<>();
        for (StorageAssessment each : ranked) {
            int rank = out.size() + 1;
            out.add(new CandidateOut(
                    each.medium().id(),
                    each.fits(),
                    each.effectiveRead().bytesPerSecond(),
                    each.effectiveWrite().bytesPerSecond(),
                    each.readChain().narrowest().title(),
                    each.enduranceYears(),
                    each.headroom().bytes(),
                    each.powerMargin().value(),
                    rank,
                    Common.out(each.findings())));
            lines.add(rank + "  " + each.medium().name() + (each.fits() ? "" : " (does not fit)") + ", "
                    + each.effectiveRead().said() + " through "
                    + each.readChain().narrowest().title());
            Common.lines(each.findings()).forEach(line -> lines.add("     " + line));
        }
        common.print(new Out(out), lines);
    }
}
