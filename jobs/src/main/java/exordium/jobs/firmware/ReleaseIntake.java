// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firmware;

import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareBundle;
import exordium.core.firmware.FirmwareRelease;
import exordium.jobs.bench.FirmwareShelf;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.JobRunner;
import exordium.jobs.run.Key;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Optional;

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
