// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.TransferWatch;
import exordium.core.copies.schedule.Retention;
import exordium.core.copies.vault.VaultFiles;
import exordium.core.daysheet.Cell;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.Needs;
import exordium.jobs.bench.Workbench;
import exordium.jobs.copies.vault.CopyJob;
import exordium.jobs.copies.vault.VaultJob;
import exordium.jobs.copies.vault.VaultPlace;
import exordium.jobs.workspace.WorkspaceArchive;
import exordium.jobs.workspace.WorkspaceExport;
import exordium.store.Copies;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import org.assertj.core.api.ThrowableAssert.ThrowingCallable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A vault that does not lie in the workspace, but on another drive or a share, which may be away. */
class VaultPlaceTest {
    @TempDir
    private Path folder;

    private House house;
    private Path share;
    private VaultPlace place;

    @BeforeEach
    void aVaultOnAShare() throws IOException {
        house = House.demo(folder);
        share = Files.createDirectories(folder.resolve("share")).resolve("vault");
        place = new VaultPlace(house.bench);
        place.move(place.plan(Optional.of(share.toString())), TransferWatch.NONE);
    }

    private long whole() throws IOException {
        return new CopyJob(house.bench, house.sheets)
                .check(Optional.empty()).stream().filter(CopyJob.Checked::whole).count();
    }

    @Test
    void itsCopiesGoAlongAndComeBack() throws IOException {
        assertThat(house.workspace.vault()).isEqualTo(share.toAbsolutePath());
        assertThat(VaultFiles.isThere(house.workspace.ownVault())).isFalse();
        long copies = house.workspace.copies().all().size();
        assertThat(whole()).isEqualTo(copies);
        VaultPlace.Planned back = place.plan(Optional.empty());
        assertThat(back.bytes()).isEqualTo(VaultFiles.room(share)).isNotEqualTo(ByteSize.ZERO);
        place.move(back, TransferWatch.NONE);
        assertThat(house.workspace.vault()).isEqualTo(house.workspace.ownVault());
        assertThat(whole()).isEqualTo(copies);
        assertThat(VaultFiles.isThere(share)).isFalse();
        assertThat(house.workspace.log().all()).anyMatch(each -> each.kind().equals("vault-moved"));
    }

    /** What an unmounted share leaves is an empty folder: nothing is put into it, nothing struck off, nothing taken along. */
    @Test
    void aShareThatIsAwayIsSaid() throws IOException {
        Path mounted = share.resolveSibling("mounted elsewhere");
        Files.move(share, mounted);
        Files.createDirectory(share);
        long copies = house.workspace.copies().all().size();
        VaultJob vault = new VaultJob(house.bench);
        CopyJob job = new CopyJob(house.bench, house.sheets);
        List<ThrowingCallable> deeds = List.of(
                () -> job.run("ticket-desk", TransferWatch.NONE),
                () -> job.check(Optional.empty()),
                () -> job.newestOf("ticket-desk"),
                () -> vault.prune(Optional.empty(), TransferWatch.NONE),
                () -> vault.check(OptionalInt.empty(), TransferWatch.NONE),
                () -> place.plan(Optional.empty()),
                () -> WorkspaceExport.write(house.bench, folder.resolve("all.zip"), TransferWatch.NONE));
        for (ThrowingCallable deed : deeds) {
            assertThatThrownBy(deed)
                    .isInstanceOf(UnreadableInput.class)
                    .hasMessageContaining("The vault is not there")
                    .hasMessageContaining("mounted");
        }
        assertThat(vault.preview(Optional.empty()).problem()).isPresent();
        assertThat(copiesOf("ticket-desk").figure()).isEqualTo("away");
        assertThat(share).isEmptyDirectory();
        assertThat(house.workspace.copies().all()).hasSize((int) copies);
        // The same share under another name has all of them: nothing moves.
        VaultPlace.Planned plan = place.plan(Optional.of(mounted.toString()));
        assertThat(plan.bytes()).isEqualTo(ByteSize.ZERO);
        place.move(plan, TransferWatch.NONE);
        assertThat(whole()).isEqualTo(copies);
        assertThat(house.bench.standing().away()).isEmpty();
    }

