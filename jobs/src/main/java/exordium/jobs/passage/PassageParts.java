// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.passage;

import exordium.core.finding.UnknownName;
import exordium.core.passage.Deed;
import exordium.core.passage.Part;
import exordium.core.storage.media.MediumKind;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** What passages need beside media: what of it is at hand, and what has to be bought for those under way. */
public final class PassageParts {
    private final Workbench workbench;
    private final PassageJob job;
    private final PassageHouse house;

    public PassageParts(Workbench workbench, BenchReader benches, PassageJob job) {
        this.workbench = workbench;
        this.job = job;
        this.house = new PassageHouse(workbench, benches);
    }

    /**
     * A part, and whether the house has it.
     *
     * @param usedIn boards whose passage under way has it bought
     */
    public record AtHand(Part part, boolean here, List<String> usedIn) {}

    public List<AtHand> parts() throws IOException {
        return parts(job.show(Optional.empty()));
    }

    /** Where all: how far passages are, as they were shown a moment ago. */
    public List<AtHand> parts(List<PassageJob.Shown> all) {
        Set<String> here = house.atHand(workbench.parts());
        return workbench.parts().parts().stream()
                .map(part -> new AtHand(part, here.contains(part.id()), buying(all, part.id())))
                .toList();
    }

    private static List<String> buying(List<PassageJob.Shown> all, String thing) {
        return all.stream()
                .filter(PassageJob.Shown::underWay)
                .filter(each -> each.steps().stream()
                        .anyMatch(step -> step.step().deed() == Deed.BUY
                                && step.progress() != Progress.DONE
                                && step.step()
                                        .value()
                                        .or(step.step()::medium)
                                        .filter(thing::equals)
                                        .isPresent()))
                .map(PassageJob.Shown::board)
                .toList();
    }

    /** Says of a part whether it is at hand. @throws UnknownName when there is no such part */
    public void tell(String part, boolean here) throws IOException {
        List<String> all = workbench.parts().parts().stream().map(Part::id).toList();
        if (!all.contains(part)) {
            throw new UnknownName(
                    "There is no part \"" + part + "\"; there are " + String.join(", ", all) + ".", part, all);
        }
        house.tell(part, here);
    }

    /** One line of what is to be bought; cost for all of them together, and for whom. */
    public record ToBuy(String thing, String title, double price, int count, List<String> boards) {}

    /** What all passages under way have bought. */
    public List<ToBuy> shopping() throws IOException {
        return shopping(job.show(Optional.empty()));
    }

    public List<ToBuy> shopping(List<PassageJob.Shown> all) {
        List<ToBuy> list = new ArrayList<>();
        for (Part part : workbench.parts().parts()) {
            List<String> boards = buying(all, part.id());
            if (!boards.isEmpty()) {
                list.add(new ToBuy(part.id(), part.title(), part.price(), 1, boards));
            }
        }
        for (MediumKind.Medium offer : workbench.media().offered()) {
            List<String> boards = buying(all, offer.id());
            if (!boards.isEmpty()) {
                list.add(new ToBuy(offer.id(), offer.name(), offer.price(), boards.size(), boards));
            }
        }
        return list;
    }
}
