// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.TransferWatch;
import exordium.core.board.StartSource;
import exordium.core.finding.Refused;
import exordium.core.firmware.PublishedReleases;
import exordium.core.firmware.RecoverySet;
import exordium.core.testing.GeneralTools;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firmware.RecoveryJob;
import exordium.jobs.firmware.ReleaseIntake;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** From a package made by dpkg-deb to a card whose files are the set's, compared by cmp(1). What is in the package is made up. */
class RecoverySetTest {
    @TempDir
    Path folder;

    private House house;
    private Path images;

    @BeforeEach
    void open() throws IOException {
        house = House.demo(folder);
        images = Files.createDirectories(folder.resolve("pkg/usr/lib/loader/default"));
        byte[] image = new byte[300_000];
        new Random(7).nextBytes(image);
        Path chip = Files.write(images.resolve("chip-2026-10-05.bin"), image);
        Files.writeString(
                images.resolve("chip-2026-10-05.sig"),
                GeneralTools.said("sha256sum", chip.toString()).substring(0, 64) + "\n");
        Files.write(images.resolve("recovery.bin"), new byte[40_000]);
        Files.writeString(images.resolve("notes.md"), "## 2026-10-05\n* Adds NVMe boot\n");
    }

    private Path packed() throws IOException {
        Path control = Files.createDirectories(folder.resolve("pkg/DEBIAN"));
        Files.writeString(
                control.resolve("control"),
                "Package: loader\nVersion: 1\nArchitecture: all\nMaintainer: Nobody <nobody@example.invalid>\nDescription: x\n");
        Files.setPosixFilePermissions(control, PosixFilePermissions.fromString("rwxr-xr-x"));
        Path deb = folder.resolve("loader.deb");
        GeneralTools.run(
                "dpkg-deb", "--root-owner-group", "-b", folder.resolve("pkg").toString(), deb.toString());
        return deb;
    }

    private void take() throws IOException {
        ReleaseIntake intake = new ReleaseIntake(house.bench);
        PublishedReleases.Read read =
                intake.read(packed(), "plover-4", Map.of(), house.bench.targets(), TransferWatch.NONE);
        assertThat(read.complete()).isTrue();
        intake.take("loader.deb", "plover-4", read, true);
    }

    @Test
    void aCardForABoardByHandIsMadeOfItsMakersSetAndOfNothingElse() throws IOException {
        Workbench.BoardAtHand at = house.bench.board("slipway-lamp");
        RecoveryJob job = new RecoveryJob(house.bench);
        assertThatThrownBy(() -> job.plan(at, Optional.empty()))
                .isInstanceOf(Refused.class)
                .hasMessageContaining("None for a plover-4");
        take();
        RecoveryJob.Card card = job.plan(house.bench.board("slipway-lamp"), Optional.empty());
        assertThat(card.release().version()).hasToString("2026-10-05");
        assertThat(card.part("recovery.bin")).isEqualTo(RecoverySet.Part.WRITER);
        assertThat(card.part("chip-2026-10-05.bin")).isEqualTo(RecoverySet.Part.IMAGE);
        Path drive = Files.createFile(folder.resolve("card.img"));
        try (java.io.RandomAccessFile file = new java.io.RandomAccessFile(drive.toFile(), "rw")) {
            file.setLength(128L << 20);
        }
        assertThat(job.make(at, card, house.bench.targets(), drive, "card.img", TransferWatch.NONE)
                        .verdict()
                        .good())
                .isTrue();
        for (String name : new String[] {"recovery.bin", "chip-2026-10-05.bin", "chip-2026-10-05.sig"}) {
            Path out = folder.resolve("out-" + name);
            GeneralTools.run("mcopy", "-i", drive + "@@1M", "::" + name, out.toString());
            assertThat(GeneralTools.exitOf(
                            "cmp", out.toString(), images.resolve(name).toString()))
                    .as(name)
                    .isZero();
        }
        assertThatThrownBy(() -> job.plan(at, Optional.of("0xf14"))).isInstanceOf(Refused.class);
    }

    @Test
    void aSetThatWasSpoiledOnTheShelfIsNotWritten() throws IOException {
        take();
        Path kept = house.folder.resolve("firmware/recovery/plover-4/2026-10-05/chip-2026-10-05.bin");
        byte[] content = Files.readAllBytes(kept);
        content[5] ^= 1;
        Files.write(kept, content);
        RecoveryJob job = new RecoveryJob(house.bench);
        assertThatThrownBy(() -> job.plan(house.bench.board("slipway-lamp"), Optional.empty()))
                .isInstanceOf(IOException.class);
    }

    /** A drive that needs the newer firmware does not start on the older. */
    @Test
    void whatAReleaseEnablesHoldsForItsFamily() throws IOException {
        take();
        assertThat(house.bench.firmware().enabled("plover-4")).containsKey(StartSource.NVME);
        assertThat(house.bench.profiles().require("plover-4").firmware().needs().get(StartSource.NVME))
                .hasToString("2026-10-05");
    }
}
