// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.access.CarrierKind;
import exordium.core.block.TransferWatch;
import exordium.core.bootorder.ChipSettings;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.Channel;
import exordium.core.firmware.FirmwareBundle;
import exordium.core.firmware.FirmwareChip;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.firmware.FirmwareRelease;
import exordium.core.firmware.FlashChip;
import exordium.core.firmware.Gate;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.contents.Cause;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firmware.ChipSettingsJob;
import exordium.jobs.firmware.FirmwareFacts;
import exordium.jobs.firmware.FirmwareJob;
import exordium.jobs.firmware.RecoveryJob;
import exordium.jobs.firmware.ReleaseIntake;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The chips of virtual boards, recovery cards, the shelf of releases, and what is said of a board's firmware. */
class FirmwareDeedsTest {
    private static final LocalDate NEWEST = LocalDate.parse("2026-09-02");

    @TempDir
    Path folder;

    private House house;

    @BeforeEach
    void open() throws IOException {
        house = House.demo(folder);
    }

    private Workbench.BoardAtHand board(String id) throws IOException {
        return house.bench.board(id);
    }

    private FlashChip chip(String board) throws IOException {
        return FlashChip.of(Files.readAllBytes(house.folder.resolve("boards/" + board + ".chip")));
    }

    private void stage(String board) throws IOException {
        FirmwareJob job = new FirmwareJob(house.bench);
        job.stage(board(board), job.release(board(board), NEWEST));
    }

    @Test
    void aCutWriteLeavesOneSlotDeadUntilARecoveryCardComes() throws IOException {
        stage("ticket-desk");
        Trace dead = house.boards.powerCut(board("ticket-desk"), 50_000).trace().orElseThrow();
        assertThat(dead.cause()).isEqualTo(Cause.FIRMWARE_MISSING);
        assertThat(board("ticket-desk").board().chip().isDead()).isTrue();
        assertThat(chip("ticket-desk").running()).isEmpty();
        assertThatThrownBy(() -> stage("ticket-desk")).isInstanceOf(Refused.class);
        // Restarting does not bring it back.
        assertThat(house.boards
                        .restart(board("ticket-desk"))
                        .trace()
                        .orElseThrow()
                        .cause())
                .isEqualTo(Cause.FIRMWARE_MISSING);

        RecoveryJob job = new RecoveryJob(house.bench);
        Workbench.BoardAtHand at = board("ticket-desk");
        RecoveryJob.Card card = job.plan(at, new FirmwareJob(house.bench).release(at, NEWEST), Optional.of("0xf14"));
        Media.Medium spare = house.workspace.media().byFile("spare-card-32.img").orElseThrow();
        Path drive = house.bench.driveFile(spare.file());
        WriteReport report = job.make(at, card, house.bench.targets(), drive, spare.file(), TransferWatch.NONE);
        assertThat(report.verdict().good()).as(report.sentence()).isTrue();
        // A general tool sees on it what the board looks for.
        assertThat(GeneralTools.said("mdir", "-b", "-i", drive + "@@1M", "::")).contains("recovery.bin");
        GeneralTools.run("fsck.fat", "-n", partition(drive).toString());

        Media.Medium own = house.bench.mainMedium(at).orElseThrow();
        house.boards.unplug(at, own);
        house.boards.plug(board("ticket-desk"), "card", spare, CarrierKind.ANNOUNCING);
        Trace recovered = house.boards.switchOff(board("ticket-desk")).trace().orElseThrow();
        assertThat(recovered.cause()).isEqualTo(Cause.RECOVERY_WRITTEN);
        assertThat(chip("ticket-desk").running().map(FlashChip.Running::release))
                .contains(NEWEST);
        assertThat(board("ticket-desk").board().firmware()).isEqualTo(NEWEST);
        assertThat(board("ticket-desk").order()).isEqualTo("0xf14");

        house.boards.unplug(board("ticket-desk"), spare);
        house.boards.plug(board("ticket-desk"), "card", own, CarrierKind.ANNOUNCING);
        assertThat(house.boards
                        .switchOff(board("ticket-desk"))
                        .trace()
                        .orElseThrow()
                        .runs())
                .isTrue();
    }

