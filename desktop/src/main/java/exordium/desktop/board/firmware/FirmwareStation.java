// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firmware;

import exordium.core.access.Ability;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.firmware.Channel;
import exordium.core.firmware.FirmwareRelease;
import exordium.core.firmware.FirmwareStatus;
import exordium.desktop.board.station.RestartRow;
import exordium.desktop.board.station.Station;
import exordium.desktop.desk.House;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.draw.time.ReleaseLine;
import exordium.desktop.part.Parts;
import exordium.desktop.part.Views;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firmware.FirmwareFacts;
import exordium.jobs.firmware.FirmwareJob;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** Releases in time, what runs, what is staged, and staging one. */
public final class FirmwareStation extends Station<FirmwareModel> {
    private final VBox list = new VBox(4);
    private static final double ADVICE_WIDTH = 296;

    private final VBox view = new VBox(10);
    private boolean typing;
    private final Button stage;
    private List<FirmwareRelease> newestFirst = List.of();
    private Optional<FirmwareRelease> chosen = Optional.empty();
    private ReleaseLine line;

    public FirmwareStation(House house, FirmwareModel model) {
        super(house, model);
        stage = Parts.button("", this::stage, "deed");
        stage.setId("stage-firmware");
    }

    @Override
    protected Step step() {
        return Step.FIRMWARE;
    }

    @Override
    public Node surface() {
        FirmwareStatus status = board().facts().firmware();
        if (!board().at().profile().firmware().updatable()) {
            advise(status.findings());
            return Parts.column(
                    10,
                    Parts.heading("Firmware", "comes with the system"),
                    advicePane(),
                    Parts.spring(),
                    RestartRow.row(house, board()));
        }
        if (model.releases().isEmpty()) {
            advise(List.of());
            return Parts.column(
                    10,
                    Parts.heading("Firmware", ""),
                    Parts.paragraph(
                            "No releases are known for this family, so nothing can be said of newer ones. What it runs can be"
                                    + " told: start it with no medium in it, and read the date off its screen.",
                            "soft"),
                    Parts.paragraph(board().state()
                            .cell(exordium.core.finding.Step.FIRMWARE)
                            .reason()),
                    RestartRow.row(house, board()));
        }
        newestFirst = new ArrayList<>(model.releases());
        Collections.reverse(newestFirst);
        line = new ReleaseLine(model.releases(), status, house.workbench().today());
        chosen = status.newest().or(() -> newestFirst.stream().findFirst());
        List<String> views = new ArrayList<>(List.of("Releases"));
        if (board().at().profile().firmware().inChip()) {
            views.addAll(List.of("Settings in the chip", "Recovery card"));
        }
        if (board().at().profile().firmware().where().equals("card")) {
            views.add("Firmware card");
        }
        VBox surface = new VBox(
                10,
                Views.row("firmware-view-", views, 0, chosen -> choose(views.get(chosen))),
                Parts.grow(view),
                RestartRow.row(house, board()));
        VBox.setVgrow(view, Priority.ALWAYS);
        choose(views.get(0));
        return surface;
    }

    /** What is being typed into a view stays while nothing of the board itself changes. */
    @Override
    public boolean update(FirmwareModel fresh) {
        boolean same = fresh.board().at().board().equals(model.board().at().board());
        model = fresh;
        return same && typing;
    }

    /** What is said of the system comes when its images were looked into; the page does not wait for it. */
    private AdvicePane advicePane() {
        AdvicePane pane = new AdvicePane(model.advice(), this::goTo);
        FirmwareFacts facts = new FirmwareFacts(house.workbench(), house.benches());
        Workbench.BoardAtHand at = board().at();
        house.reading().read(() -> facts.system(at), pane::system);
        return pane;
    }

