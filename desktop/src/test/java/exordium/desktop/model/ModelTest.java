// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.model;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.TransferWatch;
import exordium.core.board.StartSource;
import exordium.core.bootorder.FirstTried;
import exordium.core.copies.care.WayBack;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.image.ImageFile;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.OrderComparison;
import exordium.core.rehearsal.contents.Cause;
import exordium.core.storage.judgement.StorageAssessment;
import exordium.core.storage.judgement.SystemKind;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.writing.WriteMode;
import exordium.desktop.DemoHouse;
import exordium.desktop.board.image.ImageModel;
import exordium.desktop.board.image.ImageSource;
import exordium.desktop.board.image.WriteDraft;
import exordium.desktop.board.order.OrderDraft;
import exordium.desktop.board.rehearsal.BenchDraft;
import exordium.desktop.board.rehearsal.RehearsalModel;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.board.storage.StorageDraft;
import exordium.desktop.board.storage.StorageModel;
import exordium.desktop.desk.CopyRequests;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.desk.Request;
import exordium.desktop.inside.InsideModel;
import exordium.desktop.shelf.MediaModel;
import exordium.desktop.shell.Destinations;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.media.MediaRegister;
import exordium.jobs.media.OpenedSource;
import exordium.jobs.run.JobRunner;
import exordium.jobs.writing.WriteJob;
import exordium.store.Media;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.locks.LockSupport;
import java.util.function.BooleanSupplier;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What the window decides to show, without a window. */
class ModelTest {
    @TempDir
    Path folder;

    private House house;

    @BeforeEach
    void open() throws IOException {
        Workbench workbench = DemoHouse.open(folder);
        house = new House(workbench, this::post);
    }

    @AfterEach
    void close() {
        house.close();
    }

    private OpenedBoard board(String board) throws IOException {
        return OpenedBoard.read(house, board);
    }

    private RehearsalModel bench(String board) throws IOException {
        return RehearsalModel.read(house, board(board));
    }

    private ImageModel toWrite(String board) throws IOException {
        return ImageModel.read(house, board(board));
    }

    private StorageModel storage(String board) throws IOException {
        return StorageModel.read(house, board(board));
    }

    private void refresh() throws InterruptedException {
        CountDownLatch done = new CountDownLatch(1);
        house.facts().sheetProperty().addListener((property, before, now) -> done.countDown());
        house.facts().refresh();
        assertThat(done.await(30, TimeUnit.SECONDS)).isTrue();
    }

    @Test
    void aBoardsOwnMediumIsOfferedBeforeOneThatIsFree() throws IOException {
        assertThat(toWrite("tide-clock")
                        .usualTarget()
                        .orElseThrow()
                        .description()
                        .id())
                .isEqualTo("tide-clock-card.img");
        ImageModel spare = toWrite("store-room-spare");
        assertThat(spare.inServiceAt())
                .doesNotContainKey(
                        spare.usualTarget().orElseThrow().description().id());
    }

    @Test
    void theFieldThatGoesAnywhereFindsBoardsStationsMediaFormsAndTasks() throws InterruptedException {
        refresh();
        Destinations all = new Destinations(
                house.facts().sheetProperty().get(),
                house.workbench().records().media(),
                house.workbench().records().images());
        assertThat(all.find("wave"))
                .first()
                .extracting(Destinations.Destination::place)
                .isEqualTo(new Place.Station("wave-tank", Step.STORAGE));
        assertThat(all.find("film order"))
                .extracting(Destinations.Destination::place)
                .contains(new Place.Station("film-loop", Step.ORDER));
        assertThat(all.find("KL512"))
                .extracting(Destinations.Destination::place)
                .containsExactly(Place.Shelf.MEDIA);
        assertThat(all.find("new board"))
                .first()
                .extracting(Destinations.Destination::place)
                .isEqualTo(Place.Form.NEW_BOARD);
        assertThat(all.find("make the copy")).isNotEmpty();
        assertThat(all.find("zzz")).isEmpty();
        assertThat(all.find("")).hasSize(9);
    }

