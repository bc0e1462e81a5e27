// SPDX-License-Identifier: Apache-2.0
package exordium.core.board;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonValue;
import java.util.Arrays;
import java.util.Optional;

/** Where a board may look for something to start, and what it may do instead. */
public enum StartSource {
    CARD("card", "Card slot", "card"),
    USB("usb", "USB drive", "USB"),
    USB_DEVICE("usb-device", "Drive on the device port", "device port"),
    NVME("nvme", "NVMe on PCIe", "NVMe"),
    EMMC("emmc", "On-board eMMC", "eMMC"),
    NETWORK("network", "Network", "network"),
    NETWORK_INSTALL("network-install", "Install over the network", "net install"),
    SERIAL_RECOVERY("serial-recovery", "Recovery over USB serial", "serial recovery"),
    STOP("stop", "Stop with a blink pattern", "stop"),
    RESTART("restart", "Start again from the first", "again");

    private final String code;
    private final String title;
    private final String word;

    StartSource(String code, String title, String word) {
        this.code = code;
        this.title = title;
        this.word = word;
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

    /** The short form for labels, two words at most. */
    public String word() {
        return word;
    }

    /** Whether it is a place a medium can be, rather than something the firmware does. */
    public boolean holdsMedium() {
        return switch (this) {
            case CARD, USB, USB_DEVICE, NVME, EMMC -> true;
            default -> false;
        };
    }
}