    private void choose(String chosen) {
        typing = !chosen.equals("Releases");
        switch (chosen) {
            case "Settings in the chip" -> {
                ChipSettingsView settings = new ChipSettingsView(house, board(), this::advise);
                VBox.setVgrow(settings, Priority.ALWAYS);
                view.getChildren().setAll(settings);
                settings.show();
            }
            case "Firmware card" -> {
                advise(List.of());
                view.getChildren().setAll(new FirmwareCardView(house, board(), model.targets(), this::advise));
            }
            case "Recovery card" -> {
                RecoveryView recovery = new RecoveryView(house, board(), newestFirst, model.targets());
                board().facts().firmware().newest().ifPresent(recovery::choose);
                view.getChildren().setAll(recovery);
                recovery.show();
            }
            default -> {
                ScrollPane releases = new ScrollPane(list);
                releases.setFitToWidth(true);
                releases.setFocusTraversable(false);
                VBox.setVgrow(releases, Priority.ALWAYS);
                VBox left = new VBox(
                        8,
                        Parts.heading(
                                "Releases",
                                "newest first; this board follows "
                                        + board().facts().firmware().channel().code()),
                        releases,
                        Parts.row(10, stage, copyFirst("firmware")));
                left.setPrefHeight(0);
                ScrollPane advice = new ScrollPane(advicePane());
                advice.setFitToWidth(true);
                advice.setFocusTraversable(false);
                advice.setPrefWidth(ADVICE_WIDTH);
                advice.setMinWidth(ADVICE_WIDTH);
                HBox both = new HBox(20, Parts.grow(left), advice);
                VBox.setVgrow(both, Priority.ALWAYS);
                view.getChildren().setAll(Parts.heading("Firmware", "releases in time, a line a channel"), line, both);
                show();
            }
        }
    }

    private void show() {
        list.getChildren().clear();
        newestFirst.forEach(release -> list.getChildren().add(row(release)));
        chosen.ifPresent(this::judge);
    }

    private Button row(FirmwareRelease release) {
        FirmwareStatus status = board().facts().firmware();
        boolean runs = release.version().equals(status.running());
        boolean staged = status.staged().filter(release.version()::equals).isPresent();
        boolean newest = status.newest().filter(release::equals).isPresent();
        String state = runs ? "runs" : staged ? "staged" : newest ? "newest for it" : "";
        HBox words = Parts.row(
                8,
                runs ? running() : new PennantGlyph(staged ? Pennant.SET : newest ? Pennant.DUE : Pennant.UNKNOWN),
                Parts.cell(Parts.label(release.version().toString(), "figure"), 84),
                Parts.cell(channel(release.channel(), state), 72),
                Parts.hint(Parts.label(release.notes(), "small"), release.notes()));
        Button row = new Button();
        row.setGraphic(words);
        row.getStyleClass().setAll("candidate", "low");
        if (chosen.filter(release::equals).isPresent()) {
            row.getStyleClass().add("here");
        }
        row.setId("release-" + release.version());
        row.setAccessibleText(
                release.version() + ", " + release.channel().code() + " " + state + ": " + release.notes());
        row.setOnAction(event -> {
            chosen = Optional.of(release);
            show();
            list.lookup("#release-" + release.version()).requestFocus();
        });
        return row;
    }

    private static VBox channel(Channel channel, String state) {
        VBox words = new VBox(Parts.label(channel.code(), "soft", "small"));
        words.setAlignment(Pos.CENTER_LEFT);
        if (!state.isEmpty()) {
            words.getChildren().add(Parts.label(state, "strong", "small"));
        }
        return words;
    }

    /** The release it runs: read, told, or taken because nobody told. */
    private PennantGlyph running() {
        return board().facts()
                .reached()
                .firmware()
                .map(how -> switch (how.by()) {
                    case READ -> new PennantGlyph(Pennant.PROVEN);
                    case TOLD, REPORTED -> PennantGlyph.told();
                    case DEFAULT -> new PennantGlyph(Pennant.UNKNOWN);
                })
                .orElseGet(() -> new PennantGlyph(Pennant.PROVEN));
    }

    private void judge(FirmwareRelease release) {
        line.choose(release.version());
        List<Finding> plan = model.plans().getOrDefault(release.version(), List.of());
        List<Finding> findings = new ArrayList<>(plan);
        findings.addAll(board().facts().firmware().findings());
        boolean there = board().at()
                .board()
                .chip()
                .staged()
                .filter(release.version()::equals)
                .isPresent();
        boolean runs = release.version().equals(board().facts().firmware().running());
        stage.setText(
                there
                        ? release.version() + " is staged"
                        : runs
                                ? release.version() + " runs already"
                                : (board().at().register().can(Ability.STAGE)
                                                ? "Stage " + release.version() + " on "
                                                : "Set down " + release.version() + " for ")
                                        + board().name());
        stage.setDisable(Finding.anyStops(plan) || there || runs);
        advise(Finding.worstFirst(Finding.onePerCode(findings)));
    }

    private void stage() {
        chosen.ifPresent(release ->
                house.facts().perform(() -> new FirmwareJob(house.workbench()).stage(board().at(), release)));
    }
}
