// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import exordium.core.block.AlignedBuffers;
import exordium.core.block.BlockDevice;
import exordium.core.block.MachineDrive;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import java.io.BufferedInputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;

/**
 * The small process that is started with leave to open drives. It takes exactly one plan from its standard input, checks for itself
 * everything for which that drive would be refused, opens this one drive, passes its bytes to and fro, and ends when its input
 * does. It reads no image, no file of the user's and no workspace; what is written was made in the user's own process.
 */
public final class DriveHelper {
    static final int READ = 'r';
    static final int READ_BACK = 'b';
    static final int WRITE = 'w';
    static final int FLUSH = 'f';
    static final int DONE = 0;
    static final int WRONG = 1;
    /** The most that is asked for at once, in bytes. */
    static final int PIECE = 1 << 20;

    private static final long TOLD_EVERY = TimeUnit.MILLISECONDS.toNanos(500);

    private final DataInputStream in;
    private final DataOutputStream out;
    private final PrintStream events;
    private final LinuxDrives machine;
    private final String asked;
    private final byte[] bytes = new byte[PIECE];
    private final ByteBuffer buffer = AlignedBuffers.allocate(PIECE);
    private long read;
    private long written;
    private long toldAt;

    /** Where asked: the drive that leave was asked for, by its path. */
    DriveHelper(InputStream in, OutputStream out, PrintStream events, LinuxDrives machine, String asked) {
        this.asked = asked;
        this.in = new DataInputStream(new BufferedInputStream(in));
        this.out = new DataOutputStream(out);
        this.events = events;
        this.machine = machine;
    }

    /** Started by pkexec. The drive is named as well, so that it stands in the question: a plan for another one is refused. */
    public static void main(String[] args) {
        PrintStream events = new PrintStream(System.err, true, StandardCharsets.UTF_8);
        System.exit(new DriveHelper(System.in, System.out, events, new LinuxDrives(), args.length == 1 ? args[0] : "")
                .run());
    }

    /** Gives the exit code: 0 done, 1 failed, 2 no plan, 3 refused. */
    int run() {
        try {
            HelperPlan plan = HelperPlan.read(line());
            if (!asked.equals("/dev/" + plan.drive())) {
                throw new Refused(Finding.stop(
                        "target-changed",
                        "Leave was asked for another drive than the one in the plan. Nothing was touched.",
                        Basis.computed("the helper's own look")));
            }
            try (BlockDevice device = opened(plan)) {
                tell("opened", "", "");
                out.writeByte(DONE);
                out.writeBoolean(device.readsPastCache());
                out.flush();
                serve(device, plan.write());
            }
            tell("ended", "", "");
            return 0;
        } catch (Refused e) {
            tell(HelperEvent.REFUSED, e.reasons().get(0).code(), String.valueOf(e.getMessage()));
            return 3;
        } catch (UnreadableInput e) {
            tell(HelperEvent.FAILED, "", String.valueOf(e.getMessage()));
            return 2;
        } catch (IOException e) {
            tell(HelperEvent.FAILED, "", String.valueOf(e.getMessage()));
            return 1;
        }
    }

    private String line() throws IOException {
        StringBuilder line = new StringBuilder();
        int next = in.read();
        while (next >= 0 && next != '\n' && line.length() < HelperPlan.LONGEST) {
            line.append((char) next);
            next = in.read();
        }
        return line.toString();
    }

    private BlockDevice opened(HelperPlan plan) throws IOException {
        Path root = Path.of("/");
        MachineDrive drive = machine.list(root).stream()
                .filter(plan::isFor)
                .findFirst()
                .orElseThrow(() -> new Refused(Finding.stop(
                        "target-changed",
                        "/dev/" + plan.drive() + " is not the drive it was; look again. Nothing was touched.",
                        Basis.computed("the helper's own look"))));
        Refused.ifAnyStops(plan.write() ? drive.refusals() : drive.fixed());
        return drive.open(plan.write());
    }

    private void serve(BlockDevice device, boolean mayWrite) throws IOException {
        for (int asked = in.read(); asked >= 0; asked = in.read()) {
            long position = in.readLong();
            int length = in.readInt();
            if (length < 0 || length > PIECE || (asked == WRITE && !mayWrite)) {
                throw new UnreadableInput("The helper was asked for something that is not in its plan.");
            }
            if (asked == WRITE) {
                in.readFully(bytes, 0, length);
            }
            answer(device, asked, position, length);
            if (System.nanoTime() - toldAt > TOLD_EVERY) {
                tell("progress", "", "");
            }
        }
    }

    private void answer(BlockDevice device, int asked, long position, int length) throws IOException {
        try {
            buffer.clear().limit(length);
            switch (asked) {
                case READ -> device.read(position, buffer);
                case READ_BACK -> device.readBack(position, buffer);
                case WRITE ->
                    device.write(position, buffer.put(bytes, 0, length).flip());
                case FLUSH -> device.flush();
                default -> throw new EOFException("nothing the helper knows was asked");
            }
        } catch (IOException e) {
            out.writeByte(WRONG);
            out.writeUTF(String.valueOf(e.getMessage()));
            out.flush();
            return;
        }
        out.writeByte(DONE);
        if (asked == READ || asked == READ_BACK) {
            buffer.flip().get(bytes, 0, length);
            out.write(bytes, 0, length);
            read += length;
        }
        written += asked == WRITE ? length : 0;
        out.flush();
    }

    private void tell(String event, String code, String text) {
        toldAt = System.nanoTime();
        events.println(HelperPlan.json(new HelperEvent(event, code, text, read, written)));
    }
}