    private Path partition(Path drive) throws IOException {
        Path part = folder.resolve("part.img");
        GeneralTools.run("dd", "if=" + drive, "of=" + part, "bs=1M", "skip=1", "count=63", "status=none");
        return part;
    }

    @Test
    void withTwoSlotsACutWriteFallsBack() throws IOException {
        LocalDate before = board("wave-tank").board().firmware();
        FirmwareJob job = new FirmwareJob(house.bench);
        job.stage(board("wave-tank"), job.release(board("wave-tank"), LocalDate.parse("2025-09-16")));
        Trace trace = house.boards.powerCut(board("wave-tank"), 50_000).trace().orElseThrow();
        assertThat(trace.cause()).isNotEqualTo(Cause.FIRMWARE_MISSING);
        assertThat(board("wave-tank").board().firmware()).isEqualTo(before);
        assertThat(board("wave-tank").board().chip().anythingStaged()).isFalse();
        assertThat(chip("wave-tank").running().map(FlashChip.Running::release)).contains(before);
        assertThat(chip("wave-tank").slots()).isEqualTo(2);
    }

    @Test
    void settingsAreLookedThroughComparedAndStaged() throws IOException {
        ChipSettingsJob job = new ChipSettingsJob(house.bench);
        assertThatThrownBy(() ->
                        job.stage(board("film-loop"), ChipSettingsJob.plan(board("film-loop"), "BOOT_ORDER=0xF41")))
                .isInstanceOf(Refused.class);
        ChipSettings change = ChipSettingsJob.plan(board("film-loop"), "BOOT_ORDER=0xf416\nPCIE_PROBE=1");
        assertThat(change.in()).contains("BOOT_ORDER=0xf416");
        job.stage(board("film-loop"), change);
        house.boards.restart(board("film-loop"));
        assertThat(board("film-loop").order()).isEqualTo("0xf416");
        assertThat(chip("film-loop").settings()).contains(change.after());
        ChipSettings back = ChipSettingsJob.plan(
                board("film-loop"),
                FirmwareConfig.factory(board("film-loop").profile()).text());
        assertThat(back.in()).containsExactly("BOOT_ORDER=0xf461");
        assertThat(ChipSettingsJob.plan(board("film-loop"), "a=" + "x".repeat(5000))
                        .findings())
                .extracting(Finding::code)
                .contains("settings-too-long");
        assertThatThrownBy(() -> ChipSettingsJob.plan(board("door-counter"), "a=1"))
                .isInstanceOf(UnreadableInput.class);
    }

    @Test
    void aBundleOnTheShelfIsARelease() throws Exception {
        KeyPair keys = KeyPairGenerator.getInstance("Ed25519").generateKeyPair();
        FirmwareRelease release = new FirmwareRelease(
                List.of("plover-4"), LocalDate.parse("2026-12-24"), Channel.DEFAULT, "Mends the ticket printer.");
        byte[] payload = {5, 4, 3, 2, 1};
        house.bench.firmwareShelf().put(FirmwareBundle.of(release, payload, Optional.of(keys.getPrivate())));
        Path pem = Files.writeString(
                folder.resolve("maker.pem"),
                "-----BEGIN PUBLIC KEY-----\n"
                        + Base64.getEncoder().encodeToString(keys.getPublic().getEncoded())
                        + "\n-----END PUBLIC KEY-----\n");
        house.bench.firmwareShelf().putKey(pem);
        house.bench.firmwareChanged();
        FirmwareJob job = new FirmwareJob(house.bench);
        Workbench.BoardAtHand at = board("ticket-desk");
        FirmwareRelease found = job.release(at, release.version());
        assertThat(found.notes()).isEqualTo("Mends the ticket printer.");
        assertThat(job.plan(at, found)).extracting(Finding::code).contains("bundle-signed");
        job.stage(at, found);
        house.boards.restart(board("ticket-desk"));
        assertThat(chip("ticket-desk").payload()).contains(payload);
        // A broken bundle is named, and the others count.
        Files.writeString(house.folder.resolve("firmware/broken.zip"), "no zip");
        List<String> unreadable = new ArrayList<>();
        assertThat(house.bench.firmwareShelf().bundles(unreadable)).hasSize(1);
        assertThat(unreadable).singleElement().asString().contains("broken.zip");
        house.bench
                .firmwareShelf()
                .add(new FirmwareRelease(
                        List.of("plover-3"), LocalDate.parse("2026-02-02"), Channel.LATEST, "By hand."));
        house.bench.firmwareChanged();
        assertThat(house.bench.firmware().of("plover-3"))
                .extracting(FirmwareRelease::notes)
                .contains("By hand.");
    }