    @Test
    void rungsMoveAndTheValueFollows() throws IOException {
        OrderDraft draft = new OrderDraft(board("film-loop").at().profile(), "0xf41");
        assertThat(draft.rungs()).containsExactly(StartSource.CARD, StartSource.USB, StartSource.RESTART);
        draft.add(StartSource.NVME);
        assertThat(draft.value()).contains("0xf641");
        draft.move(2, 0);
        assertThat(draft.value()).contains("0xf416");
        assertThat(draft.changed()).isTrue();
        draft.move(0, 9);
        assertThat(draft.value()).contains("0xf416");
        draft.remove(0);
        assertThat(draft.value()).contains("0xf41");
        assertThat(draft.changed()).isFalse();
        assertThat(draft.unused()).contains(StartSource.NVME, StartSource.NETWORK);
        draft.remove(2);
        draft.remove(1);
        draft.remove(0);
        assertThat(draft.value()).isEmpty();
        assertThat(Finding.anyStops(draft.findings())).isTrue();
    }

    @Test
    void anOrderIsComparedWithWhatTheBoardHolds() throws IOException {
        RehearsalModel film = bench("film-loop");
        OrderComparison same = OrderComparison.of(
                film.bench(), List.of(StartSource.CARD, StartSource.USB, StartSource.RESTART), false, FirstTried.CARD);
        assertThat(same.variants())
                .extracting(OrderComparison.Variant::name)
                .containsExactly("now 0xf41", "NVMe first, 0xf416", "Kelpline 512 out");
        OrderComparison changed = OrderComparison.of(
                film.bench(),
                List.of(StartSource.NVME, StartSource.CARD, StartSource.USB, StartSource.RESTART),
                false,
                FirstTried.CARD);
        assertThat(changed.variants().get(1).name()).isEqualTo("new 0xf416");
        assertThat(changed.variants().get(1).trace().cause()).isEqualTo(Cause.ROOT_NOT_FOUND);
        assertThat(changed.findings()).extracting(Finding::code).contains("start-root-not-found", "house-first-tried");
    }

    @Test
    void theBenchIsPlayedWithAndNothingIsTouched() throws IOException {
        RehearsalModel wave = bench("wave-tank");
        BenchDraft draft = new BenchDraft(wave);
        assertThat(draft.trace().runs()).isTrue();
        draft.next("nvme");
        assertThat(draft.contact("nvme")).isEqualTo(BenchDraft.Contact.LOOSE);
        assertThat(draft.trace().cause()).isEqualTo(Cause.DRIVE_NOT_SEEN);
        draft.next("nvme");
        assertThat(draft.trace().cause()).isEqualTo(Cause.NO_SOURCE_LEFT);
        draft.next("nvme");
        assertThat(draft.asItIs()).isTrue();
        draft.weakSupply(true);
        assertThat(draft.trace().cause()).isEqualTo(Cause.SUPPLY_TOO_WEAK);
        assertThat(bench("wave-tank").bench().attached()).hasSize(1);
    }

    @Test
    void theButtonPutsTheCardFirstWhereABoardHasOne() throws IOException {
        BenchDraft door = new BenchDraft(bench("door-counter"));
        double before = door.trace().seconds();
        door.buttonHeld(true);
        assertThat(door.trace().seconds()).isGreaterThan(before);
        BenchDraft wave = new BenchDraft(bench("wave-tank"));
        wave.buttonHeld(true);
        assertThat(wave.trace().steps())
                .isEqualTo(new BenchDraft(bench("wave-tank")).trace().steps());
    }

