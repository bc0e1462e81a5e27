// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.daysheet.Pennant;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.network.BoardAsk;
import exordium.core.network.NetworkPlan;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.desk.Request;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.draw.bench.NetworkPicture;
import exordium.desktop.part.AdviceColumn;
import exordium.desktop.part.Page;
import exordium.desktop.part.Parts;
import exordium.jobs.network.NetworkJob;
import exordium.jobs.network.NetworkKit;
import exordium.jobs.network.NetworkTry;
import java.io.File;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** A server and the boards that start from it: the picture of it, what each board asks for and is told, what its log says. */
public final class NetworkView extends VBox implements Page {
    private final House house;
    private final VBox middle = new VBox(12);
    private final AdviceColumn advice = new AdviceColumn("Worth knowing", Step.ORDER, step -> {});
    private final Button real = Parts.button("Ask real servers", this::askReal, "task");
    private final Button log = Parts.button("Read a server's log …", this::readLog);
    private final Button change = Parts.button("Change the plan", this::plan);
    private final ComboBox<String> board = new ComboBox<>();
    private final VBox steps = new VBox(2);
    private final Label how = Parts.label("", "aside", "small");
    private Optional<Read> shown = Optional.empty();
    private Optional<NetworkTry.Report> asked = Optional.empty();

    /** What is shown: the plan, and how each board fared when it was tried. */
    private record Read(NetworkJob.Planned planned, NetworkTry.Report report, List<String> faults) {}

    NetworkView(House house) {
        super(10);
        this.house = house;
        getStyleClass().add("page");
        real.setId("network-real");
        log.setId("network-log");
        change.setId("network-plan");
        board.setId("network-board");
        board.setAccessibleText("Board whose requests are shown");
        board.valueProperty().addListener((property, before, now) -> showSteps());
        HBox title = Parts.row(
                12,
                Parts.label(Place.Shelf.NETWORK.title(), "title"),
                Parts.label(Place.Shelf.NETWORK.hint(), "aside"),
                Parts.spring(),
                change,
                log,
                real);
        ScrollPane scroll = new ScrollPane(middle);
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        HBox body = new HBox(16, scroll, advice);
        HBox.setHgrow(scroll, Priority.ALWAYS);
        getChildren().addAll(title, Parts.grow(body));
        facts();
    }

    @Override
    public Node root() {
        return this;
    }

    private NetworkKit kit() {
        return NetworkKit.of(house.workbench());
    }

    @Override
    public void facts() {
        house.reading().read(this::read, read -> show(read.map(this::withReal)));
    }

    private Optional<Read> read() throws IOException {
        return kit().exists() ? Optional.of(read(kit())) : Optional.empty();
    }

    private Read read(NetworkKit kit) throws IOException {
        NetworkJob job = new NetworkJob(house.workbench(), kit);
        return new Read(
                job.planned(kit.plan()),
                new NetworkTry(house.workbench(), kit).played(Optional.empty(), Optional.empty()),
                job.playedFaults());
    }

    /** What real servers said counts on, as long as the plan is the same and no fault is played. */
    private Read withReal(Read read) {
        boolean holds = asked.isPresent()
                && read.faults().isEmpty()
                && read.report().broken().isEmpty()
                && shown.filter(before ->
                                before.planned().plan().equals(read.planned().plan()))
                        .isPresent();
        asked = asked.filter(report -> holds);
        return asked.map(report -> new Read(read.planned(), report, read.faults()))
                .orElse(read);
    }

    private void askReal() {
        how.setText("Real servers are asked …");
        real.setDisable(true);
        house.jobs()
                .start(
                        Request.of("Asking real servers", meter -> new NetworkTry(
                                        house.workbench(), NetworkKit.of(house.workbench()))
                                .real(Optional.empty())),
                        report -> {
                            asked = Optional.of(report);
                            shown.ifPresent(read -> show(Optional.of(new Read(read.planned(), report, read.faults()))));
                        },
                        () -> real.setDisable(false));
    }

    private void plan() {
        house.navigation().go(Place.Form.NETWORK_START);
    }

    private void show(Optional<Read> read) {
        shown = read;
        boolean there = read.isPresent();
        for (Button each : List.of(real, log, change)) {
            each.setVisible(there);
            each.setManaged(there);
        }
        advice.setVisible(there);
        advice.setManaged(there);
        if (read.isEmpty()) {
            middle.getChildren()
                    .setAll(Parts.empty(
                            "empty-begin",
                            "No board starts over the network yet. A server hands out addresses, start files and roots; here its files are"
                                    + " made, looked through, and tried before a board is touched. Nothing of this machine is changed.",
                            Place.Form.NETWORK_START.title(),
                            this::plan));
            return;
        }
        advice.show(findings(read.get()));
        NetworkJob.Planned planned = read.get().planned();
        middle.getChildren()
                .setAll(
                        picture(read.get()),
                        Parts.paragraph(sums(planned), "small"),
                        Parts.row(
                                10,
                                Parts.label("What", "heading"),
                                board,
                                Parts.label("asks for, and is told", "heading"),
                                Parts.spring(),
                                how),
                        steps);
        how.setText(
                read.get().report().real()
                        ? "by dnsmasq and an NFS server, just now, in a network of their own"
                        : read.get().report().why().orElse("by a server that is played from the kit's own files"));
        List<String> boards =
                planned.rows().stream().map(row -> row.client().id()).toList();
        String before = board.getValue();
        board.getItems().setAll(boards);
        board.setValue(boards.contains(before) ? before : firstToSee(read.get()));
        showSteps();
    }

