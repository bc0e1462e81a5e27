// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.media;

import com.fasterxml.jackson.annotation.JsonCreator;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.Coded;

/** One link between a medium and the processor, with the most it can carry and where that number is published. */
public enum Link implements Coded {
    SD_DEFAULT("SD default speed", 12.5, "SD Association, bus speed modes"),
    SD_HIGH_SPEED("SD high speed", 25, "SD Association, bus speed modes"),
    SD_SDR50("SD SDR50", 50, "SD Association, bus speed modes"),
    SD_SDR104("SD SDR104", 104, "SD Association, bus speed modes"),
    USB_2("USB 2", 53.248, "USB 2.0 specification, 5.8.4: 13 bulk transactions of 512 B a microframe"),
    USB_5G("USB 5 Gbit/s", 500, "USB 3.2 specification: 5 GT/s, 8b/10b"),
    SATA_6G("SATA 6 Gbit/s", 600, "Serial ATA specification: 6 Gbit/s, 8b/10b"),
    PCIE2_X1("PCIe 2.0 x1", 500, "PCI Express base specification: 5 GT/s, 8b/10b"),
    PCIE3_X1("PCIe 3.0 x1", 984.6, "PCI Express base specification: 8 GT/s, 128b/130b"),
    EMMC_HS("eMMC high speed", 52, "JEDEC JESD84, from memory: 52 MHz, 8 bit"),
    ETHERNET_100M("100 Mbit Ethernet", 11.87, "IEEE 802.3: TCP payload 1460 of 1538 B a frame"),
    ETHERNET_1G("1 Gbit Ethernet", 118.7, "IEEE 802.3: TCP payload 1460 of 1538 B a frame");

    private final String title;
    private final ByteRate ceiling;
    private final String source;

    Link(String title, double megabytes, String source) {
        this.title = title;
        this.ceiling = ByteRate.ofMegabytes(megabytes);
        this.source = source;
    }

    /** Reads the form profiles use, such as {@code pcie2-x1}. */
    @JsonCreator
    public static Link of(String code) {
        return Coded.of(Link.class, code);
    }

    public String title() {
        return title;
    }

    public ByteRate ceiling() {
        return ceiling;
    }

    public String source() {
        return source;
    }
}
