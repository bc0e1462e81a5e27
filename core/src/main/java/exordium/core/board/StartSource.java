// SPDX-License-Identifier: Apache-2.0
package exordium.core.board;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonValue;
import java.util.Arrays;
import java.util.Optional;

/** Where a board may look for something to start, and what it may do instead. */
public enum StartSource {
    CARD("card", "Card slot"),
    USB("usb", "USB drive"),
    USB_DEVICE("usb-device", "Drive on the device port"),
    NVME("nvme", "NVMe on PCIe"),
    EMMC("emmc", "On-board eMMC"),
    NETWORK("network", "Network"),
    NETWORK_INSTALL("network-install", "Install over the network"),
    SERIAL_RECOVERY("serial-recovery", "Recovery over USB serial"),
    STOP("stop", "Stop with a blink pattern"),
    RESTART("restart", "Start again from the first");

    private final String code;
    private final String title;

    StartSource(String code, String title) {
        this.code = code;
        this.title = title;
    }

    public static Optional<StartSource> find(String code) {
        return Arrays.stream(values())
                .filter(source -> source.code.equals(code))
                .findFirst();
    }

    @JsonCreator
    public static StartSource of(String code) {
        return find(code).orElseThrow(() -> new IllegalArgumentException("no such source: " + code));
    }

    @JsonValue
    public String code() {
        return code;
    }

    public String title() {
        return title;
    }

    /** Whether it is a place a medium can be, rather than something the firmware does. */
    public boolean holdsMedium() {
        return switch (this) {
            case CARD, USB, USB_DEVICE, NVME, EMMC -> true;
            default -> false;
        };
    }
}
