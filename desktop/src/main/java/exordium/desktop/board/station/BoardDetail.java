// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.station;

import exordium.core.copies.WayBack;
import exordium.core.daysheet.BoardFacts;
import exordium.core.daysheet.BoardState;
import exordium.core.daysheet.DaySheet;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.MediumContents;
import exordium.core.storage.MediumKind;
import exordium.core.storage.StorageChoice;
import exordium.desktop.desk.Desk;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Records;
import exordium.jobs.bench.TargetHistory;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.storage.StorageQuestion;
import exordium.jobs.writing.WriteJob;
import exordium.store.Copies;
import exordium.store.Images;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Files;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Everything a station of one board shows, read together off the interface thread. */
public record BoardDetail(
        Workbench workbench,
        Workbench.BoardAtHand at,
        BoardFacts facts,
        BoardState state,
        Bench bench,
        Optional<Media.Medium> medium,
        Optional<MediumContents> contents,
        List<Media.Medium> media,
        List<MediumKind.Medium> candidates,
        Map<String, String> inServiceAt,
        List<Images.Image> images,
        List<Targets.Target> targets,
        List<Copies.Copy> copies,
        List<WriteJob.Unfinished> unfinished,
        WayBack wayBack,
        StorageChoice choice) {

    /** Everything of one board. */
    public static BoardDetail read(Desk house, String id) throws IOException {
        Workbench workbench = house.workbench();
        BenchReader benches = house.benches();
        Workbench.BoardAtHand at = workbench.board(id);
        BoardFacts facts = house.sheets().facts(at);
        Optional<Media.Medium> medium = workbench.mainMedium(at);
        Map<String, String> service = new HashMap<>();
        workbench.inService().forEach((drive, board) -> service.put(drive, board.name()));
        Records records = workbench.records();
        StorageQuestion question = new StorageQuestion(workbench);
        TargetHistory history = new TargetHistory(workbench);
        List<Targets.Target> known = new ArrayList<>();
        for (Targets.Target target : house.targets().all(workbench.drives())) {
            known.add(history.known(target));
        }
        return new BoardDetail(
                workbench,
                at,
                facts,
                DaySheet.of(List.of(facts)).board(id),
                benches.of(at),
                medium,
                medium.isPresent()
                        ? Optional.of(benches.contents(medium.get().file(), at.profile()))
                        : Optional.empty(),
                records.media(),
                question.candidates(at),
                Map.copyOf(service),
                records.images(),
                known,
                records.copiesOf(id),
                WriteJob.unfinished(workbench),
                workbench.rules().wayBack(),
                question.choice(at, question.role(at), Optional.empty()));
    }

    public String id() {
        return at.register().id();
    }

    public String name() {
        return at.register().name();
    }

    /**
     * Everything that can be written for this board: images of the shelf and its copies, newest first. What stands first is
     * the house's way back.
     */
    public List<ImageSource> sources() {
        List<ImageSource> shelf = images.stream()
                .map(image -> ImageSource.of(image, workbench.images()))
                .toList();
        List<ImageSource> kept = keptCopies();
        boolean copyFirst = wayBack == WayBack.COPY;
        List<ImageSource> sources = new ArrayList<>(copyFirst ? kept : shelf);
        sources.addAll(copyFirst ? shelf : kept);
        return List.copyOf(sources);
    }

    private List<ImageSource> keptCopies() {
        List<ImageSource> sources = new ArrayList<>();
        for (int i = copies.size() - 1; i >= 0; i--) {
            Copies.Copy copy = copies.get(i);
            LocalDate day = LocalDate.ofInstant(copy.proven(), workbench.zone());
            if (Files.isRegularFile(workbench.vault().resolve(copy.file()))) {
                sources.add(ImageSource.of(copy, workbench.vault(), day));
            }
        }
        return sources;
    }

    /** The register's entry behind a target, where it is a drive of the workspace. */
    public Optional<Media.Medium> registered(Targets.Target target) {
        return media.stream()
                .filter(each -> target.simulated()
                        ? each.file().equals(target.description().id())
                        : !target.serial().isEmpty() && each.serial().equals(target.serial()))
                .findFirst();
    }
}
