// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import exordium.core.block.LittleEndian;
import exordium.core.finding.UnreadableInput;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * The flash in which EDK2 keeps its variables: a firmware volume (UEFI Platform Initialization specification 1.7, volume 3, 3.2.1) with
 * variables in EDK2's own layout (from memory; EDK2 itself reads it in the test).
 */
public final class EfiStore {
    private static final int SIZE = 64 << 20;
    private static final int AREA = 0xc0000;
    /** The head of the volume and of its store, for this size; 0xff is empty flash. */
    private static final String HEADS =
            "000000000000000000000000000000008d2bf1ff96768b4ca9852747075b4f5000000c00000000005f465648360e0000"
                    + "4800f8f80000000200010000000004000000000000000000782cf3aa7b949a43a1802e144ec37792b8ff03005afe0000"
                    + "00000000";

    private static final byte[] OWNER = HexFormat.of().parseHex("61dfe48bca93d211aa0d00e098032b8c");
    private static final String ORDER = "BootOrder";
    private static final int SIGNATURE = 40;
    private static final int HEAD_LENGTH = 48;
    private static final int STORE_HEAD = 28;
    private static final int RECORD = 60;
    /** Of the store itself: behind it the volume keeps what is being written. */
    private static final int USABLE = 0x40000;

    private static final int DELETED = 0xfd;
    private static final int FOUND = 0x55aa;
    private static final int WHOLE = 0x3f;
    /** Kept, seen before and after the system starts (UEFI specification 2.10, 8.2). */
    private static final int KEPT = 7;

    private EfiStore() {}

    /** A store with these variables alone. */
    public static byte[] of(EfiVariables variables) {
        ByteBuffer flash = ByteBuffer.allocate(SIZE).order(ByteOrder.LITTLE_ENDIAN);
        Arrays.fill(flash.array(), 0, AREA, (byte) 0xff);
        flash.put(HexFormat.of().parseHex(HEADS));
        for (Map.Entry<Integer, EfiLoadOption> entry : variables.entries().entrySet()) {
            put(flash, EfiLoadOption.variable(entry.getKey()), entry.getValue().bytes());
        }
        put(flash, ORDER, EfiVariables.bytes(variables.order()));
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

    /** One variable of a store. */
    private record Variable(int at, boolean kept, String name, boolean ours, int data, int length, int next) {}

    private static List<Variable> records(byte[] store) throws UnreadableInput {
        boolean volume = store.length >= AREA && LittleEndian.matches(store, SIGNATURE, "_FVH");
        if (!volume) {
            throw new UnreadableInput("This is no store of UEFI variables: there is no firmware volume in it.");
        }
        int at = LittleEndian.u16(store, HEAD_LENGTH) + STORE_HEAD;
        List<Variable> all = new ArrayList<>();
        while (at + RECORD <= store.length && LittleEndian.u16(store, at) == FOUND) {
            long name = LittleEndian.u32(store, at + 36);
            long length = LittleEndian.u32(store, at + 40);
            long end = at + RECORD + name + length;
            if (name < 2 || name % 2 != 0 || end > store.length) {
                throw new UnreadableInput("A variable of the store is broken, at byte " + at + ".");
            }
            String called = new String(store, at + RECORD, (int) name - 2, StandardCharsets.UTF_16LE);
            all.add(new Variable(
                    at,
                    LittleEndian.u8(store, at + 2) == WHOLE,
                    called,
                    Arrays.equals(store, at + 44, at + 60, OWNER, 0, OWNER.length),
                    at + RECORD + (int) name,
                    (int) length,
                    (int) (end + 3) & ~3));
            at = all.get(all.size() - 1).next();
        }
        return all;
    }

    private static byte[] data(byte[] store, Variable each) {
        return Arrays.copyOfRange(store, each.data(), each.data() + each.length());
    }

    /** What a store says of starts. @throws UnreadableInput when it is none, or broken */
    public static EfiVariables parse(byte[] store) throws UnreadableInput {
        List<Integer> order = List.of();
        Map<Integer, EfiLoadOption> entries = new TreeMap<>();
        for (Variable each : records(store)) {
            if (each.kept() && each.ours() && each.name().equals(ORDER)) {
                order = EfiVariables.order(data(store, each));
            } else if (each.kept() && each.ours() && each.name().matches("Boot[0-9A-F]{4}")) {
                entries.put(Integer.parseInt(each.name().substring(4), 16), EfiLoadOption.parse(data(store, each)));
            }
        }
        return new EfiVariables(order, entries);
    }

    /**
     * The same store with another order; every other variable stays where it is.
     *
     * @throws UnreadableInput when an entry of it is not there, or there is no room
     */
    public static byte[] withOrder(byte[] store, List<Integer> order) throws UnreadableInput {
        EfiVariables now = parse(store);
        for (int each : order) {
            if (!now.entries().containsKey(each)) {
                throw new UnreadableInput("There is no entry " + EfiLoadOption.variable(each) + " in the store.");
            }
        }
        byte[] changed = store.clone();
        byte[] content = EfiVariables.bytes(order);
        int end = LittleEndian.u16(store, HEAD_LENGTH) + STORE_HEAD;
        for (Variable each : records(store)) {
            end = each.next();
            if (each.kept() && each.ours() && each.name().equals(ORDER)) {
                // Taken back as firmware takes one back: a bit of its state is cleared.
                changed[each.at() + 2] = (byte) (WHOLE & DELETED);
            }
        }
        int needs = RECORD + 2 * (ORDER.length() + 1) + content.length;
        if (end + needs > USABLE) {
            throw new UnreadableInput(
                    "The store has no room for another order; have the firmware tidy it up at a start first.");
        }
        ByteBuffer flash = ByteBuffer.wrap(changed).order(ByteOrder.LITTLE_ENDIAN);
        flash.position(end);
        put(flash, ORDER, content);
        return changed;
    }
}
