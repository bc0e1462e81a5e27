// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import exordium.core.block.DriveDevice;
import exordium.core.block.MachineDrive;
import exordium.core.block.MediumException;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import java.io.BufferedReader;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.ByteBuffer;
import java.nio.channels.ClosedChannelException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;

/** A drive whose bytes come and go through the helper, which pkexec starts after asking for leave (pkexec(1)). */
final class HelperDevice extends DriveDevice {
    private static final Path PKEXEC = Path.of("/usr/bin/pkexec");
    private static final int DISMISSED = 126;
    private static final int NOBODY_ASKED = 127;
    private static final int OTHERS_WRITE = 022;
    private static final long ENDS_WITHIN_SECONDS = 10;

    private final MachineDrive drive;
    private final Process process;
    private final DataInputStream in;
    private final DataOutputStream out;
    private final Words words;
    private final byte[] piece = new byte[DriveHelper.PIECE];
    private boolean pastCache;
    private volatile boolean closed;

    private HelperDevice(MachineDrive drive, boolean readOnly, Process process) {
        super(drive, readOnly);
        this.drive = drive;
        this.process = process;
        this.in = new DataInputStream(process.getInputStream());
        this.out = new DataOutputStream(process.getOutputStream());
        this.words = new Words(process);
    }

    /** What it and pkexec say on the way, read beside everything else. */
    private static final class Words {
        private final CountDownLatch done = new CountDownLatch(1);
        private volatile Optional<HelperEvent> last = Optional.empty();
        private volatile Optional<HelperEvent> no = Optional.empty();
        private volatile String other = "";

        Words(Process process) {
            Thread reader = new Thread(() -> read(process), "exordium-helper");
            reader.setDaemon(true);
            reader.start();
        }

        private void read(Process process) {
            try (BufferedReader lines =
                    new BufferedReader(new InputStreamReader(process.getErrorStream(), StandardCharsets.UTF_8))) {
                for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                    Optional<HelperEvent> event = HelperEvent.read(line);
                    last = event.isPresent() ? event : last;
                    no = event.filter(each -> each.event().equals(HelperEvent.REFUSED)
                                    || each.event().equals(HelperEvent.FAILED))
                            .or(() -> no);
                    other = event.isPresent() || line.isBlank() ? other : line.strip();
                }
            } catch (IOException e) {
                other = String.valueOf(e.getMessage());
            } finally {
                done.countDown();
            }
        }

        /** All it said; waits for its end, which is at hand. */
        void end() {
            try {
                if (!done.await(ENDS_WITHIN_SECONDS, TimeUnit.SECONDS)) {
                    other = "it does not end";
                }
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }
    }

    /** The helper that the package brought; another one is taken only where it is root's as well. */
    private static Path helper() {
        return Path.of(System.getProperty("exordium.helper", "/usr/lib/exordium/bin/exordium-drive"));
    }

    /** Whether there is a helper that only root can have put there, and something to start it with. */
    static boolean there() {
        try {
            Path helper = helper();
            return Files.isExecutable(PKEXEC)
                    && Files.isExecutable(helper)
                    && Files.getAttribute(helper, "unix:uid").equals(0)
                    && ((Integer) Files.getAttribute(helper, "unix:mode") & OTHERS_WRITE) == 0;
        } catch (IOException | UnsupportedOperationException e) {
            return false;
        }
    }

    /**
     * Starts the helper with one plan and waits until it has the drive open.
     *
     * @throws Refused when leave was not given, or the helper refuses the drive
     */
    static HelperDevice open(MachineDrive drive, boolean forWriting) throws IOException {
        Process started = new ProcessBuilder(PKEXEC.toString(), helper().toString(), "/dev/" + drive.id()).start();
        HelperDevice device = new HelperDevice(drive, !forWriting, started);
        try {
            device.out.write((HelperPlan.of(drive, forWriting).line() + "\n").getBytes(StandardCharsets.UTF_8));
            device.out.flush();
            if (device.in.readByte() != DriveHelper.DONE) {
                throw new IOException("the helper does not speak as it should");
            }
            device.pastCache = device.in.readBoolean();
            return device;
        } catch (IOException e) {
            RuntimeException why = device.refused(e);
            device.close();
            throw why;
        }
    }

