// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.TransferWatch;
import exordium.core.finding.NameTaken;
import exordium.core.finding.NewerThanThis;
import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import exordium.core.testing.GeneralTools;
import exordium.core.writing.Ending;
import exordium.jobs.bench.Workbench;
import exordium.jobs.copies.vault.VaultJob;
import exordium.jobs.workspace.WorkspaceArchive;
import exordium.jobs.workspace.WorkspaceExport;
import exordium.jobs.workspace.Workspaces;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A workspace taken along and made again, and files that only say they are one. */
class WorkspaceArchiveTest {
    @TempDir
    Path folder;

    private Workbench imported(Path zip, String name) throws IOException {
        return WorkspaceArchive.importFrom(zip, folder.resolve(name), House.CLOCK, ZoneOffset.UTC, TransferWatch.NONE);
    }

    @Test
    void allOfItComesBackAndADriveWithLittleOnItTakesLittle() throws IOException {
        House house = House.demo(Files.createDirectory(folder.resolve("h")));
        Path zip = folder.resolve("taken.zip");
        WorkspaceExport.write(house.bench, zip, TransferWatch.NONE);
        // The drives are some 950 GB by their size.
        assertThat(Files.size(zip)).isLessThan(600L << 20);
        GeneralTools.run("unzip", "-tq", zip.toString());
        try (Workbench again = imported(zip, "again")) {
            assertThat(again.rules().workspaceName())
                    .isEqualTo(house.bench.rules().workspaceName());
            assertThat(again.records().boards()).isEqualTo(house.bench.records().boards());
            assertThat(again.records().media()).isEqualTo(house.bench.records().media());
            Path before = house.bench.driveFile("film-loop-nvme.img");
            Path after = again.driveFile("film-loop-nvme.img");
            assertThat(Files.size(after)).isEqualTo(Files.size(before));
            // The start of it, where its table and its file systems lie, byte for byte by a general tool.
            GeneralTools.run("cmp", "-n", "200000000", before.toString(), after.toString());
            assertThat(new exordium.jobs.daysheet.DaySheets(again, new exordium.jobs.bench.BenchReader(again))
                            .now()
                            .boards())
                    .isEqualTo(house.sheets.now().boards());
        }
        assertThatThrownBy(() -> WorkspaceExport.write(house.bench, zip, TransferWatch.NONE))
                .isInstanceOf(NameTaken.class);
        assertThatThrownBy(() ->
                        WorkspaceExport.write(house.bench, house.folder.resolve("vault/in.zip"), TransferWatch.NONE))
                .hasMessageContaining("outside");
        assertThatThrownBy(() ->
                        WorkspaceExport.write(house.bench, folder.resolve("nowhere/taken.zip"), TransferWatch.NONE))
                .hasMessageContaining("no folder");
        assertThatThrownBy(() -> imported(zip, "again")).isInstanceOf(NameTaken.class);
        house.bench.close();
    }

    private Path zip(String... namesAndContents) throws IOException {
        Path zip = folder.resolve("made.zip");
        try (ZipOutputStream out = new ZipOutputStream(Files.newOutputStream(zip))) {
            for (int i = 0; i < namesAndContents.length; i += 2) {
                out.putNextEntry(new ZipEntry(namesAndContents[i]));
                out.write(namesAndContents[i + 1].getBytes(StandardCharsets.UTF_8));
                out.closeEntry();
            }
        }
        return zip;
    }

    private static final String HEAD = "{\"format\":\"exordium-workspace\",\"version\":1}";

