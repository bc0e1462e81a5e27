// SPDX-License-Identifier: Apache-2.0
package exordium.cli.passage;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.jobs.passage.PassageParts;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code parts}: what boards need beside media, what of it is at hand, and what is to be bought. */
@Command(
        name = "parts",
        description = "What work on boards needs beside media: what is at hand, and what is to be bought.",
        mixinStandardHelpOptions = true)
public final class PartsCommand {
    private record PartOut(String id, String kind, String title, double price, boolean atHand, List<String> wantedBy) {}

    private static PassageParts job(Common common) throws IOException {
        Common.House house = common.house();
        return new PassageParts(house.bench(), house.benches(), PassageCommand.job(common, house));
    }

    @Command(name = "list", description = "Every part, and whether it is at hand.")
    int list(@Mixin Common common) throws IOException {
        print(common, job(common));
        return ExitCode.DONE;
    }

    private static void print(Common common, PassageParts job) throws IOException {
        List<PartOut> parts = job.parts().stream()
                .map(each -> new PartOut(
                        each.part().id(),
                        each.part().kind(),
                        each.part().title(),
                        each.part().price(),
                        each.here(),
                        each.usedIn()))
                .toList();
        common.print(
                parts,
                parts.stream()
                        .map(each -> (each.atHand() ? "at hand  " : "         ") + each.id() + "  " + each.title()
                                + String.format(Locale.ROOT, ", %.0f euros", each.price())
                                + (each.wantedBy().isEmpty()
                                        ? ""
                                        : ", wanted by " + String.join(", ", each.wantedBy())))
                        .toList());
    }

    @Command(name = "have", description = "Say that a part is at hand.")
    int have(@Mixin Common common, @Parameters(paramLabel = "PART") String part) throws IOException {
        return told(common, part, true);
    }

    @Command(name = "lack", description = "Say that a part is not at hand.")
    int lack(@Mixin Common common, @Parameters(paramLabel = "PART") String part) throws IOException {
        return told(common, part, false);
    }

    private static int told(Common common, String part, boolean here) throws IOException {
        PassageParts job = job(common);
        job.tell(part, here);
        print(common, job);
        return ExitCode.DONE;
    }

    private record ListOut(List<PassageParts.ToBuy> things, double cost) {}

    @Command(name = "shopping", description = "What all passages under way have bought, with prices.")
    int shopping(@Mixin Common common) throws IOException {
        List<PassageParts.ToBuy> list = job(common).shopping();
        double cost =
                list.stream().mapToDouble(each -> each.price() * each.count()).sum();
        List<String> lines = new ArrayList<>();
        list.forEach(each -> lines.add(String.format(
                Locale.ROOT,
                "%d  %s (%s)  %.0f euros, for %s",
                each.count(),
                each.title(),
                each.thing(),
                each.price() * each.count(),
                String.join(", ", each.boards()))));
        lines.add(
                list.isEmpty()
                        ? "Nothing has to be bought for what is under way."
                        : String.format(Locale.ROOT, "%.0f euros in all", cost));
        common.print(new ListOut(list, cost), lines);
        return ExitCode.DONE;
    }
}
