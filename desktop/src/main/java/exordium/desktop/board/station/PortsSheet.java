// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.station;

import exordium.core.access.BoardState;
import exordium.core.access.CarrierKind;
import exordium.core.board.BoardProfile;
import exordium.desktop.desk.House;
import exordium.desktop.part.FormSheet;
import exordium.desktop.part.WordCell;
import exordium.store.Media;
import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;

/** Which medium is in which port of a board, as its owner knows it; nothing is moved by saying so. */
public final class PortsSheet extends FormSheet {
    private final OpenedBoard board;
    private final Map<String, ComboBox<Optional<Media.Medium>>> ports = new LinkedHashMap<>();
    private final CheckBox silent = new CheckBox("its carrier for M.2 drives does not announce itself");

    /** Where media: those of the register that may be in it. */
    public PortsSheet(House house, OpenedBoard board, List<Media.Medium> media, Runnable close) {
        super(
                house,
                close,
                "What is in " + board.name(),
                "As you know it; a medium that is named here is taken out of wherever it was.");
        this.board = board;
        for (BoardProfile.Port port : board.at().profile().ports()) {
            if (port.source().holdsMedium()) {
                ports.put(port.id(), box(port, media));
            }
        }
        if (board.at().profile().ports().stream().anyMatch(port -> port.key().isPresent())) {
            silent.setId("ports-silent");
            silent.setSelected(board.at().board().silentCarrier());
            field("", silent);
            silent.setAccessibleText(silent.getText());
        }
        deedIs("Put it down");
    }

    private ComboBox<Optional<Media.Medium>> box(BoardProfile.Port port, List<Media.Medium> media) {
        ComboBox<Optional<Media.Medium>> box = new ComboBox<>();
        box.setId("port-" + port.id());
        WordCell.in(box, each -> each.map(Media.Medium::name).orElse("nothing"));
        box.getItems().add(Optional.empty());
        media.forEach(each -> box.getItems().add(Optional.of(each)));
        box.setValue(there(port.id()).flatMap(plug -> media.stream()
                .filter(each -> each.file().equals(plug.drive()))
                .findFirst()));
        field(port.title(), box);
        return box;
    }

    private Optional<BoardState.Plug> there(String port) {
        return board.at().board().attached().stream()
                .filter(plug -> plug.port().equals(port))
                .findFirst();
    }

    @Override
    public void carryOut() {
        house.reading().problemProperty().set("");
        Map<String, Optional<Media.Medium>> said = new LinkedHashMap<>();
        ports.forEach((port, box) -> said.put(port, box.getValue()));
        CarrierKind carrier = silent.isSelected() ? CarrierKind.SILENT : CarrierKind.ANNOUNCING;
        house.reading().read(() -> putDown(said, carrier), done -> {
            close.run();
            house.facts().refresh();
        });
    }

    /** Out first, so that one that moves from port to port is nowhere twice. */
    private boolean putDown(Map<String, Optional<Media.Medium>> said, CarrierKind carrier) throws IOException {
        boolean changed = false;
        for (Map.Entry<String, Optional<Media.Medium>> each : said.entrySet()) {
            Optional<BoardState.Plug> was = there(each.getKey());
            boolean out = was.isPresent()
                    && each.getValue()
                            .map(Media.Medium::file)
                            .filter(was.get().drive()::equals)
                            .isEmpty();
            if (out) {
                Optional<Media.Medium> medium = house.workbench().records().media().stream()
                        .filter(one -> one.file().equals(was.get().drive()))
                        .findFirst();
                if (medium.isPresent()) {
                    house.boardJobs().unplug(house.workbench().board(board.id()), medium.get());
                    changed = true;
                }
            }
        }
        for (Map.Entry<String, Optional<Media.Medium>> each : said.entrySet()) {
            Optional<BoardState.Plug> was = there(each.getKey());
            boolean in = each.getValue().isPresent()
                    && was.filter(plug ->
                                    plug.drive().equals(each.getValue().get().file()) && plug.carrier() == carrier)
                            .isEmpty();
            if (in) {
                house.boardJobs()
                        .plug(
                                house.workbench().board(board.id()),
                                each.getKey(),
                                each.getValue().get(),
                                carrier,
                                house.boardJobs()
                                        .enclosureFor(
                                                board.at()
                                                        .profile()
                                                        .port(each.getKey())
                                                        .orElseThrow(),
                                                house.workbench()
                                                        .kind(each.getValue()
                                                                .get()
                                                                .kind())));
                changed = true;
            }
        }
        return changed;
    }
}
