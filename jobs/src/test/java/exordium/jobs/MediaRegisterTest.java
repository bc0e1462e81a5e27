// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.google.zxing.BinaryBitmap;
import com.google.zxing.client.j2se.BufferedImageLuminanceSource;
import com.google.zxing.common.HybridBinarizer;
import com.google.zxing.qrcode.QRCodeReader;
import exordium.core.access.BoardState;
import exordium.core.access.CarrierKind;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.testing.GeneralTools;
import exordium.jobs.media.MediaRegister;
import exordium.jobs.media.MediaTwins;
import exordium.jobs.media.NewIdentity;
import exordium.jobs.paper.MediaSheets;
import exordium.store.Media;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.rendering.PDFRenderer;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class MediaRegisterTest {
    @TempDir
    Path folder;

    private House house;
    private MediaRegister register;

    @BeforeEach
    void open() throws IOException {
        house = House.demo(folder);
        register = new MediaRegister(house.bench);
    }

    private Media.Medium medium(String id) throws UnreadableInput {
        return house.workspace.media().require(id);
    }

    /** Makes one drive the clone of another, the same bytes and so the same identifier. */
    private void clone(String from, String to) {
        GeneralTools.run(
                "cp",
                "--sparse=always",
                house.bench.driveFile(from).toString(),
                house.bench.driveFile(to).toString());
    }

    @Test
    void everyMediumIsLabelledAndKnownByWhatIsOnIt() throws IOException {
        List<MediaRegister.Entry> all = register.all();
        assertThat(all).hasSize(13);
        assertThat(all)
                .extracting(entry -> entry.details().label())
                .doesNotHaveDuplicates()
                .contains("M1", "M12");
        MediaRegister.Entry tide = all.stream()
                .filter(entry -> entry.medium().id().equals("tide-clock-card"))
                .findFirst()
                .orElseThrow();
        assertThat(tide.details().holds()).isEqualTo("marshlinux 2026.10");
        assertThat(GeneralTools.run(
                        "sfdisk",
                        "-d",
                        house.bench.driveFile("tide-clock-card.img").toString()))
                .contains("label-id: 0x" + tide.details().diskId().orElseThrow());
        assertThat(tide.board()).contains("Tide clock");
        assertThat(tide.measurements()).hasSize(6);
        assertThat(register.all().stream()
                        .filter(entry -> entry.medium().id().equals("mast-webcam-card"))
                        .findFirst()
                        .orElseThrow()
                        .faults())
                .hasSize(1);
    }

    @Test
    void aCloneIsSeenAsATwinAndGivenAnIdentityOfItsOwn() throws IOException {
        clone("tide-clock-card.img", "spare-card-32.img");
        List<Finding> twins = register.lookIntoAll();
        assertThat(twins).hasSize(1);
        assertThat(twins.get(0).text()).contains("Tidewell 32 M1").contains("same disk identifier");

        NewIdentity.Changed given = new NewIdentity(house.bench, () -> 0x5eed1234L).give(medium("spare-card-32"));
        assertThat(given.after()).isEqualTo("5eed1234");
        assertThat(given.files()).contains("cmdline.txt", "/etc/fstab");
        assertThat(register.lookIntoAll()).isEmpty();
        String drive = house.bench.driveFile("spare-card-32.img").toString();
        String table = GeneralTools.run("sfdisk", "-d", drive);
        assertThat(table).contains("label-id: 0x5eed1234");
        long rootStart = Arrays.stream(table.split("\n"))
                .filter(line -> line.contains("type=83"))
                .mapToLong(line -> Long.parseLong(line.replaceAll(".*start= *(\\d+),.*", "$1")))
                .findFirst()
                .orElseThrow();
        String image = drive + "?offset=" + rootStart * 512;
        assertThat(GeneralTools.run("debugfs", "-R", "cat /etc/fstab", image)).contains("PARTUUID=5eed1234-02");
        assertThat(GeneralTools.run("debugfs", "-R", "stat /etc/fstab", image)).contains("Mode:  0644");
    }

    /** What is retired, or merged into another, is in nobody's way any more. */
    @Test
    void onlyMediaInUseAreTwinsAndEachKnowsItsOwn() throws IOException {
        clone("tide-clock-card.img", "spare-card-32.img");
        register.lookIntoAll();
        for (MediaRegister.Entry each : register.all()) {
            boolean twin = List.of("tide-clock-card", "spare-card-32")
                    .contains(each.medium().id());
            assertThat(MediaTwins.of(each, register.all()))
                    .as(each.medium().id())
                    .hasSize(twin ? 1 : 0);
        }
        register.state(medium("spare-card-32"), Media.State.RETIRED, "");
        assertThat(register.twins()).isEmpty();
        assertThat(register.all()).allSatisfy(each -> assertThat(MediaTwins.of(each, register.all()))
                .isEmpty());
    }

    /** Both in one board: before, the root comes from chance; afterwards it starts. */
    @Test
    void theBoardStartsFromTheCloneOnceItIsNoTwin() throws IOException {
        clone("tide-clock-card.img", "spare-card-32.img");
        new NewIdentity(house.bench, () -> 0x5eed1234L).give(medium("spare-card-32"));
        house.boards.plug(
                house.bench.board("tide-clock"),
                new BoardState.Plug("card", "spare-card-32.img", "card-quick", CarrierKind.ANNOUNCING, true));
        assertThat(Rehearsal.of(house.benches.of(house.bench.board("tide-clock")))
                        .runs())
                .isTrue();
    }

    @Test
    void aDriveIsRecognisedBySerialElseByWhatIsOnIt() throws IOException {
        Path drive = house.bench.driveFile("wave-tank-nvme.img");
        assertThat(register.recognise(drive).orElseThrow().id()).isEqualTo("wave-tank-nvme");
        Path bare = folder.resolve("bare.img");
        GeneralTools.run(
                "dd",
                "if=" + house.bench.driveFile("tide-clock-card.img"),
                "of=" + bare,
                "bs=1M",
                "count=4",
                "status=none");
        assertThat(register.recognise(bare).orElseThrow().id()).isEqualTo("tide-clock-card");
        Files.write(bare, new byte[4 << 20]);
        assertThat(register.recognise(bare)).isEmpty();
    }

    @Test
    void labelsAreShortAndNotTwice() throws IOException {
        register.label(medium("spare-card-32"), "Spare A");
        assertThat(medium("Spare A").id()).isEqualTo("spare-card-32");
        assertThatThrownBy(() -> register.label(medium("spare-card-16"), "spare a"))
                .hasMessageContaining("already");
        assertThatThrownBy(() -> register.label(medium("spare-card-16"), "")).hasMessageContaining("no label");
        assertThatThrownBy(() -> register.label(medium("spare-card-16"), "much too long a name"))
                .hasMessageContaining("no label");
    }

    @Test
    void lentRetiredAndBack() throws IOException {
        register.state(medium("spare-card-32"), Media.State.LENT, "the harbour office");
        assertThat(house.workspace.log().last().orElseThrow().text()).contains("lent to the harbour office");
        register.state(medium("spare-card-32"), Media.State.HERE, "");
        register.state(medium("spare-card-16"), Media.State.RETIRED, "slow");
        assertThat(register.all().get(12).medium().id()).isEqualTo("spare-card-16");
        assertThatThrownBy(() -> register.state(medium("tide-clock-card"), Media.State.RETIRED, ""))
                .hasMessageContaining("in service at Tide clock");
    }

    @Test
    void twoEntriesOfOneThingBecomeOne() throws IOException {
        ByteSize both =
                medium("spare-card-16").written().plus(medium("spare-card-32").written());
        register.merge(medium("spare-card-16"), medium("spare-card-32"));
        assertThat(medium("spare-card-32").written()).isEqualTo(both);
        assertThat(house.workspace.media().details("spare-card-16").state()).isEqualTo(Media.State.RETIRED);
        assertThatThrownBy(() -> register.merge(medium("spare-card-32"), medium("spare-card-32")))
                .hasMessageContaining("itself");
        assertThatThrownBy(() -> register.merge(medium("tide-clock-card"), medium("spare-card-32")))
                .hasMessageContaining("in service");
    }

    /** The sheet is read back by a PDF library and a QR reader. */
    @Test
    void theSheetOfLabelsCanBeReadByMachineAndPerson() throws Exception {
        Path sheet = folder.resolve("labels.pdf");
        assertThat(new MediaSheets(house.bench).labels(sheet)).isEqualTo(13);
        try (PDDocument document = Loader.loadPDF(sheet.toFile())) {
            assertThat(document.getNumberOfPages()).isEqualTo(1);
            assertThat(new PDFTextStripper().getText(document)).contains("M1").contains("Kelpline 512, 512 GB");
            BufferedImage image = new PDFRenderer(document).renderImageWithDPI(0, 300);
            BufferedImage first = image.getSubimage(100, 100, image.getWidth() / 6, image.getHeight() / 8 - 20);
            assertThat(new QRCodeReader()
                            .decode(new BinaryBitmap(new HybridBinarizer(new BufferedImageLuminanceSource(first))))
                            .getText())
                    .isEqualTo("tide-clock-card");
        }
    }

    @Test
    void theRegisterGoesOutAndComesInAsCsv() throws IOException {
        MediaSheets sheets = new MediaSheets(house.bench);
        String csv = sheets.csv();
        assertThat(csv.lines()).hasSize(14);
        Path file = folder.resolve("media.csv");
        Files.writeString(
                file,
                "id,label,place,note,since\r\nspare-card-32,S1,\"box, upper shelf\",\"says \"\"32\"\"\",2026-01-02\r\nnobody,X,,,\r\n");
        MediaSheets.TakenIn taken = sheets.takeIn(file);
        assertThat(taken.changed()).isEqualTo(1);
        assertThat(taken.unknown()).containsExactly("nobody");
        assertThat(medium("S1").place()).isEqualTo("box, upper shelf");
        assertThat(house.workspace.media().details("spare-card-32").note()).isEqualTo("says \"32\"");
        Files.writeString(file, sheets.csv());
        assertThat(sheets.takeIn(file).changed()).isEqualTo(13);
        assertThat(sheets.csv()).isEqualTo(Files.readString(file));
    }

    @Test
    void aBrokenCsvChangesNothing() throws IOException {
        MediaSheets sheets = new MediaSheets(house.bench);
        String before = sheets.csv();
        Path file = folder.resolve("media.csv");
        for (String text : List.of(
                "name,place\nx,y\n",
                "id,state\nspare-card-32,eaten\n",
                "id,since\nspare-card-16,2026-01-01\nspare-card-32,yesterday\n",
                "id,place,place\nspare-card-32,here,there\n",
                "id,note\nspare-card-32," + "x".repeat(10_001) + "\n",
                "id,note\nspare-card-32,\"never ends\n")) {
            Files.writeString(file, text);
            assertThatThrownBy(() -> sheets.takeIn(file)).isInstanceOf(UnreadableInput.class);
        }
        Files.write(file, new byte[] {'i', 'd', ',', 'n', 'o', 't', 'e', 10, 'x', ',', (byte) 0xe4, 10});
        assertThatThrownBy(() -> sheets.takeIn(file)).hasMessageContaining("is not text in UTF-8");
        assertThat(sheets.csv()).isEqualTo(before);
    }

    /** A spreadsheet puts a mark before what it saves, and works out what looks like a formula. */
    @Test
    void aTableComesBackFromASpreadsheet() throws IOException {
        MediaSheets sheets = new MediaSheets(house.bench);
        Path file = folder.resolve("media.csv");
        Files.writeString(file, "\ufeffid,note\nspare-card-32,'=1+1\n");
        assertThat(sheets.takeIn(file).changed()).isEqualTo(1);
        assertThat(house.workspace.media().details("spare-card-32").note()).isEqualTo("=1+1");
        assertThat(sheets.csv()).contains("'=1+1");
    }
}
