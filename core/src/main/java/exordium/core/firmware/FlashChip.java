// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import exordium.core.finding.OverBound;
import exordium.core.finding.UnreadableInput;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import java.util.zip.CRC32;

/**
 * The bytes of a virtual board's firmware chip (docs/formats/firmware.md): two settings blocks, written in turn, then one slot or two, each
 * with a head and a payload. Flash is erased and written in blocks of 4 KiB. A slot's head is erased before anything of it is written and
 * written after everything else, so that what was cut is never taken for whole.
 */
public final class FlashChip {
    public static final int BLOCK = 4096;
    public static final int ROOM = 512 << 10;
    /** Text of the settings, in UTF-8. */
    public static final int MOST_SETTINGS = BLOCK - 16;

    private static final int SETTINGS_BLOCKS = 2;
    private static final int SLOT = BLOCK + ROOM;
    private static final int HEAD_MAGIC = 0x57465845;
    private static final int SETTINGS_MAGIC = 0x42535845;
    private static final int DATE = 10;
    private static final int DIGEST = 32;
    private static final int HEAD = 12 + DATE + DIGEST;

    private final byte[] bytes;

    private FlashChip(byte[] bytes) {
        this.bytes = bytes;
    }

    /** One step of writing: a block that is erased, then filled with these bytes from its start. */
    public record Step(int block, byte[] content) {
        @Override
        public boolean equals(Object other) {
            return other instanceof Step step && step.block == block && Arrays.equals(step.content, content);
        }

        @Override
        public int hashCode() {
            return block;
        }
    }

    /** What runs: the release, and the slot it is in. */
    public record Running(LocalDate release, int slot) {}

    /** A new one, erased. */
    public static FlashChip blank(int slots) {
        byte[] bytes = new byte[SETTINGS_BLOCKS * BLOCK + slots * SLOT];
        Arrays.fill(bytes, (byte) 0xff);
        return new FlashChip(bytes);
    }

    /** @throws UnreadableInput when these are not the bytes of such a chip, whatever is on it */
    public static FlashChip of(byte[] bytes) throws UnreadableInput {
        int rest = bytes.length - SETTINGS_BLOCKS * BLOCK;
        if (rest != SLOT && rest != 2 * SLOT) {
            throw new UnreadableInput("A firmware chip has " + (SETTINGS_BLOCKS * BLOCK + SLOT) + " or "
                    + (SETTINGS_BLOCKS * BLOCK + 2 * SLOT) + " bytes; these are " + bytes.length + ".");
        }
        return new FlashChip(bytes.clone());
    }

    public byte[] bytes() {
        return bytes.clone();
    }

    public int slots() {
        return (bytes.length - SETTINGS_BLOCKS * BLOCK) / SLOT;
    }

    private static int slotAt(int slot) {
        return SETTINGS_BLOCKS * BLOCK + slot * SLOT;
    }

