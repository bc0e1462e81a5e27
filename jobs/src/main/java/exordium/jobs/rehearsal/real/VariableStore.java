// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import exordium.core.bootorder.EfiLoadOption;
import exordium.core.bootorder.EfiVariables;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.Map;

/**
 * The flash in which EDK2 keeps its variables: a firmware volume (UEFI Platform Initialization specification 1.7, volume 3, 3.2.1) with
 * variables in EDK2's own layout (from memory; EDK2 itself reads it in the test).
 */
final class VariableStore {
    private static final int SIZE = 64 << 20;
    private static final int AREA = 0xc0000;
    /** The head of the volume and of its store, for this size; 0xff is empty flash. */
    private static final String HEADS =
            "000000000000000000000000000000008d2bf1ff96768b4ca9852747075b4f5000000c00000000005f465648360e0000"
                    + "4800f8f80000000200010000000004000000000000000000782cf3aa7b949a43a1802e144ec37792b8ff03005afe0000"
                    + "00000000";

    private static final byte[] OWNER = HexFormat.of().parseHex("61dfe48bca93d211aa0d00e098032b8c");
    private static final int FOUND = 0x55aa;
    private static final int WHOLE = 0x3f;
    /** Kept, seen before and after the system starts (UEFI specification 2.10, 8.2). */
    private static final int KEPT = 7;

    private VariableStore() {}

    static byte[] of(EfiVariables variables) {
        ByteBuffer flash = ByteBuffer.allocate(SIZE).order(ByteOrder.LITTLE_ENDIAN);
        Arrays.fill(flash.array(), 0, AREA, (byte) 0xff);
        flash.put(HexFormat.of().parseHex(HEADS));
        for (Map.Entry<Integer, EfiLoadOption> entry : variables.entries().entrySet()) {
            put(flash, EfiLoadOption.variable(entry.getKey()), entry.getValue().bytes());
        }
        put(flash, "BootOrder", EfiVariables.bytes(variables.order()));
        put(flash, "Timeout", new byte[2]);
        return flash.array();
    }

    private static void put(ByteBuffer flash, String name, byte[] content) {
        byte[] named = (name + "\0").getBytes(StandardCharsets.UTF_16LE);
        flash.putShort((short) FOUND).put((byte) WHOLE).put((byte) 0).putInt(KEPT);
        flash.put(new byte[8 + 16 + 4]);
        flash.putInt(named.length).putInt(content.length).put(OWNER);
        flash.put(named).put(content);
        flash.position((flash.position() + 3) & ~3);
    }
}