    /** A plan that is a while old: the share went away since, or the vault was moved by somebody else. */
    @Test
    void whatWasPlannedIsPlannedAnew() throws IOException {
        VaultPlace.Planned home = place.plan(Optional.empty());
        Path other = folder.resolve("share").resolve("other");
        Path away = share.resolveSibling("away");
        Files.move(share, away);
        assertThatThrownBy(() -> place.move(home, TransferWatch.NONE)).hasMessageContaining("The vault is not there");
        assertThat(house.workspace.vault()).isEqualTo(share.toAbsolutePath());
        Files.move(away, share);
        place.move(place.plan(Optional.of(other.toString())), TransferWatch.NONE);
        long copies = house.workspace.copies().all().size();
        place.move(home, TransferWatch.NONE);
        assertThat(house.workspace.vault()).isEqualTo(house.workspace.ownVault());
        assertThat(whole()).isEqualTo(copies);
    }

    /** A disk of our own that is too small for the vault, then one that is full, then one that is not to be written to. */
    @Test
    void aFullDiskAndOneThatIsOnlyReadAreSaid() throws IOException {
        Path disk = Files.createDirectory(folder.resolve("disk"));
        Path there = disk.resolve("vault");
        CopyJob job = new CopyJob(house.bench, house.sheets);
        mount(disk, "size=1m");
        try {
            assertThatThrownBy(() -> place.plan(Optional.of(there.toString())))
                    .isInstanceOf(UnreadableInput.class)
                    .hasMessageContaining("are 1.05 MB free");
            mount(disk, "remount,size=60m");
            place.move(place.plan(Optional.of(there.toString())), TransferWatch.NONE);
            long whole = whole();
            smallCard();
            assertThat(GeneralTools.exitOf(
                            "dd", "if=/dev/zero", "of=" + disk.resolve("fill"), "bs=4096", "status=none"))
                    .as("until it is full")
                    .isNotZero();
            ByteSize room = VaultFiles.room(there);
            assertThatThrownBy(() -> job.run(SmallCard.BOARD, TransferWatch.NONE))
                    .isInstanceOf(IOException.class)
                    .hasMessageContaining("The vault's disk is full")
                    .hasMessageContaining("0 B are free");
            assertThat(VaultFiles.room(there)).isEqualTo(room);
            mount(disk, "remount,ro");
            assertThat(whole()).isEqualTo(whole).isPositive();
            assertThat(new VaultJob(house.bench).preview(Optional.empty()).problem())
                    .isEmpty();
            assertThatThrownBy(() -> job.run(SmallCard.BOARD, TransferWatch.NONE))
                    .isInstanceOf(IOException.class)
                    .hasMessageContaining("can only be read");
        } finally {
            GeneralTools.run("umount", disk.toString());
        }
    }

    private static void mount(Path disk, String options) throws IOException {
        Needs.ofKernel(
                GeneralTools.exitOf("mount", "-t", "tmpfs", "-o", options, "tmpfs", disk.toString()) == 0,
                "nothing may be mounted here");
    }

    @Test
    void aWorkspaceTakenAlongHasItsVaultInIt() throws IOException {
        Path file = folder.resolve("all.zip");
        WorkspaceExport.write(house.bench, file, TransferWatch.NONE);
        try (Workbench there = WorkspaceArchive.importFrom(
                file, folder.resolve("there"), house.bench.clock(), ZoneOffset.UTC, TransferWatch.NONE)) {
            assertThat(there.vault()).isEqualTo(there.workspace().ownVault());
            assertThat(VaultFiles.room(there.vault())).isEqualTo(VaultFiles.room(share));
            assertThat(there.workspace().copies().all())
                    .isNotEmpty()
                    .allMatch(each -> Files.isRegularFile(there.vault().resolve(each.file())));
        }
    }

