// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.demo;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.block.StagedDevice;
import exordium.core.block.TransferWatch;
import exordium.core.copies.vault.CopyReport;
import exordium.core.copies.vault.VaultFiles;
import exordium.core.copies.vault.VaultRun;
import exordium.core.filesystem.fat.FatWriter;
import exordium.core.finding.Step;
import exordium.core.image.PublishedChecksum;
import exordium.core.inspection.Inspector;
import exordium.core.layout.Partition;
import exordium.store.Copies;
import exordium.store.Workspace;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;

/** The demo's past copies: real ones of its drives, so that they can be checked and put back. */
final class DemoCopies {
    private final Workspace workspace;
    private final DemoScenario scenario;
    private final Instant now;
    private final Map<String, PackedDrive> packed = new HashMap<>();

    DemoCopies(Workspace workspace, DemoScenario scenario, Instant now) {
        this.workspace = workspace;
        this.scenario = scenario;
        this.now = now;
    }

    /** What a copy of the drive holds today; the same for all its copies. */
    private PackedDrive packed(String medium) throws IOException {
        PackedDrive known = packed.get(medium);
        if (known == null) {
            known = PackedDrive.of(
                    workspace.drives().resolve(medium + ".img"), medium(medium).size());
            packed.put(medium, known);
        }
        return known;
    }

    /** Past copies are real ones of the drives as they are, so that they can be checked and restored and their figures agree. */
    void put() throws IOException {
        for (DemoScenario.DemoCopy copy : scenario.copies()) {
            boolean chunks = scenario.copies().stream()
                    .anyMatch(each ->
                            each.board().equals(copy.board()) && each.said().isPresent());
            String day = ago(copy).toString().substring(0, 10);
            String name = copy.board() + "/" + copy.board() + "-" + day + (chunks ? VaultRun.SUFFIX : VaultFiles.IMAGE);
            Path file = workspace.vault().resolve(name);
            Files.createDirectories(file.getParent());
            CopyReport report = chunks ? ofChunks(copy, file) : plain(copy, file);
            workspace
                    .copies()
                    .add(new Copies.Copy(
                            0,
                            copy.board(),
                            Optional.of(copy.medium()),
                            ago(copy),
                            name,
                            report.sourceBytes(),
                            report.fileBytes(),
                            report.fileSha256()));
            workspace
                    .log()
                    .addPast(
                            ago(copy),
                            Optional.of(copy.board()),
                            Step.COPIES,
                            "copy-proven",
                            boardName(copy.board()) + ": copy of "
                                    + medium(copy.medium()).name() + " proven.",
                            Optional.empty());
        }
    }

    private CopyReport plain(DemoScenario.DemoCopy copy, Path file) throws IOException {
        PackedDrive drive = packed(copy.medium());
        Files.write(file, drive.bytes());
        String sha = PublishedChecksum.sha256(file);
        Files.writeString(file.resolveSibling(file.getFileName() + ".sha256"), sha + "  " + file.getFileName() + "\n");
        return new CopyReport(file, drive.size(), drive.bytes().length, sha, 0, true, drive.size());
    }

    /** The drive as it was then: what a note in its start partition said is another thing each time. */
    private CopyReport ofChunks(DemoScenario.DemoCopy copy, Path file) throws IOException {
        DemoScenario.DemoMedium medium = medium(copy.medium());
        Map<String, String> facts = new LinkedHashMap<>();
        facts.put("board", copy.board());
        facts.put("medium", copy.medium());
        facts.put("taken", ago(copy).toString());
        try (BlockDevice drive = FileDevice.sparse(workspace.drives().resolve(copy.medium() + ".img"), medium.size());
                StagedDevice then = new StagedDevice(drive)) {
            if (copy.said().isPresent()) {
                Partition start = Inspector.inspect(drive).partitions().get(0).partition();
                FatWriter.write(
                        start.on(then), "keeper.txt", (copy.said().get() + "\n").getBytes(StandardCharsets.UTF_8));
            }
            return VaultRun.execute(then, workspace.vault(), file, facts, TransferWatch.NONE);
        }
    }

    private String boardName(String board) {
        return scenario.boards().stream()
                .filter(each -> each.id().equals(board))
                .findFirst()
                .orElseThrow()
                .name();
    }

    private Instant ago(DemoScenario.DemoCopy copy) {
        return now.minus(Duration.ofDays(copy.days()));
    }

    private DemoScenario.DemoMedium medium(String id) {
        return scenario.media().stream()
                .filter(each -> each.id().equals(id))
                .findFirst()
                .orElseThrow();
    }
}