    @Test
    void aWriteIsReadyOnlyWhenTheTargetIsNamed() throws IOException {
        ImageModel spare = toWrite("store-room-spare");
        WriteDraft draft = new WriteDraft(spare);
        assertThat(draft.deed()).isEqualTo("Choose an image and a target");
        draft.image(spare.sources().get(0));
        assertThat(draft.plans()).isEmpty();
        draft.opened(new ImageSource.Opened(
                ImageFile.open(spare.sources().get(0).file()),
                spare.sources().get(0).size()));
        Targets.Target target = spare.targets().stream()
                .filter(each -> each.description().id().equals("spare-card-32.img"))
                .findFirst()
                .orElseThrow();
        draft.target(target);
        assertThat(draft.deed()).isEqualTo("Write marshlinux 2026.10 to Tidewell 32");
        assertThat(draft.ready(draft.plans())).isFalse();
        assertThat(draft.advice(draft.plans())).noneMatch(Finding::stops);
        draft.typed("spare-card-16.img");
        assertThat(draft.advice(draft.plans())).anyMatch(Finding::stops);
        draft.typed(" spare-card-32.img ");
        assertThat(draft.ready(draft.plans())).isFalse();
        draft.typed("spare-card-32.img");
        assertThat(draft.ready(draft.plans())).isTrue();
        assertThat(draft.named()).isTrue();
        Targets.Target second = spare.targets().stream()
                .filter(each -> each.description().id().equals("spare-card-16.img"))
                .findFirst()
                .orElseThrow();
        draft.addAlso(second);
        draft.addAlso(target);
        assertThat(draft.also()).containsExactly(second);
        assertThat(draft.names()).isEqualTo("spare-card-32.img, spare-card-16.img");
        assertThat(draft.ready(draft.plans())).as("the second was not named").isFalse();
        draft.typed("spare-card-32.img, spare-card-16.img");
        assertThat(draft.ready(draft.plans())).isTrue();
        assertThat(draft.deed()).endsWith("Tidewell 32 and 1 more");
        draft.removeAlso(second);
        draft.typed("spare-card-32.img");
        draft.mode(WriteMode.USED);
        assertThat(draft.wantsUsedMap()).isTrue();
        assertThat(draft.plans()).isEmpty();
        draft.used(WriteJob.usedIn(ImageFile.open(draft.image().orElseThrow().file()), TransferWatch.NONE));
        assertThat(draft.plans().get(0).plan().planned())
                .isLessThan(draft.image().orElseThrow().size());
        draft.target(target);
        assertThat(draft.ready(draft.plans())).isFalse();
    }

    @Test
    void copiesOfABoardCanBeWrittenBack() throws IOException {
        List<ImageSource> sources = toWrite("ticket-desk").sources();
        assertThat(sources.stream().filter(each -> each.kind() != ImageSource.SourceKind.MEDIUM))
                .hasSize(8);
        // What is on a medium that is here is a source as well, after images and copies.
        assertThat(sources.get(8).kind()).isEqualTo(ImageSource.SourceKind.MEDIUM);
        // Its medium is in service: a copy onto it would only take back what was written since.
        assertThat(sources.get(0).kind()).isEqualTo(ImageSource.SourceKind.IMAGE);
        assertThat(sources.get(0).title()).startsWith("marshlinux");
        assertThat(sources.get(5).title()).isEqualTo("copy of 2026-10-21");
        assertThat(sources.get(5).checksumText()).isEqualTo("proven when it was made");
        // Taken out, the house's way back stands first.
        Workbench bench = house.workbench();
        Media.Medium card = bench.mainMedium(bench.board("ticket-desk")).orElseThrow();
        house.boardJobs().unplug(bench.board("ticket-desk"), card);
        assertThat(toWrite("ticket-desk").sources().get(0).title()).isEqualTo("copy of 2026-10-21");
        bench.rules().wayBack(WayBack.IMAGE);
        assertThat(toWrite("ticket-desk").sources().get(5).title()).isEqualTo("copy of 2026-10-21");
    }

    @Test
    void aFormIsAskedForWithoutLeavingWhereOneIs() {
        house.navigation().go(Place.Shelf.MEDIA);
        house.navigation().go(Place.Form.NEW_DRIVE);
        assertThat(house.navigation().placeProperty().get()).isEqualTo(Place.Shelf.MEDIA);
        assertThat(house.navigation().formProperty().get()).isEqualTo(Place.Form.NEW_DRIVE);
    }

    @Test
    void whatGoesWrongIsOneSentence() throws InterruptedException {
        CountDownLatch said = new CountDownLatch(1);
        house.reading().problemProperty().addListener((property, before, now) -> {
            if (!now.isEmpty()) {
                said.countDown();
            }
        });
        house.reading().read(() -> OpenedBoard.read(house, "nobody"), detail -> {});
        assertThat(said.await(30, TimeUnit.SECONDS)).isTrue();
        assertThat(house.reading().problemProperty().get()).startsWith("There is no board \"nobody\"");
    }