    /** One that does not come up first. */
    private static String firstToSee(Read read) {
        return read.report().boards().stream()
                .filter(each -> !each.starts())
                .findFirst()
                .or(() -> read.report().boards().stream().findFirst())
                .map(NetworkTry.Seen::board)
                .orElse(null);
    }

    private static List<Finding> findings(Read read) {
        List<Finding> all = new ArrayList<>(read.planned().findings());
        read.faults()
                .forEach(fault -> all.add(Finding.caution(
                        "network-fault-played",
                        "Played: " + fault + ".",
                        exordium.core.finding.Basis.computed("the simulated network"))));
        read.report()
                .broken()
                .forEach((id, what) -> all.add(Finding.stop(
                        "network-kit-changed",
                        id + ": " + what + ".",
                        exordium.core.finding.Basis.computed("its signed list"))));
        return Finding.worstFirst(all);
    }

    private static NetworkPicture picture(Read read) {
        NetworkPlan.Server server = read.planned().plan().server();
        List<NetworkPicture.Row> rows = new ArrayList<>();
        for (NetworkJob.Row row : read.planned().rows()) {
            boolean starts = read.report().boards().stream()
                    .anyMatch(each -> each.board().equals(row.client().id()) && each.starts());
            rows.add(new NetworkPicture.Row(
                    row.client().id(),
                    row.client().address().orElse(""),
                    row.folder(),
                    starts ? Pennant.PROVEN : Pennant.FAILING,
                    row.alone(),
                    row.together()));
        }
        return new NetworkPicture(
                server.name(), server.address(), read.planned().space().roots().said() + " of roots", rows);
    }

    private static String sums(NetworkJob.Planned planned) {
        return String.format(
                java.util.Locale.ROOT,
                "All at once, the last is up after %.0f s (%.0f s request by request); started %.1f s apart, none waits for the server"
                        + " and the last is up after %.0f s. Full bars: alone; outlines: with all at once.",
                planned.lastTogether(),
                planned.simulated(),
                planned.apart(),
                planned.lastApart());
    }

    private void showSteps() {
        steps.getChildren().clear();
        Optional<NetworkTry.Seen> seen = shown.flatMap(read -> read.report().boards().stream()
                .filter(each -> each.board().equals(board.getValue()))
                .findFirst());
        if (seen.isEmpty()) {
            return;
        }
        for (BoardAsk.Step step : seen.get().asked().steps()) {
            Label words = Parts.label(step.text());
            words.setMinWidth(0);
            HBox line = Parts.row(
                    10, new PennantGlyph(step.good() ? Pennant.PROVEN : Pennant.FAILING), Parts.cell(words, 330));
            VBox said = new VBox(0);
            for (String each : step.log()) {
                Label told = Parts.paragraph(brief(each), "figure", "small", "soft");
                told.setMinWidth(0);
                said.getChildren().add(Parts.hint(told, each));
            }
            line.setAlignment(javafx.geometry.Pos.TOP_LEFT);
            HBox.setHgrow(said, Priority.ALWAYS);
            said.setMinWidth(0);
            line.getChildren().add(said);
            steps.getChildren().add(line);
        }
        String end = seen.get().asked().text()
                + (seen.get().agrees()
                        ? " The rehearsal says the same."
                        : " The rehearsal says otherwise: "
                                + seen.get().rehearsed().cause().shortText() + ".");
        steps.getChildren().add(Parts.paragraph(end, "strong"));
    }

    /** Without time and process, which stand in the whole line. */
    private static String brief(String line) {
        return line.replaceFirst("^[A-Z][a-z]{2} +\\d+ [0-9:]{8} ", "")
                .replaceFirst("^(dnsmasq-\\w+)\\[\\d+\\]: (\\d+ )?", "$1: ")
                .replaceFirst("^\\S+ \\S+ : epoch .* (mnt_Mnt :)", "$1");
    }

    private void readLog() {
        FileChooser chooser = new FileChooser();
        chooser.setTitle("A server's log");
        File chosen = chooser.showOpenDialog(getScene().getWindow());
        if (chosen != null) {
            readLog(chosen.toPath());
        }
    }

    /** How far each board came by a log, in the place of its requests. */
    void readLog(Path file) {
        house.reading().look(() -> new NetworkJob(house.workbench(), kit()).readLog(file), lines -> {
            steps.getChildren().clear();
            how.setText("by " + file.getFileName());
            for (NetworkJob.LogLine line : lines) {
                boolean up = line.line().reached() == BoardAsk.Reached.ROOT;
                steps.getChildren()
                        .add(Parts.row(
                                10,
                                new PennantGlyph(up ? Pennant.PROVEN : Pennant.FAILING),
                                Parts.cell(Parts.label(line.line().board(), "strong"), 150),
                                Parts.cell(Parts.label(line.line().mac(), "figure", "small"), 140),
                                Parts.paragraph(line.line().text())));
            }
        });
    }
}