    /** What would run: the whole slot that was written last; empty where none is whole. */
    public Optional<Running> running() {
        Optional<Running> best = Optional.empty();
        int newest = 0;
        for (int slot = 0; slot < slots(); slot++) {
            Optional<LocalDate> release = whole(slot);
            int turn = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN).getInt(slotAt(slot) + 8);
            if (release.isPresent() && (best.isEmpty() || turn - newest > 0)) {
                best = Optional.of(new Running(release.get(), slot));
                newest = turn;
            }
        }
        return best;
    }

    private Optional<LocalDate> whole(int slot) {
        ByteBuffer head = ByteBuffer.wrap(bytes, slotAt(slot), BLOCK).slice().order(ByteOrder.LITTLE_ENDIAN);
        int length = head.getInt(4);
        if (head.getInt(0) != HEAD_MAGIC || length < 0 || length > ROOM) {
            return Optional.empty();
        }
        byte[] covered = new byte[HEAD];
        head.get(0, covered);
        if (head.getInt(HEAD) != crc(covered)) {
            return Optional.empty();
        }
        int at = slotAt(slot) + BLOCK;
        byte[] payload = Arrays.copyOfRange(bytes, at, at + length);
        String digest = HexFormat.of().formatHex(covered, 12 + DATE, HEAD);
        try {
            return FirmwareBundle.sha256(payload).equals(digest)
                    ? Optional.of(LocalDate.parse(new String(covered, 12, DATE, StandardCharsets.US_ASCII)))
                    : Optional.empty();
        } catch (DateTimeException e) {
            return Optional.empty();
        }
    }

    /** The payload that would run. */
    public Optional<byte[]> payload() {
        return running().map(running -> {
            int at = slotAt(running.slot());
            int length = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN).getInt(at + 4);
            return Arrays.copyOfRange(bytes, at + BLOCK, at + BLOCK + length);
        });
    }

    /**
     * How a release is written: with two slots into the one that does not run.
     *
     * @throws OverBound when it does not fit
     */
    public List<Step> update(LocalDate release, byte[] payload) throws OverBound {
        if (payload.length > ROOM) {
            throw new OverBound(
                    "Release " + release + " has " + payload.length + " bytes; the chip's slot has room for " + ROOM
                            + ".",
                    ROOM);
        }
        Optional<Running> now = running();
        int slot = slots() == 1 ? 0 : now.map(each -> 1 - each.slot()).orElse(0);
        int turn = 1;
        if (now.isPresent()) {
            turn += ByteBuffer.wrap(bytes)
                    .order(ByteOrder.LITTLE_ENDIAN)
                    .getInt(slotAt(now.get().slot()) + 8);
        }
        int first = slotAt(slot) / BLOCK;
        List<Step> steps = new ArrayList<>();
        steps.add(new Step(first, new byte[0]));
        for (int at = 0; at < payload.length; at += BLOCK) {
            steps.add(new Step(
                    first + 1 + at / BLOCK, Arrays.copyOfRange(payload, at, Math.min(payload.length, at + BLOCK))));
        }
        steps.add(new Step(first, head(release, payload, turn)));
        return steps;
    }

    private static byte[] head(LocalDate release, byte[] payload, int turn) {
        ByteBuffer head = ByteBuffer.allocate(HEAD + 4).order(ByteOrder.LITTLE_ENDIAN);
        head.putInt(HEAD_MAGIC).putInt(payload.length).putInt(turn);
        head.put(release.toString().getBytes(StandardCharsets.US_ASCII), 0, DATE);
        head.put(HexFormat.of().parseHex(FirmwareBundle.sha256(payload)));
        head.putInt(crc(Arrays.copyOf(head.array(), HEAD)));
        return head.array();
    }

    /** The settings it keeps; empty where neither block is whole, which leaves a board with its usual ones. */
    public Optional<FirmwareConfig> settings() {
        return newestSettings().map(block -> {
            ByteBuffer in = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
            int length = in.getInt(block * BLOCK + 4);
            return new FirmwareConfig(new String(bytes, block * BLOCK + 12, length, StandardCharsets.UTF_8));
        });
    }

    private Optional<Integer> newestSettings() {
        ByteBuffer in = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
        Optional<Integer> best = Optional.empty();
        for (int block = 0; block < SETTINGS_BLOCKS; block++) {
            int at = block * BLOCK;
            int length = in.getInt(at + 4);
            if (in.getInt(at) != SETTINGS_MAGIC || length < 0 || length > MOST_SETTINGS) {
                continue;
            }
            boolean whole = in.getInt(at + 12 + length) == crc(Arrays.copyOfRange(bytes, at, at + 12 + length));
            if (whole && (best.isEmpty() || in.getInt(at + 8) - in.getInt(best.get() * BLOCK + 8) > 0)) {
                best = Optional.of(block);
            }
        }
        return best;
    }

    /**
     * How settings are written: into the block that does not count.
     *
     * @throws OverBound when they do not fit
     */
    public List<Step> settings(FirmwareConfig config) throws OverBound {
        byte[] text = config.text().getBytes(StandardCharsets.UTF_8);
        if (text.length > MOST_SETTINGS) {
            throw new OverBound(
                    "The settings have " + text.length + " bytes; the chip has room for " + MOST_SETTINGS + ".",
                    MOST_SETTINGS);
        }
        Optional<Integer> now = newestSettings();
        int turn = 1;
        if (now.isPresent()) {
            turn += ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN).getInt(now.get() * BLOCK + 8);
        }
        ByteBuffer out = ByteBuffer.allocate(16 + text.length).order(ByteOrder.LITTLE_ENDIAN);
        out.putInt(SETTINGS_MAGIC).putInt(text.length).putInt(turn).put(text);
        out.putInt(crc(Arrays.copyOf(out.array(), 12 + text.length)));
        return List.of(new Step(now.map(each -> 1 - each).orElse(0), out.array()));
    }

    /** Bytes that go over the wires in these steps: what a power cut is counted in. */
    public static long bytesOf(List<Step> steps) {
        return steps.stream().mapToLong(step -> BLOCK + step.content().length).sum();
    }

    /** All of them carried out. */
    public FlashChip after(List<Step> steps) {
        return cut(steps, Long.MAX_VALUE);
    }

    /**
     * The chip when the power fails after so many bytes: erasing a block counts as its bytes, from its start on, and so does writing
     * them.
     */
    public FlashChip cut(List<Step> steps, long after) {
        byte[] out = bytes.clone();
        long left = after;
        for (Step step : steps) {
            int at = step.block() * BLOCK;
            int erased = (int) Math.min(BLOCK, left);
            Arrays.fill(out, at, at + erased, (byte) 0xff);
            left -= erased;
            int written = (int) Math.min(step.content().length, left);
            System.arraycopy(step.content(), 0, out, at, written);
            left -= written;
            if (left <= 0) {
                break;
            }
        }
        return new FlashChip(out);
    }

    private static int crc(byte[] bytes) {
        CRC32 sum = new CRC32();
        sum.update(bytes);
        return (int) sum.getValue();
    }
}
