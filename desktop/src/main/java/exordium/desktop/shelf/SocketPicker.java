// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.board.Socket;
import exordium.desktop.draw.bench.SocketGlyph;
import exordium.desktop.part.Parts;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The sockets a board has, ticked on their drawings: each press is one more of it, beyond the most there are none again. */
final class SocketPicker extends VBox {
    private static final int COLUMNS = 4;
    private static final double WIDTH = 105;

    private final Map<Socket, Integer> ticked = new EnumMap<>(Socket.class);

    SocketPicker() {
        super(6);
        setId("family-sockets");
        HBox row = new HBox(6);
        for (Socket each : Socket.values()) {
            if (each.ordinal() % COLUMNS == 0) {
                row = new HBox(6);
                getChildren().add(row);
            }
            row.getChildren().add(socket(each));
        }
    }

    private Button socket(Socket seen) {
        Label count = Parts.label("none", "figure", "small");
        Button socket = new Button();
        socket.setPrefWidth(WIDTH);
        socket.setMinWidth(WIDTH);
        socket.getStyleClass().setAll("candidate", "low");
        socket.setId("socket-" + seen.code());
        VBox content =
                new VBox(1, new SocketGlyph(seen.source(), seen.seen()), Parts.label(seen.seen(), "small"), count);
        content.setAlignment(Pos.CENTER);
        socket.setGraphic(content);
        socket.setAccessibleText(seen.seen() + ": none");
        socket.setOnAction(event -> {
            int many = (ticked.getOrDefault(seen, 0) + 1) % (seen.most() + 1);
            ticked.put(seen, many);
            String words = many == 0 ? "none" : seen.most() == 1 ? "there" : many + " ×";
            count.setText(words);
            socket.setAccessibleText(seen.seen() + ": " + words);
            socket.getStyleClass().remove("here");
            if (many > 0) {
                socket.getStyleClass().add("here");
            }
        });
        return socket;
    }

    /** The ports, a word each; none where nothing was ticked. */
    List<String> ports() {
        return Socket.ports(ticked);
    }
}