    @Test
    void jobsRunBesideEachOtherButNotOnOneDrive() throws InterruptedException {
        post(() -> hold("mast-webcam-card.img"));
        post(() -> hold("wave-tank-nvme.img"));
        until(() -> house.workbench().workspace().operations().running().size() == 2);
        post(() -> house.jobs().start(CopyRequests.copy(house, "Copying it", "mast-webcam", "mast-webcam-card.img")));
        until(() -> problem().endsWith("is in its hands until then. Wait for it or stop it."));
        assertThat(problem()).startsWith("Holding mast-webcam-card.img is not finished; mast-webcam-card.img");
        post(() ->
                house.jobs().start(CopyRequests.copy(house, "Copying another", "tide-clock", "tide-clock-card.img")));
        until(() -> house.workbench().workspace().operations().running().size() == 3);
        post(() -> house.jobs().stop(house.jobs().running().get(0)));
        until(() -> problem().startsWith("Stopped while holding mast-webcam-card.img"));
        until(() -> house.jobs().running().size() == 2);
        post(() -> List.copyOf(house.jobs().running()).forEach(house.jobs()::stop));
        until(() -> !house.jobs().any());
        assertThat(house.workbench().records().copiesOf("mast-webcam")).hasSize(1);
    }

    /** Has a drive in hand until it is stopped. */
    private void hold(String drive) {
        Targets.Target target = target(drive);
        Request<Void> holding = Request.deed("Holding " + drive, meter -> new JobRunner(house.workbench())
                .run(
                        JobRunner.DeedKind.reading("hold", Step.STORAGE, "holding"),
                        target,
                        Optional.empty(),
                        meter,
                        (device, keeping) -> {
                            while (true) {
                                meter.goOnOrStop();
                                LockSupport.parkNanos(1_000_000);
                            }
                        }));
        house.jobs().start(holding.on(drive));
    }

