// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.Machine;
import exordium.core.finding.Step;
import exordium.desktop.desk.Place;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.lang.ref.WeakReference;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import javafx.application.Platform;
import javafx.event.Event;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxToolkit;

/** What holds for every page: it asks no database on the interface thread, it ends, and Tab goes through it. */
class PagesTest extends WindowCase {
    /** Fifty in benchmarks/long-runs. */
    private static final int VISITS = Integer.getInteger("exordium.visits", 3);

    private static final String BOARD = "tide-clock";
    private static final KeyEvent TAB =
            new KeyEvent(KeyEvent.KEY_PRESSED, "", "", KeyCode.TAB, false, false, false, false);

    private final List<Throwable> thrown = new CopyOnWriteArrayList<>();

    @Override
    void closed() {
        assertThat(thrown).isEmpty();
    }

    /** How often every page is gone to. */
    int visits() {
        return VISITS;
    }

    /** The machine the window runs on. */
    Machine machine() {
        return Machine.here();
    }

    @Override
    Workbench furnish() throws IOException {
        return DemoHouse.open(own, machine());
    }

    @Override
    void housed() {
        workbench.workspace().barFrom(Platform::isFxApplicationThread);
        Thread.currentThread().setUncaughtExceptionHandler((thread, failure) -> {
            failure.printStackTrace();
            thrown.add(failure);
        });
    }

    final void begin() {
        hand.see("roster-wave-tank");
    }

    private static List<Place> everywhere() {
        List<Place> places = new ArrayList<>();
        for (Step step : Step.values()) {
            places.add(new Place.Station(BOARD, step));
        }
        places.add(new Place.Sheet());
        Collections.addAll(places, Place.Shelf.values());
        return places;
    }

    final void go(Place place) {
        Hand.on(() -> house.navigation().go(place));
        if (place instanceof Place.Station station) {
            hand.see("station-" + station.step().code());
        }
        settle();
    }

    /** Everything that was asked for so far is read and shown. */
    private void settle() {
        AtomicLong left = new AtomicLong(2);
        Platform.runLater(() -> house.reading().read(() -> 1, one -> left.decrementAndGet()));
        Platform.runLater(() -> house.reading().look(() -> 1, one -> left.decrementAndGet()));
        hand.until("what was asked for is read", () -> left.get() == 0);
    }

    /** Every page, the forms, the keys and the rules, with the database closed to the interface thread. */
    @Test
    void theInterfaceThreadAsksNoDatabase() {
        begin();
        for (Place place : everywhere()) {
            go(place);
        }
        for (Place.Form form : Place.Form.values()) {
            go(form);
            hand.press(KeyCode.ESCAPE);
        }
        hand.press(KeyCode.CONTROL, KeyCode.K);
        hand.see("go-field");
        settle();
        hand.press(KeyCode.ESCAPE);
        hand.press(KeyCode.CONTROL, KeyCode.N);
        hand.press(KeyCode.CONTROL, KeyCode.EQUALS);
        hand.untilKept(
                "night and size are kept",
                () -> workbench.rules().nightChart() && workbench.rules().textSize() == 110);
        Hand.on(() -> house.facts().refresh());
        settle();
    }

    /** Another process holds the database for a while: the window goes on, and what was asked for is shown afterwards. */
    @Test
    void aHeldDatabaseDoesNotHoldTheWindow() throws SQLException, InterruptedException {
        begin();
        everywhere().forEach(this::go);
        AtomicLong longest = new AtomicLong();
        AtomicLong last = new AtomicLong(System.nanoTime());
        // What of a step is work, on a machine that has other things to do as well.
        AtomicLong most = new AtomicLong();
        AtomicLong worked = new AtomicLong();
        List<String> steps = new ArrayList<>();
        Thread heart = new Thread(() -> {
            while (!Thread.currentThread().isInterrupted()) {
                Platform.runLater(() -> {
                    long now = System.nanoTime();
                    longest.accumulateAndGet(now - last.getAndSet(now), Math::max);
                    long work = ManagementFactory.getThreadMXBean().getCurrentThreadCpuTime();
                    most.accumulateAndGet(work - worked.getAndSet(work), Math::max);
                });
                try {
                    // Each beat is counted into the step before it: the pause is as short as it can be.
                    TimeUnit.MILLISECONDS.sleep(1);
                } catch (InterruptedException e) {
                    return;
                }
            }
        });
        try (Connection other = DriverManager.getConnection(
                        "jdbc:sqlite:" + workbench.folder().resolve("exordium.db"));
                Statement held = other.createStatement()) {
            held.execute("PRAGMA busy_timeout = 20000");
            held.execute("BEGIN IMMEDIATE");
            Hand.on(() -> worked.set(ManagementFactory.getThreadMXBean().getCurrentThreadCpuTime()));
            last.set(System.nanoTime());
            longest.set(0);
            heart.start();
            Hand.on(() -> house.facts().rules().freeTail(5));
            Hand.on(() -> house.facts().refresh());
            for (Place place : everywhere()) {
                long before = longest.getAndSet(0);
                Hand.on(() -> house.navigation().go(place));
                TimeUnit.MILLISECONDS.sleep(100);
                steps.add(longest.get() / 1_000_000 + " " + place);
                longest.accumulateAndGet(before, Math::max);
            }
            long before = longest.getAndSet(0);
            TimeUnit.SECONDS.sleep(5);
            steps.add(longest.get() / 1_000_000 + " waiting");
            longest.accumulateAndGet(before, Math::max);
            held.execute("ROLLBACK");
        } finally {
            heart.interrupt();
            heart.join();
        }
        System.out.println("longest step while the database was held: " + longest.get() / 1_000_000
                + " ms, the most work in one " + most.get() / 1_000_000 + " ms; by place " + steps);
        // Far under the six seconds it was held, and far over what a slow machine takes to lay a page out.
        assertThat(longest.get()).isLessThan(TimeUnit.SECONDS.toNanos(3));
        hand.untilKept("the rule is kept", () -> workbench.rules().freeTail() == 5);
    }

