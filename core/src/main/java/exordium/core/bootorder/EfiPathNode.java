// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.UUID;

/**
 * One node of a device path (UEFI specification 2.10, chapter 10): the way to a device, bus by bus, then partition and file.
 *
 * @param body what stands behind the four bytes of type, subtype and length
 */
public record EfiPathNode(int type, int subType, byte[] body) {
    static final int HEADER = 4;
    static final int END = 0x7f;
    static final int END_ENTIRE = 0xff;
    /** PNP0A03, packed (UEFI specification 2.10, 10.3.3). */
    private static final int PCI_ROOT = 0x0a0341d0;

    private static final int HARDWARE = 1;
    private static final int ACPI = 2;
    private static final int MESSAGING = 3;
    private static final int MEDIA = 4;

    /** The kinds that tell what an entry starts from. */
    public enum NodeKind {
        PCI(HARDWARE, 1),
        ACPI_DEVICE(ACPI, 1),
        USB(MESSAGING, 5),
        MAC(MESSAGING, 11),
        IPV4(MESSAGING, 12),
        IPV6(MESSAGING, 13),
        USB_WWID(MESSAGING, 16),
        SATA(MESSAGING, 18),
        NVME(MESSAGING, 23),
        URI(MESSAGING, 24),
        SD(MESSAGING, 26),
        EMMC(MESSAGING, 29),
        PARTITION(MEDIA, 1),
        FILE(MEDIA, 4);

        private final int type;
        private final int subType;

        NodeKind(int type, int subType) {
            this.type = type;
            this.subType = subType;
        }
    }

    public boolean is(NodeKind kind) {
        return type == kind.type && subType == kind.subType;
    }

    private static EfiPathNode of(NodeKind kind, byte[] body) {
        return new EfiPathNode(kind.type, kind.subType, body);
    }

    /** A file below what the path leads to, its parts divided by backslashes. */
    public static EfiPathNode file(String path) {
        return of(NodeKind.FILE, (path + "\0").getBytes(StandardCharsets.UTF_16LE));
    }

    /**
     * A partition, by its place and what identifies it: of a GPT its own identifier, of an MBR that of the disk.
     *
     * @param firstBlock in blocks of 512 bytes, as the next one
     */
    public static EfiPathNode partition(int number, long firstBlock, long blocks, UUID identifier) {
        ByteBuffer body = ByteBuffer.allocate(38).order(ByteOrder.LITTLE_ENDIAN);
        body.putInt(number).putLong(firstBlock).putLong(blocks);
        body.put(mixed(identifier));
        body.put((byte) 2).put((byte) 2);
        return of(NodeKind.PARTITION, body.array());
    }

    /** The same for a partition of an MBR. */
    public static EfiPathNode partition(int number, long firstBlock, long blocks, int diskId) {
        ByteBuffer body = ByteBuffer.allocate(38).order(ByteOrder.LITTLE_ENDIAN);
        body.putInt(number).putLong(firstBlock).putLong(blocks).putInt(diskId);
        body.position(36);
        body.put((byte) 1).put((byte) 1);
        return of(NodeKind.PARTITION, body.array());
    }

    /** A function of a device on PCI. */
    public static EfiPathNode pci(int device, int function) {
        return of(NodeKind.PCI, new byte[] {(byte) function, (byte) device});
    }

    /** Where PCI begins: the first root bridge. */
    public static EfiPathNode pciRoot() {
        ByteBuffer body = ByteBuffer.allocate(8).order(ByteOrder.LITTLE_ENDIAN);
        return of(NodeKind.ACPI_DEVICE, body.putInt(PCI_ROOT).array());
    }

    public static EfiPathNode nvme(int namespace) {
        ByteBuffer body = ByteBuffer.allocate(12).order(ByteOrder.LITTLE_ENDIAN);
        return of(NodeKind.NVME, body.putInt(namespace).array());
    }

    public static EfiPathNode usb(int port, int function) {
        return of(NodeKind.USB, new byte[] {(byte) port, (byte) function});
    }

    /** A network card by its hardware address, as on Ethernet. */
    public static EfiPathNode mac(byte[] address) {
        byte[] body = Arrays.copyOf(address, 33);
        body[32] = 1;
        return of(NodeKind.MAC, body);
    }

    /** The first three fields of an identifier are little-endian (UEFI specification 2.10, appendix A). */
    private static byte[] mixed(UUID id) {
        ByteBuffer bytes = ByteBuffer.allocate(16).order(ByteOrder.LITTLE_ENDIAN);
        bytes.putInt((int) (id.getMostSignificantBits() >>> 32));
        bytes.putShort((short) (id.getMostSignificantBits() >>> 16));
        bytes.putShort((short) id.getMostSignificantBits());
        bytes.order(ByteOrder.BIG_ENDIAN).putLong(id.getLeastSignificantBits());
        return bytes.array();
    }

    /** A few words for a list. */
    public String said() {
        ByteBuffer in = ByteBuffer.wrap(body).order(ByteOrder.LITTLE_ENDIAN);
        if (is(NodeKind.FILE)) {
            return printable(new String(body, StandardCharsets.UTF_16LE));
        }
        if (is(NodeKind.PARTITION) && body.length >= 4) {
            return "partition " + Integer.toUnsignedString(in.getInt(0));
        }
        if (is(NodeKind.URI)) {
            return printable(new String(body, StandardCharsets.US_ASCII));
        }
        for (NodeKind kind : NodeKind.values()) {
            if (is(kind)) {
                return kind.name().toLowerCase(java.util.Locale.ROOT).replace('_', ' ');
            }
        }
        return "type " + type + "." + subType;
    }

    static String printable(String text) {
        return text.replaceAll("\0+$", "").replaceAll("\\p{Cntrl}", "?");
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof EfiPathNode node
                && node.type == type
                && node.subType == subType
                && Arrays.equals(node.body, body);
    }

    @Override
    public int hashCode() {
        return 31 * (31 * type + subType) + Arrays.hashCode(body);
    }

    @Override
    public String toString() {
        return said();
    }
}
