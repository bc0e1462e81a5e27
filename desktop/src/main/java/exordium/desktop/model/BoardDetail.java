// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.model;

import exordium.core.copies.WayBack;
import exordium.core.daysheet.BoardFacts;
import exordium.core.daysheet.BoardState;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.MediumContents;
import exordium.core.storage.MediumKind;
import exordium.jobs.Targets;
import exordium.jobs.Workbench;
import exordium.jobs.WriteJob;
import exordium.store.Copies;
import exordium.store.Images;
import exordium.store.Media;
import java.nio.file.Files;
import java.time.LocalDate;
import java.util.ArrayList;
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
        List<WriteJob.Unfinished> unfinished) {

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
                .map(image -> ImageSource.of(image, workbench.workspace().images()))
                .toList();
        List<ImageSource> kept = keptCopies();
        boolean copyFirst = workbench.workspace().settings().wayBack() == WayBack.COPY;
        List<ImageSource> sources = new ArrayList<>(copyFirst ? kept : shelf);
        sources.addAll(copyFirst ? shelf : kept);
        return List.copyOf(sources);
    }

    private List<ImageSource> keptCopies() {
        List<ImageSource> sources = new ArrayList<>();
        for (int i = copies.size() - 1; i >= 0; i--) {
            Copies.Copy copy = copies.get(i);
            LocalDate day = LocalDate.ofInstant(copy.proven(), workbench.zone());
            if (Files.isRegularFile(workbench.workspace().vault().resolve(copy.file()))) {
                sources.add(ImageSource.of(copy, workbench.workspace().vault(), day));
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