    /** Typing the name of a drive asks neither disk nor database: a letter costs what it costs to judge the plan again. */
    @Test
    void aLetterInTheConfirmFieldIsCheap() {
        begin();
        go(new Place.Station(BOARD, Step.IMAGE));
        hand.see("confirm");
        hand.untilPageSays("What will happen");
        hand.click("confirm");
        List<Long> nanos = new ArrayList<>();
        for (int i = 0; i < 60; i++) {
            nanos.add(Hand.on(() -> {
                long begin = System.nanoTime();
                Event.fireEvent(
                        stage.getScene().getFocusOwner(),
                        new KeyEvent(KeyEvent.KEY_TYPED, "x", "", KeyCode.UNDEFINED, false, false, false, false));
                return System.nanoTime() - begin;
            }));
        }
        Collections.sort(nanos);
        System.out.println("a letter in the confirm field: " + nanos.get(30) / 1000 + " us, at most "
                + nanos.get(59) / 1000 + " us");
        assertThat(((TextField) hand.see("confirm")).getText()).hasSize(60);
        // Opening the image again for each letter took twenty times as long as this machine needs now.
        assertThat(nanos.get(30)).isLessThan(TimeUnit.MILLISECONDS.toNanos(100));
    }

    /** A page that is left is nobody's: nothing that lives on holds it. */
    @Test
    void manyVisitsOfEveryPageLeaveOneAlive() {
        begin();
        List<WeakReference<Node>> pages = new ArrayList<>();
        for (int visit = 0; visit < visits(); visit++) {
            for (Place place : everywhere()) {
                go(place);
                Hand.on(() -> {
                    for (Node page : stage.getScene().getRoot().lookupAll(".page")) {
                        if (pages.stream().noneMatch(each -> each.get() == page)) {
                            pages.add(new WeakReference<>(page));
                        }
                    }
                });
            }
            forgetEvents();
        }
        assertThat(pages).hasSizeGreaterThan(visits() * Place.Shelf.values().length);
        go(Place.Shelf.LOGBOOK);
        hand.untilKept("one page is alive", () -> {
            forgetEvents();
            System.gc();
            settle();
            return pages.stream().filter(each -> each.get() != null).count() <= 1;
        });
    }

    /** The test's own framework keeps every event with what it was aimed at. */
    private static void forgetEvents() {
        Hand.on(() -> FxToolkit.toolkitContext()
                .setRegisteredStage(FxToolkit.toolkitContext().getRegisteredStage()));
    }

    private static void gather(Node node, Set<Node> into) {
        if (!node.isVisible() || node.isDisabled()) {
            return;
        }
        // Of a group of toggles Tab reaches the one that is on; arrows go on from there.
        boolean byArrows =
                node instanceof ToggleButton toggle && toggle.getToggleGroup() != null && !toggle.isSelected();
        if (!byArrows && (node.getStyleClass().contains("figure-drawing") || node.isFocusTraversable())) {
            into.add(node);
        }
        if (node instanceof Parent parent) {
            parent.getChildrenUnmodifiable().forEach(each -> gather(each, into));
        }
    }

    /** Once round with Tab on every page: every control that can have the focus gets it, and every drawing. */
    @Test
    void tabGoesThroughEveryControlAndDrawing() {
        begin();
        for (Place place : everywhere()) {
            go(place);
            Hand.on(() -> {
                Parent root = stage.getScene().getRoot();
                root.applyCss();
                root.layout();
                Set<Node> wanted = new HashSet<>();
                gather(root, wanted);
                Set<Node> reached = new HashSet<>();
                Node first = root.lookup("#roster-sheet");
                first.requestFocus();
                Node owner = first;
                for (int step = 0; owner != null && step <= 2 * wanted.size(); step++) {
                    reached.add(owner);
                    Event.fireEvent(owner, TAB);
                    owner = stage.getScene().getFocusOwner();
                }
                wanted.removeAll(reached);
                assertThat(wanted).as("not reached at " + place).isEmpty();
            });
        }
    }
}