    /** What its registers say of places outside does nothing: an archive may be anybody's. */
    @Test
    void anArchiveReachesNothingOutsideOfIt() throws IOException {
        Path strange = Files.createDirectories(folder.resolve("strange").resolve("packs"));
        Path part = Files.writeString(strange.resolve("mine.part"), "somebody's");
        Path file = folder.resolve("all.zip");
        house.workspace.vaultIsAt(Optional.of(strange.getParent()));
        WorkspaceExport.write(house.bench, file, TransferWatch.NONE);
        WorkspaceArchive.importFrom(
                        file, folder.resolve("there"), house.bench.clock(), ZoneOffset.UTC, TransferWatch.NONE)
                .close();
        assertThat(part).hasContent("somebody's");
        Copies.Copy copy = house.workspace.copies().all().get(0);
        house.workspace
                .copies()
                .add(new Copies.Copy(
                        0,
                        copy.board(),
                        copy.medium(),
                        copy.proven(),
                        "../../strange/packs/mine.part",
                        1,
                        1,
                        copy.sha256(),
                        Optional.empty()));
        VaultJob vault = new VaultJob(house.bench);
        house.bench.rules().retention(new Retention(1, 0, 0, 0));
        assertThatThrownBy(() -> vault.prune(Optional.empty(), TransferWatch.NONE))
                .isInstanceOf(NotPossible.class)
                .hasMessageContaining("outside of the vault");
        assertThat(part).exists();
        Path second = folder.resolve("second.zip");
        WorkspaceExport.write(house.bench, second, TransferWatch.NONE);
        assertThatThrownBy(() -> WorkspaceArchive.importFrom(
                        second, folder.resolve("there 2"), house.bench.clock(), ZoneOffset.UTC, TransferWatch.NONE))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("a copy's file that leads out of the workspace");
        assertThat(folder.resolve("there 2")).doesNotExist();
        assertThat(part).exists();
    }

    private Cell copiesOf(String board) throws IOException {
        return house.sheets.now().board(board).cell(Step.COPIES);
    }

    /** A backup that is missing is seen before the card dies: what is not in the vault does not count. */
    @Test
    void aCopyThatIsGoneCountsNoMore() throws IOException {
        smallCard();
        CopyJob job = new CopyJob(house.bench, house.sheets);
        job.run(SmallCard.BOARD, TransferWatch.NONE);
        house.clock.advance(Duration.ofMinutes(1));
        Path newest = job.run(SmallCard.BOARD, TransferWatch.NONE).report().file();
        assertThat(copiesOf(SmallCard.BOARD).pennant()).isEqualTo(Pennant.PROVEN);
        Files.delete(newest);
        assertThat(copiesOf(SmallCard.BOARD).pennant()).isEqualTo(Pennant.DUE);
        assertThat(copiesOf(SmallCard.BOARD).reason()).contains("is not in the vault any more");
        for (Copies.Copy copy : house.workspace.copies().of(SmallCard.BOARD)) {
            Files.deleteIfExists(share.resolve(copy.file()));
        }
        assertThat(copiesOf(SmallCard.BOARD).pennant()).isEqualTo(Pennant.FAILING);
        assertThat(copiesOf(SmallCard.BOARD).figure()).isEqualTo("gone");
        house.clock.advance(Duration.ofMinutes(1));
        job.run(SmallCard.BOARD, TransferWatch.NONE);
        assertThat(copiesOf(SmallCard.BOARD).pennant()).isEqualTo(Pennant.PROVEN);
    }

    private void smallCard() throws IOException {
        SmallCard.lay(house, new DiskBuilder(folder).build("small.img"));
        SmallCard.plug(house);
    }

    @Test
    void whereItCannotLieIsSaid() throws IOException {
        Path file = Files.writeString(folder.resolve("a file"), "text");
        for (String words : List.of(
                " ",
                file.toString(),
                share.toString(),
                share.resolve("inside").toString(),
                folder.resolve("not/there").toString(),
                house.workspace.drives().toString(),
                house.workspace.folder().toString())) {
            assertThatThrownBy(() -> place.plan(Optional.of(words))).as(words).isInstanceOf(UnreadableInput.class);
        }
        assertThat(house.workspace.vault()).isEqualTo(share.toAbsolutePath());
    }

    /** Drives of the workspace may be called by their names alone, where nothing else has that name. */
    @Test
    void aDriveOfTheWorkspaceIsKnownByItsName() throws IOException {
        Path drive = Path.of("spare-card-32.img");
        assertThat(house.bench.targets().meant(drive))
                .isEqualTo(house.workspace.folder().resolve("drives").resolve(drive));
        assertThat(house.bench.targets().meant(Path.of("no-such-drive.img"))).isEqualTo(Path.of("no-such-drive.img"));
        assertThat(house.bench.targets().meant(Path.of("a/spare-card-32.img")))
                .isEqualTo(Path.of("a/spare-card-32.img"));
    }
}