    @Test
    void theAdviceGoesByWhatIsThere() throws IOException {
        FirmwareFacts facts = new FirmwareFacts(house.bench, house.benches);
        var advice = facts.advice(board("ticket-desk"));
        assertThat(advice.to()).map(FirmwareRelease::version).contains(NEWEST);
        assertThat(advice.gates()).extracting(Gate::what).startsWith(Gate.What.COPY, Gate.What.SUPPLY);
        assertThat(facts.system(board("door-counter")))
                .extracting(Finding::code)
                .containsExactly("same-system");
        assertThat(facts.system(board("ticket-desk"))).extracting(Finding::code).contains("newer-image");
        // A board by hand gets no bytes that only virtual boards run.
        assertThat(FirmwareChip.known(board("ticket-desk").board().firmware())).isPresent();
    }

    /** The date of the package records is that of the file on the medium, as debugfs tells it too. */
    @Test
    void packagesAreAsOldAsTheirRecordsOnTheMedium() throws IOException {
        Path disk = new DiskBuilder(folder)
                .root("var/lib/dpkg/status", "Package: base\n")
                .build("dated.img");
        Path root = folder.resolve("root.img");
        GeneralTools.run("dd", "if=" + disk, "of=" + root, "bs=1M", "skip=44", "count=16", "status=none");
        GeneralTools.run("debugfs", "-w", "-R", "sif /var/lib/dpkg/status mtime 20260105120000", root.toString());
        DiskBuilder.place(root, disk, 44 * DiskBuilder.MIB);
        Media.Medium medium = house.bench.mainMedium(board("ticket-desk")).orElseThrow();
        Path drive = house.bench.driveFile(medium.file());
        DiskBuilder.place(disk, drive, 0);
        assertThat(new FirmwareFacts(house.bench, house.benches).system(board("ticket-desk")))
                .filteredOn(finding -> finding.code().equals("packages-old"))
                .singleElement()
                .satisfies(finding -> assertThat(finding.text()).contains("2026-01-05"));
    }

    @Test
    void aReleaseTakenOrAddedIsInTheLogbook() throws IOException {
        ReleaseIntake intake = new ReleaseIntake(house.bench);
        FirmwareRelease release = new FirmwareRelease(
                List.of("plover-5"), LocalDate.parse("2026-12-31"), Channel.LATEST, "For the new year.");
        Path file = Files.write(
                folder.resolve("year.zip"),
                FirmwareBundle.of(release, new byte[] {1}, Optional.empty()).bytes());
        assertThat(intake.take(file).signed()).isEqualTo(FirmwareBundle.Signed.NO);
        assertThat(house.bench.firmware().find("plover-5", release.version())).isPresent();
        assertThat(house.workspace.log().last().orElseThrow().kind()).isEqualTo("release-shelved");
        assertThatThrownBy(() -> intake.add(
                        new FirmwareRelease(List.of("plover-99"), release.version(), Channel.LATEST, "For nobody.")))
                .isInstanceOf(UnreadableInput.class);
        // Signed by somebody, and somebody else is trusted: not taken.
        KeyPair[] keys = new KeyPair[2];
        try {
            keys[0] = KeyPairGenerator.getInstance("Ed25519").generateKeyPair();
            keys[1] = KeyPairGenerator.getInstance("Ed25519").generateKeyPair();
        } catch (java.security.NoSuchAlgorithmException e) {
            throw new AssertionError(e);
        }
        Path pem = Files.writeString(
                folder.resolve("other.pem"),
                "-----BEGIN PUBLIC KEY-----\n"
                        + Base64.getEncoder().encodeToString(keys[1].getPublic().getEncoded())
                        + "\n-----END PUBLIC KEY-----\n");
        house.bench.firmwareShelf().putKey(pem);
        Files.write(
                file,
                FirmwareBundle.of(release, new byte[] {2}, Optional.of(keys[0].getPrivate()))
                        .bytes());
        assertThatThrownBy(() -> intake.take(file))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("none of the keys");
    }
}
