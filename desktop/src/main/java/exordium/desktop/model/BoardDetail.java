// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.model;

import exordium.core.daysheet.BoardFacts;
import exordium.core.daysheet.BoardState;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.MediumContents;
import exordium.core.storage.MediumKind;
import exordium.jobs.Targets;
import exordium.jobs.Workbench;
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
        List<Copies.Copy> copies) {

    public String id() {
        return at.register().id();
    }

    public String name() {
        return at.register().name();
    }

    /** Everything that can be written for this board: the images of the shelf, then its copies, newest first. */
    public List<ImageSource> sources() {
        List<ImageSource> sources = new ArrayList<>();
        images.forEach(
                image -> sources.add(ImageSource.of(image, workbench.workspace().images())));
        for (int i = copies.size() - 1; i >= 0; i--) {
            Copies.Copy copy = copies.get(i);
            LocalDate day = LocalDate.ofInstant(copy.proven(), workbench.zone());
            if (Files.isRegularFile(workbench.workspace().vault().resolve(copy.file()))) {
                sources.add(ImageSource.of(copy, workbench.workspace().vault(), day));
            }
        }
        return List.copyOf(sources);
    }

    /** The register's entry behind a target, where it is a drive of the workspace. */
    public Optional<Media.Medium> registered(Targets.Target target) {
        return media.stream()
                .filter(each -> each.file().equals(target.description().id()))
                .findFirst();
    }
}
