// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.TransferWatch;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.lint.SettingsCheck;
import exordium.core.image.PublishedChecksum;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.jobs.shelf.Intake;
import exordium.store.Images;
import exordium.store.Media;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class IntakeTest {
    @TempDir
    Path folder;

    private House house;
    private Intake intake;

    @BeforeEach
    void open() throws IOException {
        house = House.empty(folder);
        intake = new Intake(house.bench);
    }

    @Test
    void anImageIsCopiedLookedIntoAndCheckedAgainstItsPublishedSum() throws IOException {
        Path disk = new DiskBuilder(folder).build("marsh.img");
        GeneralTools.run("xz", "-0", disk.toString());
        GeneralTools.run(folder, "sh", "-c", "sha256sum marsh.img.xz > SHA256SUMS");
        Images.Image image = intake.image(folder.resolve("marsh.img.xz"), TransferWatch.NONE);
        assertThat(image.title()).isEqualTo("marshlinux 2026.10");
        assertThat(image.checksum()).isEqualTo(PublishedChecksum.State.AGREES);
        assertThat(image.container()).isEqualTo("xz");
        GeneralTools.run(house.workspace.images(), "sha256sum", "--check", "marsh.img.xz.sha256");
        assertThatThrownBy(() -> intake.image(folder.resolve("marsh.img.xz"), TransferWatch.NONE))
                .hasMessageContaining("already");
    }

    @Test
    void aWrongSumIsShownAsDifferentAndTheImageKeptForLooking() throws IOException {
        Path disk = new DiskBuilder(folder).build("marsh.img");
        Files.writeString(folder.resolve("marsh.img.sha256"), "0".repeat(64) + "  marsh.img\n");
        assertThat(intake.image(disk, TransferWatch.NONE).checksum()).isEqualTo(PublishedChecksum.State.DIFFERS);
        Path other = Files.copy(disk, folder.resolve("other.img"));
        String line = GeneralTools.run("sha512sum", other.toString());
        assertThat(intake.image(other, Optional.of(line), TransferWatch.NONE).checksum())
                .isEqualTo(PublishedChecksum.State.AGREES);
        assertThat(house.workspace.images().resolve("other.img.sha512")).exists();
    }

    @Test
    void aBrokenImageLeavesNothingOnTheShelf() throws IOException {
        Path disk = new DiskBuilder(folder).build("marsh.img");
        GeneralTools.run("xz", "-0", disk.toString());
        GeneralTools.run("truncate", "-s", "-40", folder.resolve("marsh.img.xz").toString());
        assertThatThrownBy(() -> intake.image(folder.resolve("marsh.img.xz"), TransferWatch.NONE))
                .isInstanceOf(UnreadableInput.class);
        assertThat(house.workspace.images().toFile().list()).isEmpty();
        assertThat(house.workspace.imageShelf().all()).isEmpty();
    }

    @Test
    void aNewDriveLiesInTheDrawerWithThePaceOfItsKind() throws IOException {
        Media.Medium medium = intake.drive("Tidewell 32", "card-quick", ByteSize.of(31_914_983_425L));
        assertThat(medium.size()).isEqualTo(ByteSize.of(31_914_983_424L));
        assertThat(medium.place()).isEqualTo("drawer");
        assertThat(house.target("tidewell-32.img").description().writeRate()).isPresent();
        assertThatThrownBy(() -> intake.drive("Tidewell 32", "card-quick", ByteSize.ofGigabytes(1)))
                .hasMessageContaining("already");
        assertThatThrownBy(() -> intake.drive("B", "wax-cylinder", ByteSize.ofGigabytes(1)))
                .hasMessageContaining("wax-cylinder");
        assertThatThrownBy(() -> intake.drive("C", "card-quick", ByteSize.of(100)))
                .hasMessageContaining("512");
    }

    @Test
    void oneImageOfAnArchiveGoesOnTheShelfAlone() throws IOException {
        Path first = new DiskBuilder(folder).build("first.img");
        Files.write(folder.resolve("second.img"), new byte[4096]);
        GeneralTools.run(folder, "zip", "-q", "both.zip", "first.img", "second.img");
        Path archive = folder.resolve("both.zip");
        GeneralTools.run(folder, "sh", "-c", "sha256sum both.zip > SHA256SUMS");
        Images.Image shelved = intake.image(archive.resolve("first.img"), TransferWatch.NONE);
        assertThat(shelved.file()).isEqualTo("first.img");
        assertThat(shelved.container()).isEqualTo("raw");
        assertThat(shelved.checksum()).isEqualTo(PublishedChecksum.State.AGREES);
        assertThat(house.workspace.images().resolve("first.img")).hasSameBinaryContentAs(first);
        assertThatThrownBy(() -> intake.image(archive, TransferWatch.NONE))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("2 images");
    }

    /** What an image of one's own brings is nothing to be said of; what harms is spoken of all the same. */
    @Test
    void theSettingsAnImageBringsAreStockFromThenOn() throws IOException {
        String brought = "[h400]\notg_mode=1\n[all]\ndtparam=audio=on\nprogram_usb_start_fuse=1\n";
        Path image = new DiskBuilder(folder).start("config.txt", brought).build("brings.img");
        byte[] file = brought.getBytes(StandardCharsets.UTF_8);
        assertThat(SettingsCheck.settings(file, house.bench.profiles().require("plover-4")))
                .extracting(Finding::code)
                .contains("key-in-wrong-section");
        new Intake(house.bench).image(image, TransferWatch.NONE);
        assertThat(SettingsCheck.settings(file, house.bench.profiles().require("plover-4")))
                .extracting(Finding::code)
                .containsOnly("one-time-line-left");
    }
}
