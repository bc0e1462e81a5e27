// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firmware;

import exordium.core.block.TransferWatch;
import exordium.core.board.BoardProfile;
import exordium.core.board.FamilyField;
import exordium.core.board.FieldSource;
import exordium.core.board.StartSource;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareBundle;
import exordium.core.firmware.FirmwareRelease;
import exordium.core.firmware.PublishedFiles;
import exordium.core.firmware.PublishedReleases;
import exordium.core.firmware.RecoverySet;
import exordium.core.image.PackageFiles;
import exordium.jobs.bench.FirmwareShelf;
import exordium.jobs.bench.Inspections;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.family.Families;
import exordium.jobs.run.JobRunner;
import exordium.jobs.run.Key;
import java.io.IOException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** Releases taken onto the shelf: as bundles, or written down by hand. */
public final class ReleaseIntake {
    private static final JobRunner.DeedKind TAKE =
            JobRunner.DeedKind.keyed("release", Step.FIRMWARE, "adding to", "What is on the shelf is as it was.");

    private final Workbench workbench;

    public ReleaseIntake(Workbench workbench) {
        this.workbench = workbench;
    }

    /**
     * Checks a bundle and copies it onto the shelf.
     *
     * @throws UnreadableInput when it is broken, its channel is unknown, or it is signed by none of the keys that are trusted
     */
    public FirmwareShelf.Shelved take(Path file) throws IOException {
        FirmwareShelf shelf = workbench.firmwareShelf();
        FirmwareBundle bundle = FirmwareBundle.read(file, workbench.reader());
        workbench.firmware().channel(bundle.manifest().channel());
        FirmwareBundle.Signed signed = bundle.signed(shelf.keys(new ArrayList<>()));
        if (signed == FirmwareBundle.Signed.WRONG) {
            throw new UnreadableInput(file.getFileName()
                    + " is signed by none of the keys you trust, or was changed since; it was not taken over.");
        }
        Path put = taken(
                () -> shelf.put(bundle),
                "release-shelved",
                "Release " + bundle.manifest().version() + " for "
                        + String.join(", ", bundle.manifest().boards()) + " taken onto the shelf as a bundle.");
        return new FirmwareShelf.Shelved(put, bundle, signed);
    }

    /**
     * Reads what a maker publishes for a family; nothing is taken over.
     *
     * @param said channel of the publisher to one of ours
     * @throws UnreadableInput when it is neither a package, an archive or a folder, nor an image with a system that keeps releases
     */
    public PublishedReleases.Read read(
            Path path, String profile, Map<String, String> said, Targets reach, TransferWatch watch)
            throws IOException {
        BoardProfile family = workbench.profiles().require(profile);
        PackageFiles files = PackageFiles.isOne(path)
                ? PackageFiles.read(path)
                : Inspections.inside(path, reach, watch, PublishedFiles::in);
        return PublishedReleases.of(String.valueOf(path.getFileName()), files, family, workbench.firmware(), said);
    }

    /**
     * Takes it onto the shelf: releases, and the recovery set where it is whole. What its files are called is told of a family of one's
     * own.
     *
     * @param asProposed whether what the notes seem to say counts
     */
    public void take(String from, String profile, PublishedReleases.Read read, boolean asProposed) throws IOException {
        FirmwareShelf shelf = workbench.firmwareShelf();
        boolean whole = read.complete() && read.recoveryOf().isPresent();
        taken(
                () -> {
                    Path file = workbench.folder();
                    for (PublishedReleases.Published each : read.releases()) {
                        file = shelf.add(
                                asProposed ? proposed(each.release(), read.proposals()) : kept(each.release()));
                    }
                    if (whole) {
                        for (Map.Entry<LocalDate, RecoverySet> each :
                                read.sets().entrySet()) {
                            file = shelf.putSet(profile, each.getKey(), from, each.getValue());
                        }
                    }
                    return file;
                },
                "releases-taken",
                read.releases().size() + " releases for " + profile + " taken from " + from
                        + (whole
                                ? ", with the recovery sets of "
                                        + String.join(
                                                ", ",
                                                read.sets().keySet().stream()
                                                        .map(LocalDate::toString)
                                                        .toList())
                                : "")
                        + ".");
        if (whole) {
            names(profile, read.recovery().orElseThrow());
        }
    }

    /** What was told of a release before stays told when it is taken once more. */
    private FirmwareRelease kept(FirmwareRelease release) {
        Optional<FirmwareRelease> before =
                workbench.firmware().find(release.boards().get(0), release.version());
        return before.isEmpty()
                ? release
                : new FirmwareRelease(
                        release.boards(),
                        release.version(),
                        release.channel(),
                        release.notes(),
                        before.get().enables(),
                        before.get().mends(),
                        before.get().needs());
    }

    private FirmwareRelease proposed(FirmwareRelease release, List<PublishedReleases.Proposal> proposals) {
        List<StartSource> enables = new ArrayList<>();
        List<FirmwareRelease.Mend> mends = new ArrayList<>();
        for (PublishedReleases.Proposal each : proposals) {
            if (each.version().equals(release.version())) {
                each.enables().stream()
                        .filter(source -> !enables.contains(source))
                        .forEach(enables::add);
                each.mends().forEach(what -> mends.add(new FirmwareRelease.Mend(what, List.of())));
            }
        }
        FirmwareRelease as = kept(release);
        return new FirmwareRelease(
                as.boards(),
                as.version(),
                as.channel(),
                as.notes(),
                enables.isEmpty() ? as.enables() : Optional.of(enables),
                mends.isEmpty() ? as.mends() : Optional.of(mends),
                as.needs());
    }

    private void names(String profile, RecoverySet set) throws IOException {
        Families families = Families.of(workbench);
        if (!families.own().contains(profile)) {
            return;
        }
        Map<String, String> said = new TreeMap<>();
        set.piece(RecoverySet.Part.WRITER)
                .ifPresent(each -> said.put(FamilyField.FIRMWARE_RECOVERY.code(), each.file()));
        families.told(profile, said, FieldSource.told("its maker's recovery set"));
        workbench.profilesChanged();
    }

    /** @throws UnreadableInput when one of its families is not known */
    public void add(FirmwareRelease release) throws IOException {
        for (String board : release.boards()) {
            workbench.profiles().require(board);
        }
        taken(
                () -> workbench.firmwareShelf().add(release),
                "release-added",
                "Release " + release.version() + " for " + String.join(", ", release.boards()) + " written down: "
                        + release.notes());
    }

    private interface Taking {
        Path run() throws IOException;
    }

    private Path taken(Taking taking, String kind, String words) throws IOException {
        Path file = new JobRunner(workbench)
                .keyed(
                        TAKE,
                        Key.releases(),
                        Optional.empty(),
                        () -> new JobRunner.Outcome<>(taking.run(), kind, words));
        workbench.firmwareChanged();
        return file;
    }
}