    @ParameterizedTest
    @ValueSource(
            strings = {
                "../outside",
                "/etc/motd",
                "drives/../../outside",
                "elsewhere/x",
                "drives//x",
                "drives/a\\b",
                "exordium.db-wal",
                "drives"
            })
    void aNameThatLeadsElsewhereIsRefusedAndNothingIsMade(String name) throws IOException {
        Path zip = zip("workspace.json", HEAD, "exordium.db", "", name, "x");
        assertThatThrownBy(() -> imported(zip, "in")).hasMessageContaining("has no place in a workspace");
        assertThat(folder.resolve("in")).doesNotExist();
        assertThat(folder.toFile().list()).containsExactly("made.zip");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "{\"bytes\":10,\"stretches\":[{\"at\":8,\"bytes\":4}]}",
                "{\"bytes\":10,\"stretches\":[{\"at\":-1,\"bytes\":4}]}",
                "{\"bytes\":-1,\"stretches\":[]}",
                "{\"bytes\":9223372036854775807,\"stretches\":[]}",
                "{\"bytes\":10,\"stretches\":[{\"at\":0,\"bytes\":9}]}",
                "{\"bytes\":10,\"stretches\":[{\"at\":4,\"bytes\":2},{\"at\":0,\"bytes\":2}]}",
                "{\"bytes\":10,\"stretches\":[]}",
                "not json"
            })
    void aDriveWhoseStretchesCannotBeIsRefused(String map) throws IOException {
        Path zip = zip(
                "workspace.json",
                HEAD,
                "exordium.db",
                "",
                "drives/a.img.stretches",
                map,
                "drives/a.img.data",
                "12345678");
        assertThatThrownBy(() -> imported(zip, "in")).isInstanceOf(UnreadableInput.class);
        assertThat(folder.toFile().list()).containsExactly("made.zip");
    }

    @Test
    void whatIsNoWorkspaceIsSaidSo() throws IOException {
        Path text = Files.writeString(folder.resolve("made.zip"), "no zip");
        assertThatThrownBy(() -> imported(text, "in")).hasMessageContaining("no zip");
        assertThatThrownBy(() -> imported(folder.resolve("none.zip"), "in")).hasMessageContaining("no file");
        assertThatThrownBy(() -> imported(zip("a", "b"), "in")).hasMessageContaining("no workspace taken along");
        assertThatThrownBy(() -> imported(zip("workspace.json", HEAD.replace(":1", ":9"), "exordium.db", ""), "in"))
                .isInstanceOf(NewerThanThis.class);
        assertThatThrownBy(() -> imported(zip("workspace.json", HEAD, "exordium.db", "rubbish".repeat(99)), "in"))
                .isInstanceOf(UnreadableInput.class);
        assertThat(folder.resolve("in")).doesNotExist();
    }

    @Test
    void workspacesOpenedLatelyAreRememberedNewestFirst() throws IOException {
        Workspaces all = new Workspaces(folder.resolve("state/workspaces"));
        assertThat(all.recent()).isEmpty();
        all.create(folder.resolve("one"), "One", House.CLOCK, ZoneOffset.UTC).close();
        all.create(folder.resolve("two"), " Two  too ", House.CLOCK, ZoneOffset.UTC)
                .close();
        all.opened(folder.resolve("one"), "One again");
        all.opened(folder.resolve("gone"), "Gone");
        assertThat(all.recent())
                .extracting(Workspaces.Known::name, Workspaces.Known::there)
                .containsExactly(
                        org.assertj.core.api.Assertions.tuple("Gone", false),
                        org.assertj.core.api.Assertions.tuple("One again", true),
                        org.assertj.core.api.Assertions.tuple("Two too", true));
        assertThatThrownBy(() -> all.create(folder.resolve("one"), "X", House.CLOCK, ZoneOffset.UTC))
                .isInstanceOf(NameTaken.class);
        for (String name : List.of("", " ", "a\u0000b", "x".repeat(81))) {
            assertThatThrownBy(() -> all.create(folder.resolve("three"), name, House.CLOCK, ZoneOffset.UTC))
                    .isInstanceOf(UnreadableInput.class);
        }
        assertThat(folder.resolve("three")).doesNotExist();
        Files.writeString(folder.resolve("state/workspaces"), "no tab\n\u0000\tx\n");
        assertThat(all.recent()).isEmpty();
    }

    /** Half of what is done meanwhile would be in the file, and the other half not. */
    @Test
    void whileSomethingIsDoneItIsNotTakenAlongAndWhileItIsNothingElseBegins() throws IOException {
        House house = House.demo(folder);
        Path file = folder.resolve("all.zip");
        long write = house.workspace
                .operations()
                .beginWrite(Optional.empty(), Optional.empty(), "card.img", "/drives/card.img", "marsh.img.xz");
        assertThatThrownBy(() -> WorkspaceExport.write(house.bench, file, TransferWatch.NONE))
                .isInstanceOf(Refused.class)
                .hasMessage("Writing marsh.img.xz to card.img is not finished; all of the workspace can be had when"
                        + " nothing else is done in it. Wait for it or stop it.");
        assertThat(file).doesNotExist();
        house.workspace.operations().end(write, Ending.FAILED, false, "");
        List<String> refused = new ArrayList<>();
        WorkspaceExport.write(house.bench, file, new TransferWatch() {
            @Override
            public void moved(Phase phase, long position, int bytes, long nanos, long total) {
                if (refused.isEmpty()) {
                    assertThatThrownBy(() -> new VaultJob(house.bench).check(OptionalInt.of(1), TransferWatch.NONE))
                            .isInstanceOf(Refused.class)
                            .satisfies(each -> refused.add(each.getMessage()));
                }
            }

            @Override
            public boolean cancelled() {
                return false;
            }
        });
        assertThat(refused)
                .singleElement()
                .asString()
                .startsWith("Taking along the workspace is not finished; the vault");
        assertThat(file).exists();
        assertThat(house.workspace.log().last().orElseThrow().kind()).isEqualTo("workspace-taken-along");
    }
}
