// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.bench;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import java.util.List;

/** A family by its sockets, as one sees them along the edge of the board; what tells one from another at a glance. */
public final class FamilyPicture extends Sockets {
    private static final double TALL = 78;

    private final List<BoardProfile.Port> ports;

    public FamilyPicture(BoardProfile profile) {
        super(profile.tell(), TALL);
        this.ports = profile.ports().stream()
                .filter(port -> port.source() != StartSource.NETWORK_INSTALL)
                .toList();
        standsAlone();
    }

    @Override
    protected void draw(double width, double height) {
        box(6, 4, width - 12, BOARD, "fill-shallow", "line-ink").setStrokeWidth(1.5);
        double step = (width - 24) / Math.max(1, ports.size());
        for (int i = 0; i < ports.size(); i++) {
            double middle = 12 + (i + 0.5) * step;
            socket(ports.get(i).source(), middle, 4 + BOARD);
            textCentred(middle, height - 8, word(ports.get(i)), "small", "soft");
        }
    }

    private static String word(BoardProfile.Port port) {
        return switch (port.source()) {
            case CARD -> "card";
            case USB, USB_DEVICE -> port.link().title().replace(" Gbit/s", "G");
            case NVME -> "M.2 on PCIe";
            case EMMC -> "soldered on";
            default -> port.link().title().replace(" Ethernet", "");
        };
    }
}
