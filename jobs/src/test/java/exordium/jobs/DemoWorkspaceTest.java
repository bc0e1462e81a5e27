// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.daysheet.BoardRow;
import exordium.core.daysheet.DaySheet;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.storage.judgement.Setting;
import exordium.core.storage.media.Link;
import exordium.core.testing.GeneralTools;
import exordium.jobs.bench.Workbench;
import exordium.jobs.copies.vault.CopyJob;
import exordium.jobs.demo.DemoWorkspace;
import exordium.jobs.storage.StorageQuestion;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The demo shows every state of health, from real bytes. */
class DemoWorkspaceTest {
    @TempDir
    Path folder;

    /** What a sheet costs does not grow with the boards on it. */
    @Test
    void aDaySheetOfTenBoardsCostsAtMostTenStatements() throws IOException {
        House house = House.demo(folder);
        assertThat(house.workspace.boards().all()).hasSize(11);
        house.sheets.now();
        long before = house.workspace.statements();
        house.sheets.now();
        assertThat(house.workspace.statements() - before).isBetween(1L, 10L);
    }

    @Test
    void tenBoardsOfFiveFamiliesInEveryStateOfHealth() throws IOException {
        House house = House.demo(folder);
        DaySheet sheet = house.sheets.now();
        assertThat(sheet.boards()).hasSize(11);
        assertThat(sheet.boards().stream().map(BoardRow::profile).distinct()).hasSize(5);
        assertThat(sheet.boards().stream().map(BoardRow::worst).collect(Collectors.toSet()))
                .contains(Pennant.PROVEN, Pennant.SET, Pennant.DUE, Pennant.FAILING);
        assertThat(sheet.board("store-room-spare").cell(Step.STORAGE).pennant()).isEqualTo(Pennant.UNKNOWN);
        assertThat(sheet.wouldNotStart()).isEqualTo(1);
    }

    @Test
    void houseRulesAndPlacesReachTheChoiceOfStorage() throws IOException {
        House house = House.demo(folder);
        StorageQuestion question = new StorageQuestion(house.bench);
        Workbench.BoardAtHand tank = house.bench.atHand(house.bench.workspace().boards().all().stream()
                .filter(board -> board.id().equals("wave-tank"))
                .findFirst()
                .orElseThrow());
        assertThat(question.choice(tank, question.role(tank), Optional.empty())
                        .need()
                        .sockets())
                .noneMatch(socket -> socket.link() == Link.PCIE3_X1);
        house.bench.rules().pcie(3);
        assertThat(question.choice(tank, question.role(tank), Optional.empty())
                        .need()
                        .sockets())
                .anyMatch(socket -> socket.link() == Link.PCIE3_X1);
        assertThat(house.bench
                        .workspace()
                        .roles()
                        .of("mast-webcam")
                        .orElseThrow()
                        .place())
                .isEqualTo(Setting.ROOF);
    }

    @ParameterizedTest
    @CsvSource({
        "wave-tank, STORAGE, PROVEN, 238 GiB",
        "film-loop, ORDER, FAILING, 0xf41",
        "film-loop, REHEARSAL, FAILING, no source",
        "film-loop, COPIES, DUE, never",
        "ticket-desk, FIRMWARE, DUE, 15 mo",
        "ticket-desk, COPIES, DUE, 34 days",
        "mast-webcam, STORAGE, FAILING, worn 96 %",
        "oral-history-booth, COPIES, PROVEN, 61 days",
        "engine-room-sound, IMAGE, SET, 2025.11",
        "rescue-map-table, ORDER, PROVEN, 4 places",
    })
    void eachBoardHasWhatItsStoryTells(String board, Step step, Pennant pennant, String figure) throws IOException {
        DaySheet sheet = House.demo(folder).sheets.now();
        assertThat(sheet.board(board).cell(step).pennant()).isEqualTo(pennant);
        assertThat(sheet.board(board).cell(step).figure()).isEqualTo(figure);
    }

    /** The shipped sums were made by sha256sum (coreutils); the tool itself checks them here. */
    @Test
    void theImagesAgreeWithTheirPublishedSums() throws IOException {
        House house = House.demo(folder);
        GeneralTools.run(house.workspace.images(), "sha256sum", "--check", "--ignore-missing", "SHA256SUMS");
        assertThat(house.workspace.imageShelf().all()).hasSize(5);
    }

    /** Every drive is what its register says, and its file systems pass the general tools' own checks. */
    @Test
    void theDrivesHoldSoundFileSystems() throws IOException {
        House house = House.demo(folder);
        Path drive = house.bench.driveFile("tide-clock-card.img");
        String table = GeneralTools.run("sfdisk", "-d", drive.toString());
        List<String> parts = Arrays.stream(table.split("\n"))
                .filter(line -> line.contains("start="))
                .toList();
        assertThat(parts).hasSize(2);
        Path fat = folder.resolve("fat.img");
        long start = number(parts.get(0), "start=");
        GeneralTools.run(
                "dd",
                "if=" + drive,
                "of=" + fat,
                "bs=512",
                "skip=" + start,
                "count=" + number(parts.get(0), "size="),
                "conv=sparse",
                "status=none");
        assertThat(GeneralTools.exitOf("fsck.fat", "-n", fat.toString())).isZero();
        assertThat(GeneralTools.run("mdir", "-b", "-i", fat.toString(), "::")).contains("cmdline.txt");
    }

    private static long number(String line, String key) {
        String rest = line.substring(line.indexOf(key) + key.length()).strip();
        return Long.parseLong(rest.split("[, ]")[0]);
    }

    @Test
    void everyCopyInTheVaultIsWholeAndUnpacks() throws IOException {
        House house = House.demo(folder);
        CopyJob copies = new CopyJob(house.bench, house.sheets);
        assertThat(copies.check(java.util.Optional.empty()))
                .hasSize(13)
                .allSatisfy(checked -> assertThat(checked.whole()).isTrue());
        Path vault = house.workspace.vault();
        String file = house.workspace.copies().of("door-counter").get(0).file();
        assertThat(GeneralTools.exitOf("zstd", "-tq", vault.resolve(file).toString()))
                .isZero();
    }

    @Test
    void aFolderThatHoldsSomethingElseIsNotTouched() throws IOException {
        Path mine = Files.createDirectory(folder.resolve("mine"));
        Path letter = Files.writeString(mine.resolve("letter.txt"), "dear museum");
        assertThatThrownBy(() -> DemoWorkspace.make(mine, true, House.CLOCK, ZoneOffset.UTC))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("something else");
        assertThat(Files.readString(letter)).isEqualTo("dear museum");
    }

    @Test
    void anEarlierDemoIsReplacedOnlyWhenAsked() throws IOException {
        House house = House.demo(folder);
        assertThatThrownBy(() -> DemoWorkspace.make(house.folder, false, House.CLOCK, ZoneOffset.UTC))
                .hasMessageContaining("--reset");
        house.bench.rules().workspaceName("changed");
        assertThat(DemoWorkspace.make(house.folder, true, House.CLOCK, ZoneOffset.UTC)
                        .rules()
                        .workspaceName())
                .isEqualTo("Gannet Point");
    }
}
