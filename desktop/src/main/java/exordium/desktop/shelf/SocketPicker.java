// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.board.StartSource;
import exordium.desktop.draw.bench.SocketGlyph;
import exordium.desktop.part.Parts;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The sockets a board has, ticked on their drawings: each press is one more of it, beyond the most there are none again. */
final class SocketPicker extends VBox {
    private static final int MANY = 4;
    private static final int COLUMNS = 4;
    private static final double WIDTH = 105;

    private final Map<Seen, Integer> ticked = new LinkedHashMap<>();

    /** What one sees of a socket. */
    private enum Seen {
        CARD("card slot", StartSource.CARD, "card", 1),
        USB_FAST("USB, blue", StartSource.USB, "usb@usb-5g", MANY),
        USB_SLOW("USB, black", StartSource.USB, "usb@usb-2", MANY),
        M2("M.2 or ribbon", StartSource.NVME, "nvme@pcie2-x1", 1),
        SOLDERED("soldered on", StartSource.EMMC, "emmc", 1),
        NETWORK("net, 1 Gbit", StartSource.NETWORK, "network@ethernet-1g", 1),
        SLOW_NETWORK("net, 100 Mbit", StartSource.NETWORK, "network@ethernet-100m", 1);

        private final String words;
        private final StartSource source;
        private final String port;
        private final int most;

        Seen(String words, StartSource source, String port, int most) {
            this.words = words;
            this.source = source;
            this.port = port;
            this.most = most;
        }
    }

    SocketPicker() {
        super(6);
        setId("family-sockets");
        HBox row = new HBox(6);
        for (Seen each : Seen.values()) {
            if (each.ordinal() % COLUMNS == 0) {
                row = new HBox(6);
                getChildren().add(row);
            }
            row.getChildren().add(socket(each));
        }
    }

    private Button socket(Seen seen) {
        Label count = Parts.label("none", "figure", "small");
        Button socket = new Button();
        socket.setPrefWidth(WIDTH);
        socket.setMinWidth(WIDTH);
        socket.getStyleClass().setAll("candidate", "low");
        socket.setId("socket-" + seen.name().toLowerCase(java.util.Locale.ROOT).replace('_', '-'));
        VBox content = new VBox(1, new SocketGlyph(seen.source, seen.words), Parts.label(seen.words, "small"), count);
        content.setAlignment(Pos.CENTER);
        socket.setGraphic(content);
        socket.setAccessibleText(seen.words + ": none");
        socket.setOnAction(event -> {
            int many = (ticked.getOrDefault(seen, 0) + 1) % (seen.most + 1);
            ticked.put(seen, many);
            String words = many == 0 ? "none" : seen.most == 1 ? "there" : many + " ×";
            count.setText(words);
            socket.setAccessibleText(seen.words + ": " + words);
            socket.getStyleClass().remove("here");
            if (many > 0) {
                socket.getStyleClass().add("here");
            }
        });
        return socket;
    }

    /** The ports, a word each, in the order they are usually tried; none where nothing was ticked. */
    List<String> ports() {
        List<String> ports = new ArrayList<>();
        for (Seen each : Seen.values()) {
            for (int i = 0; i < ticked.getOrDefault(each, 0); i++) {
                ports.add(each.port);
            }
        }
        return ports;
    }
}
