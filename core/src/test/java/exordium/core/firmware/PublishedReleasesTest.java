// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.board.StartSource;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.PackageFiles;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Releases as makers publish them, packed by dpkg-deb, tar and zip; digests by sha256sum. What lies in them is made up. */
class PublishedReleasesTest {
    private static final BoardProfile BOARD =
            BoardProfiles.shipped().find("plover-4").orElseThrow();

    @TempDir
    Path folder;

    private Path images;

    @BeforeEach
    void lay() throws IOException {
        images = Files.createDirectories(folder.resolve("pkg/usr/lib/loader/images"));
        image("steady", "2026-01-15", 1);
        image("steady", "2026-05-01", 2);
        image("latest", "2026-05-01", 2);
        image("latest", "2026-08-20", 3);
        Files.createSymbolicLink(images.resolve("default"), Path.of("steady"));
        Files.createSymbolicLink(images.resolve("newest"), Path.of("latest"));
        Files.writeString(
                images.resolve("steady/release-notes.md"),
                "# Notes\n\n## 2026-05-01: for boards with M.2\n\n* Enable NVMe boot\n* Fix a hang with slow enclosures\n"
                        + "\n## 2026-01-15\nFirst one.\n");
    }

    private void image(String channel, String date, int seed) throws IOException {
        Path place = Files.createDirectories(images.resolve(channel));
        byte[] content = new byte[70_000];
        new Random(seed).nextBytes(content);
        Path file = Files.write(place.resolve("loader-" + date + ".bin"), content);
        String digest = GeneralTools.said("sha256sum", file.toString()).substring(0, 64);
        Files.writeString(place.resolve("loader-" + date + ".sig"), digest + "\nts: 1\n");
        Files.write(place.resolve("recovery.bin"), Arrays.copyOf(content, 20_000));
    }

    private PublishedReleases.Read read(Path from) throws IOException {
        return PublishedReleases.of(
                String.valueOf(from.getFileName()),
                PackageFiles.read(from),
                BOARD,
                FirmwareCatalogue.shipped(),
                Map.of());
    }

    private Path packed() throws IOException {
        Path control = Files.createDirectories(folder.resolve("pkg/DEBIAN"));
        Files.writeString(
                control.resolve("control"),
                "Package: loader\nVersion: 1\nArchitecture: all\nMaintainer: Nobody <nobody@example.invalid>\nDescription: x\n");
        Path deb = folder.resolve("loader.deb");
        GeneralTools.run(
                "dpkg-deb", "--root-owner-group", "-b", folder.resolve("pkg").toString(), deb.toString());
        return deb;
    }

    @Test
    void apackageAnArchiveAndAFolderSayTheSame() throws IOException {
        Path tar = folder.resolve("loader.tar.xz");
        GeneralTools.run("tar", "-C", folder.resolve("pkg").toString(), "-cJf", tar.toString(), "usr");
        for (Path from : new Path[] {packed(), tar, folder.resolve("pkg")}) {
            PublishedReleases.Read read = read(from);
            assertThat(read.releases())
                    .extracting(each -> each.release().version() + " "
                            + each.release().channel().code() + " " + each.channelName())
                    .containsExactly(
                            "2026-01-15 default steady", "2026-05-01 default steady", "2026-08-20 latest latest");
            assertThat(read.aliases())
                    .containsExactlyInAnyOrderEntriesOf(Map.of("default", "steady", "newest", "latest"));
            assertThat(read.releases().get(1).release().notes())
                    .isEqualTo("for boards with M.2 Enable NVMe boot Fix a hang with slow enclosures");
            assertThat(read.proposals())
                    .extracting(PublishedReleases.Proposal::enables)
                    .contains(java.util.List.of(StartSource.NVME));
            assertThat(read.recoveryOf().orElseThrow()).hasToString("2026-05-01");
            assertThat(read.recovery().orElseThrow().files())
                    .extracting(each -> each.part().code() + " " + each.file())
                    .containsExactly(
                            "writer recovery.bin",
                            "image loader-2026-05-01.bin",
                            "signature loader-2026-05-01.sig",
                            "other release-notes.md");
            assertThat(read.complete()).isTrue();
            assertThat(read.sets()).hasSize(3);
        }
    }

    /** zip(1) follows links: a folder that is a copy of another is what else that one is called, and no better channel. */
    @Test
    void aCopyOfAFolderIsNoSecondChannel() throws IOException {
        Path zip = folder.resolve("loader.zip");
        GeneralTools.run(folder.resolve("pkg"), "zip", "-qr", zip.toString(), "usr");
        Files.createSymbolicLink(images.resolve("stable"), Path.of("latest"));
        GeneralTools.run(folder.resolve("pkg"), "zip", "-qr", zip.toString(), "usr");
        PublishedReleases.Read read = read(zip);
        assertThat(read.aliases()).containsEntry("stable", "latest").containsEntry("steady", "default");
        assertThat(read.releases())
                .extracting(each -> each.release().version() + " "
                        + each.release().channel().code())
                .containsExactly("2026-01-15 default", "2026-05-01 default", "2026-08-20 latest");
        assertThat(read.releases().get(1).release().notes()).containsOnlyOnce("Enable NVMe boot");
    }

    @Test
    void aSetWithAnotherImageThanItsSignatureSaysIsNotWhole() throws IOException {
        Path image = images.resolve("steady/loader-2026-05-01.bin");
        byte[] content = Files.readAllBytes(image);
        content[100] ^= 1;
        Files.write(image, content);
        PublishedReleases.Read read = read(folder.resolve("pkg"));
        assertThat(read.complete()).isFalse();
        assertThat(read.findings()).extracting(Finding::code).contains("recovery-digest-differs");
    }

    @Test
    void aProgramWithoutAnImageIsNoSet() throws IOException {
        Path flat = Files.createDirectories(folder.resolve("flat"));
        Files.writeString(flat.resolve("recovery.bin"), "program");
        PublishedReleases.Read read = read(flat);
        assertThat(read.complete()).isFalse();
        assertThat(read.findings()).extracting(Finding::code).contains("recovery-set-incomplete");
    }

    /** Without the usual names: by what they are called and how large they are. */
    @Test
    void partsAreToldWhereNothingBearsAUsualName() throws IOException {
        Path flat = Files.createDirectories(folder.resolve("set-2026-03-04"));
        Files.write(flat.resolve("loader.elf"), new byte[30_000]);
        Files.write(flat.resolve("chip.img"), new byte[512 << 10]);
        Files.writeString(flat.resolve("settings.txt"), "BOOT_ORDER=0xf41\n");
        Files.writeString(flat.resolve("README"), "Copy all onto a card.\n");
        PublishedReleases.Read read = read(flat);
        assertThat(read.recovery().orElseThrow().files())
                .extracting(each -> each.part().code() + " " + each.file())
                .containsExactly("writer loader.elf", "image chip.img", "settings settings.txt", "other README");
        assertThat(read.releases())
                .extracting(each -> each.release().version().toString())
                .containsExactly("2026-03-04");
    }

    @Test
    void whatIsNoPackageOrBrokenIsSaid() throws IOException {
        byte[] whole = Files.readAllBytes(packed());
        Path cut = Files.write(folder.resolve("cut.deb"), Arrays.copyOf(whole, whole.length / 2));
        assertThatThrownBy(() -> read(cut)).isInstanceOf(UnreadableInput.class);
        Path text = Files.writeString(folder.resolve("words.txt"), "words\n");
        assertThatThrownBy(() -> read(text)).isInstanceOf(UnreadableInput.class);
    }
}
