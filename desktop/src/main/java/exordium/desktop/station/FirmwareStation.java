// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.station;

import exordium.core.finding.Finding;
import exordium.core.firmware.FirmwareRelease;
import exordium.core.firmware.FirmwareStatus;
import exordium.desktop.Parts;
import exordium.desktop.draw.ReleaseLine;
import exordium.desktop.model.BoardDetail;
import exordium.desktop.model.HouseModel;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ListCell;
import javafx.scene.layout.VBox;

/** Releases in time, what runs, what is staged, and staging one. */
final class FirmwareStation extends Station {
    private final ComboBox<FirmwareRelease> release = new ComboBox<>();
    private final Button stage;
    private ReleaseLine line;

    FirmwareStation(HouseModel house, BoardDetail board) {
        super(house, board);
        stage = Parts.button("", this::stage, "deed");
        stage.setId("stage-firmware");
        release.setId("release");
    }

    private static final class ReleaseCell extends ListCell<FirmwareRelease> {
        @Override
        protected void updateItem(FirmwareRelease item, boolean empty) {
            super.updateItem(item, empty);
            setText(
                    empty || item == null
                            ? null
                            : item.version() + ", " + item.channel().code());
        }
    }

    @Override
    Node surface() {
        FirmwareStatus status = board.facts().firmware();
        if (!board.at().profile().firmware().updatable()) {
            advise(status.findings());
            return Parts.column(
                    8,
                    Parts.heading("Firmware", ""),
                    Parts.paragraph(status.findings().get(0).text()),
                    BoardDeeds.row(house, board));
        }
        List<FirmwareRelease> releases =
                board.workbench().firmware().of(board.at().profile().id());
        line = new ReleaseLine(releases, status, board.workbench().today());
        release.setCellFactory(list -> new ReleaseCell());
        release.setButtonCell(new ReleaseCell());
        List<FirmwareRelease> newestFirst = new ArrayList<>(releases);
        java.util.Collections.reverse(newestFirst);
        release.getItems().setAll(newestFirst);
        release.valueProperty().addListener((property, before, now) -> show(now));
        VBox facts = new VBox(
                4,
                fact("Runs", status.running().toString()),
                fact("Staged", status.staged().map(Object::toString).orElse("nothing")),
                fact(
                        "Newest in " + status.channel().code(),
                        status.newest().map(each -> each.version().toString()).orElse("none known")));
        VBox surface = new VBox(
                12,
                Parts.heading("Firmware", "releases in time, a line a channel"),
                line,
                facts,
                Parts.row(10, Parts.label("Release", "soft"), release, stage),
                BoardDeeds.row(house, board));
        status.newest().or(() -> newestFirst.stream().findFirst()).ifPresent(release::setValue);
        return surface;
    }

    private static Node fact(String name, String value) {
        var label = Parts.label(name, "soft");
        label.setMinWidth(140);
        return Parts.row(8, label, Parts.label(value, "figure"));
    }

    private void show(FirmwareRelease chosen) {
        line.choose(chosen.version());
        List<Finding> findings = new ArrayList<>(board.facts().firmware().findings());
        List<Finding> plan = house.boardJobs().planFirmware(board.at(), chosen);
        plan.stream()
                .filter(each ->
                        findings.stream().noneMatch(known -> known.code().equals(each.code())))
                .forEach(findings::add);
        findings.add(Finding.note(
                "release-notes",
                chosen.version() + ": " + chosen.notes(),
                exordium.core.finding.Basis.computed("the release's notes")));
        stage.setText("Stage " + chosen.version() + " on " + board.name());
        boolean there = board.at()
                .board()
                .stagedFirmware()
                .filter(chosen.version()::equals)
                .isPresent();
        stage.setDisable(Finding.anyStops(plan) || there);
        advise(Finding.worstFirst(findings));
    }

    private void stage() {
        Optional.ofNullable(release.getValue())
                .ifPresent(chosen -> house.perform(() -> house.boardJobs().stageFirmware(board.at(), chosen)));
    }
}
