// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.image;

import exordium.core.access.CarrierKind;
import exordium.core.board.BoardProfile;
import exordium.core.finding.Step;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.part.Parts;
import exordium.store.Media;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.layout.FlowPane;

/** What comes after a write that was proven: the port it goes into, at one press; there its first start is set up while it is still here. */
final class NextStep extends FlowPane {
    private final House house;
    private final OpenedBoard board;

    private NextStep(House house, OpenedBoard board) {
        super(10, 6);
        this.house = house;
        this.board = board;
        setId("next-step");
    }

    /** A medium that was written, and the ports of the board that take it. */
    record Where(Media.Medium medium, List<BoardProfile.Port> ports) {
        /** Where target: by what it is called here; not to be called on the interface thread. */
        static Optional<Where> of(House house, OpenedBoard board, String target) throws IOException {
            Optional<Media.Medium> written = house
                    .targets()
                    .all(house.workbench().drives())
                    .stream()
                    .filter(each -> each.description().id().equals(target))
                    .findFirst()
                    .flatMap(house.workbench()::registered);
            return written.isEmpty()
                    ? Optional.empty()
                    : Optional.of(new Where(
                            written.get(),
                            house.boardJobs()
                                    .portsFor(
                                            board.at(),
                                            house.workbench().kind(written.get().kind()))));
        }
    }

    /** Where it is in the board already, only its first start is offered. */
    static NextStep of(House house, OpenedBoard board, Where where) {
        Media.Medium medium = where.medium();
        List<BoardProfile.Port> ports = where.ports();
        NextStep next = new NextStep(house, board);
        boolean inside = board.at().board().attached().stream()
                .anyMatch(plug -> plug.drive().equals(medium.file()));
        if (inside) {
            Button setUp = Parts.button("Set up its first start", next::setUp, "deed");
            setUp.setId("next-first-start");
            next.getChildren().add(setUp);
            return next;
        }
        next.getChildren().add(Parts.label(medium.name() + " goes into", "soft"));
        for (BoardProfile.Port port : ports) {
            boolean first = next.getChildren().size() == 1;
            Button into = Parts.button(port.title(), () -> next.plug(port, medium), first ? "deed" : "task");
            into.setId("next-port-" + port.id());
            into.setAccessibleText(medium.name() + " goes into " + port.title() + " of " + board.name());
            next.getChildren().add(into);
        }
        next.getChildren()
                .add(Parts.label(
                        ports.isEmpty()
                                ? "no port of this board: it takes no such drive"
                                : "of " + board.name() + "; its first start is set up next, while it is here",
                        "aside",
                        "small"));
        return next;
    }

    private void plug(BoardProfile.Port port, Media.Medium medium) {
        house.reading()
                .read(
                        () -> house.boardJobs()
                                .plug(house.workbench().board(board.id()), port.id(), medium, CarrierKind.ANNOUNCING),
                        done -> {
                            house.facts().refresh();
                            setUp();
                        });
    }

    private void setUp() {
        house.navigation().go(new Place.Station(board.id(), Step.FIRST_START));
    }
}
