// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firmware;

import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareBundle;
import exordium.core.firmware.FirmwareRelease;
import exordium.jobs.bench.FirmwareShelf;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Optional;

/** Releases taken onto the shelf: as bundles, or written down by hand. */
public final class ReleaseIntake {
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
        Path put = shelf.put(bundle);
        told(
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
        workbench.firmwareShelf().add(release);
        told(
                "release-added",
                "Release " + release.version() + " for " + String.join(", ", release.boards()) + " written down: "
                        + release.notes());
    }

    private void told(String kind, String words) {
        workbench.firmwareChanged();
        workbench.workspace().log().add(Optional.empty(), Step.FIRMWARE, kind, words, Optional.empty());
    }
}
