// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.passage;

import exordium.core.access.Ability;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareRelease;
import exordium.core.firmware.RecoverySet;
import exordium.core.passage.PassageFacts;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.FirmwareShelf;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firmware.RecoveryJob;
import exordium.jobs.shelf.ImagesFor;
import exordium.store.Copies;
import exordium.store.Images;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What could be written for a board: images of the shelf, its copies, a recovery set. */
final class PassageSources {
    private final Workbench workbench;
    private final BenchReader benches;

    PassageSources(Workbench workbench, BenchReader benches) {
        this.workbench = workbench;
        this.benches = benches;
    }

    void images(
            Workbench.BoardAtHand at,
            boolean looked,
            List<PassageFacts.Source> sources,
            Map<String, MediumContents> contents)
            throws IOException {
        for (Images.Image image : ImagesFor.of(workbench, at)) {
            Path file = workbench.images().resolve(image.file());
            if (!Files.isRegularFile(file)) {
                continue;
            }
            String id = "image:" + image.file();
            if (!looked) {
                sources.add(new PassageFacts.Source(id, title(image), image.size(), image.least(), false, false));
                continue;
            }
            try {
                MediumContents there = benches.inImage(file, image.size(), at.profile());
                contents.put(id, there);
                contents.put(id + PassageFacts.SET_UP, prepared(there));
                sources.add(new PassageFacts.Source(
                        id,
                        title(image),
                        used(there, image.size()),
                        image.least(),
                        there.start().isPresent() && there.hasKernelFor(at.profile()),
                        false));
            } catch (UnreadableInput e) {
                // One that cannot be read is no choice; its own page says why.
            }
        }
    }

    private static String title(Images.Image image) {
        return image.title() + (image.title().contains(image.version()) ? "" : " " + image.version());
    }

    /** As its first start makes it: remote login on. */
    private static MediumContents prepared(MediumContents there) {
        return there.withStart(start -> {
            List<String> names = new ArrayList<>(start.names());
            names.add("ssh");
            return start.withNames(names);
        });
    }

    private static ByteSize used(MediumContents there, ByteSize all) {
        ByteSize used = there.inspection().used();
        return used.bytes() > 0 && used.compareTo(all) < 0 ? used : all;
    }

    void copies(
            Workbench.BoardAtHand at,
            boolean looked,
            List<PassageFacts.Source> sources,
            Map<String, MediumContents> contents)
            throws IOException {
        List<Copies.Copy> all = workbench.workspace().copies().of(at.register().id());
        for (int i = all.size() - 1; looked && i >= 0; i--) {
            Copies.Copy copy = all.get(i);
            Path file = workbench.vault().resolve(copy.file());
            if (!Files.isRegularFile(file)) {
                continue;
            }
            String id = "copy:" + copy.id();
            MediumContents there = benches.inImage(file, ByteSize.of(copy.source()), at.profile());
            contents.put(id, there);
            sources.add(new PassageFacts.Source(
                    id,
                    "the copy of " + LocalDate.ofInstant(copy.proven(), workbench.zone()),
                    used(there, ByteSize.of(copy.source())),
                    there.inspection().leastMedium(),
                    true,
                    false));
            return;
        }
    }

    /** The newest release of the channel as a card; for real boards it is a set of their maker's, which is not here. */
    void recovery(Workbench.BoardAtHand at, List<PassageFacts.Source> sources, Map<String, MediumContents> contents)
            throws IOException {
        List<LocalDate> releases = releases(at);
        List<String> names = at.profile().firmware().recovery().orElse(List.of());
        boolean played = at.register().can(Ability.WRITE_CHIP);
        Optional<LocalDate> set = new RecoveryJob(workbench).newestSet(at).map(FirmwareShelf.ShelvedSet::version);
        boolean none = played ? releases.isEmpty() : set.isEmpty();
        if (none || names.isEmpty()) {
            return;
        }
        LocalDate release = played ? releases.get(releases.size() - 1) : set.get();
        String id = "recovery:" + release;
        ByteSize size = exordium.core.firmware.RecoveryCard.SIZE;
        MediumContents blank = MediumContents.unknown(size, 512, "").blank();
        contents.put(
                id,
                new MediumContents(
                        blank.inspection(),
                        Optional.of(new MediumContents.StartPartition(
                                1,
                                RecoverySet.names(at.profile()),
                                Optional.empty(),
                                at.profile().startFiles().kernelLine(),
                                Optional.empty(),
                                Optional.empty(),
                                Optional.empty(),
                                Optional.empty())),
                        Map.of(),
                        Optional.empty()));
        sources.add(new PassageFacts.Source(id, "the recovery set of " + release, size, size, false, false));
    }

    List<LocalDate> releases(Workbench.BoardAtHand at) {
        return workbench.firmware().of(at.profile().id()).stream()
                .filter(release -> at.register().channel().carries(release.channel()))
                .map(FirmwareRelease::version)
                .toList();
    }
}