    private Targets.Target target(String drive) {
        try {
            return house.targets().at(house.workbench().driveFile(drive), ByteSize.ZERO);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private String problem() {
        return house.reading().problemProperty().get();
    }

    private synchronized void post(Runnable work) {
        work.run();
    }

    private synchronized boolean holds(BooleanSupplier condition) {
        return condition.getAsBoolean();
    }

    private void until(BooleanSupplier condition) throws InterruptedException {
        long since = System.nanoTime();
        while (!holds(condition)) {
            assertThat(System.nanoTime() - since).as(problem()).isLessThan(TimeUnit.SECONDS.toNanos(60));
            Thread.sleep(20);
        }
    }

    /** Closing the window in the middle of a copy leaves nothing half-done, and asks nothing more of a closed house. */
    @Test
    void closingStopsWhatRuns() {
        house.jobs().start(CopyRequests.copy(house, "Copying", "mast-webcam", "mast-webcam-card.img"));
        house.close();
        assertThat(house.workbench().records().copiesOf("mast-webcam")).hasSize(1);
        assertThat(house.workbench().vault().resolve("mast-webcam").toFile().list())
                .noneMatch(name -> name.endsWith(".part"));
        house.facts().refresh();
        house.reading().read(() -> 1, one -> {});
    }

    @Test
    void aRoleThatMovesChangesWhatComesFirst() throws IOException {
        StorageDraft draft = new StorageDraft(storage("wave-tank"));
        draft.shops(true);
        assertThat(draft.rank()).hasSizeGreaterThan(15);
        draft.role(draft.role().withQuickStart(true).withSystem(SystemKind.DESKTOP));
        assertThat(draft.rank().get(0).medium().kind().bus()).isEqualTo("nvme");
        draft.role(draft.role().withBudget(6));
        assertThat(draft.rank().stream().filter(StorageAssessment::fits))
                .allSatisfy(each -> assertThat(each.price()).isLessThanOrEqualTo(6));
        String chosen = draft.chosen().orElseThrow().medium().id();
        draft.beside(chosen);
        assertThat(draft.besideIt().orElseThrow().medium().id()).isNotEqualTo(chosen);
        assertThat(draft.comparison().orElseThrow().rows()).hasSize(11);
        assertThat(draft.advice()).isNotEmpty();
        assertThat(draft.advice(Optional.of("It would come first if pigs flew.")))
                .hasSize(draft.advice().size() + 1);
        draft.role(draft.role().withBudget(0));
        draft.choose(draft.rank().get(0).medium().id());
        assertThat(draft.whatIf().get()).isEmpty();
    }

    /** Sliders move under the hand: 200 candidates are ranked in a breath. A bound so wide that only a blunder breaks it. */
    @Test
    void rankingIsNoWorkThatGrowsOutOfHand() throws IOException {
        StorageDraft draft = new StorageDraft(storage("wave-tank"));
        draft.shops(true);
        draft.rank();
        long begin = System.nanoTime();
        for (int i = 0; i < 12; i++) {
            draft.role(draft.role().withDailyWrites(ByteSize.ofGigabytes(i + 1)));
            draft.rank();
        }
        assertThat((System.nanoTime() - begin) / 1e9).isLessThan(5);
    }

    @Test
    void theDrawerSaysWhereEachMediumIsAndHowItIs() throws InterruptedException {
        MediaModel media = new MediaModel(house);
        CountDownLatch read = new CountDownLatch(1);
        media.read(read::countDown);
        assertThat(read.await(30, TimeUnit.SECONDS)).isTrue();
        assertThat(media.entries()).hasSize(13);
        MediaRegister.Entry worn = media.entries().stream()
                .filter(entry -> entry.medium().id().equals("mast-webcam-card"))
                .findFirst()
                .orElseThrow();
        assertThat(media.pennant(worn)).isEqualTo(Pennant.FAILING);
        assertThat(media.where(worn)).isEqualTo("in Mast webcam");
        assertThat(media.triable(worn)).isFalse();
        media.choose("wave-tank-nvme");
        assertThat(media.triable(media.chosen().orElseThrow())).isTrue();
        assertThat(media.twinsOf(worn)).isEmpty();
    }

    /** News of the drawer are told only when there are any, so that nothing typed into a page is disturbed. */
    @Test
    void aMediumIsCalledLaidSomewhereAndMergedAndOnlyNewsAreTold() throws Exception {
        MediaModel media = new MediaModel(house);
        readAnew(media);
        AtomicInteger told = new AtomicInteger();
        media.read(told::incrementAndGet);
        CountDownLatch after = new CountDownLatch(1);
        house.reading().read(() -> 1, one -> after.countDown());
        assertThat(after.await(30, TimeUnit.SECONDS)).isTrue();
        assertThat(told).hasValue(0);
        MediaRegister.Entry spare = entry(media, "spare-card-16");
        media.label(spare, "Wave");
        media.place(spare, "  biscuit tin ");
        readAnew(media);
        assertThat(entry(media, "spare-card-16").details().label()).isEqualTo("Wave");
        assertThat(media.where(entry(media, "spare-card-16"))).isEqualTo("biscuit tin");
        media.merge(entry(media, "spare-card-16"), entry(media, "spare-card-32"));
        readAnew(media);
        MediaRegister.Entry merged = entry(media, "spare-card-16");
        assertThat(media.where(merged)).isEqualTo("retired");
        assertThat(merged.details().note()).isEqualTo("is the same as spare-card-32");
        assertThat(media.chosen().orElseThrow().medium().id()).isEqualTo("spare-card-32");
    }

    private static void readAnew(MediaModel media) throws InterruptedException {
        CountDownLatch read = new CountDownLatch(1);
        media.read(read::countDown);
        assertThat(read.await(30, TimeUnit.SECONDS)).isTrue();
    }

    private static MediaRegister.Entry entry(MediaModel media, String id) {
        return media.entries().stream()
                .filter(each -> each.medium().id().equals(id))
                .findFirst()
                .orElseThrow();
    }

    /** The hash is made by openssl passwd, a general tool. */
    @Test
    void aUsersOwnListOfPasswordsCountsInTheWindow() throws Exception {
        String hash = GeneralTools.run("openssl", "passwd", "-5", "-salt", "aBcD", "low-water-1741")
                .strip();
        Path disk = new DiskBuilder(folder)
                .root("etc/passwd", "keeper:x:1000:1000::/:/bin/sh\n")
                .root("etc/shadow", "keeper:" + hash + ":1::::::\n")
                .build("login.img");
        Path profiles = Files.createDirectories(house.workbench().folder().resolve("profiles"));
        Files.writeString(profiles.resolve("tried-passwords.txt"), "low-water-1741\n");
        CompletableFuture<InsideModel.About> told = new CompletableFuture<>();
        InsideModel model = new InsideModel(house, new OpenedSource.Subject("login", "login.img", disk, true));
        model.about(told::complete);
        assertThat(told.get(60, TimeUnit.SECONDS).kit().openLogins()).containsExactly("keeper");
        model.close();
    }
}