    private RuntimeException refused(IOException cause) throws IOException {
        words.end();
        int code;
        try {
            code = process.waitFor(ENDS_WITHIN_SECONDS, TimeUnit.SECONDS) ? process.exitValue() : -1;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            code = -1;
        }
        if (words.no.isPresent() && words.no.get().event().equals(HelperEvent.REFUSED)) {
            return new Refused(Finding.stop(
                    words.no.get().code(), words.no.get().text(), Basis.computed("the helper's own look")));
        }
        String why = words.no.map(HelperEvent::text).orElse("");
        if (code == DISMISSED) {
            why = "leave was not given.";
        } else if (code == NOBODY_ASKED) {
            why = "nobody could be asked for leave, or it was refused: start this in a desktop session, or start"
                    + " pkttyagent beside it.";
        } else if (why.isEmpty()) {
            why = (words.other.isEmpty() ? String.valueOf(cause.getMessage()) : words.other) + ".";
        }
        return new Refused(Finding.stop(
                "target-not-permitted",
                drive.node() + " was not opened: " + why + " Nothing was touched.",
                Basis.computed("asking by pkexec")));
    }

    private synchronized void pieces(int asked, long position, ByteBuffer buffer) throws IOException {
        requireInside(position, buffer.remaining());
        int start = buffer.position();
        while (buffer.hasRemaining()) {
            int length = Math.min(buffer.remaining(), piece.length);
            long at = position + buffer.position() - start;
            boolean writing = asked == DriveHelper.WRITE;
            if (writing) {
                buffer.get(piece, 0, length);
            }
            exchange(asked, at, writing ? length : 0, length);
            if (!writing) {
                in.readFully(piece, 0, length);
                buffer.put(piece, 0, length);
            }
        }
    }

    private synchronized void exchange(int asked, long position, int sent, int length) throws IOException {
        if (closed) {
            throw new ClosedChannelException();
        }
        String wrong;
        try {
            out.writeByte(asked);
            out.writeLong(position);
            out.writeInt(length);
            out.write(piece, 0, sent);
            out.flush();
            if (in.readByte() == DriveHelper.DONE) {
                return;
            }
            wrong = in.readUTF();
        } catch (IOException e) {
            words.end();
            String last = words.no
                    .map(HelperEvent::text)
                    .or(() -> words.last.map(
                            told -> "the helper ended after it had written " + told.writtenBytes() + " bytes"))
                    .orElse(words.other);
            throw new MediumException(name(), position, last, e);
        }
        throw new MediumException(name(), position, wrong);
    }

    @Override
    public void read(long position, ByteBuffer target) throws IOException {
        pieces(DriveHelper.READ, position, target);
    }

    @Override
    public void readBack(long position, ByteBuffer target) throws IOException {
        pieces(DriveHelper.READ_BACK, position, target);
    }

    @Override
    public void write(long position, ByteBuffer source) throws IOException {
        pieces(DriveHelper.WRITE, position, source);
    }

    @Override
    public void flush() throws IOException {
        exchange(DriveHelper.FLUSH, 0, 0, 0);
    }

    @Override
    public boolean readsPastCache() {
        return pastCache;
    }

    /** Its input ends, and so does it. */
    @Override
    public void close() throws IOException {
        if (closed) {
            return;
        }
        closed = true;
        try {
            process.getOutputStream().close();
        } catch (IOException e) {
            // It has ended already; what went wrong was said when it was asked for something.
            assert closed;
        }
        words.end();
        in.close();
    }
}
