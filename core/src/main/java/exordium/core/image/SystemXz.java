// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import java.io.IOException;
import java.io.InputStream;
import java.io.InterruptedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The system's own xz as a process, where there is one: it unpacks and checks nearly twice as fast as the library, on all
 * cores where the file has blocks. It is held to the same memory; what it finds broken is one error here.
 */
final class SystemXz extends BulkStream {
    /** Under this a process is not worth its start. */
    static final long WORTH = 16L << 20;

    private static final Pattern VERSION = Pattern.compile("XZ Utils\\) (\\d+)\\.(\\d+)");

    private final Process process;
    private final InputStream unpacked;

    private SystemXz(Process process) {
        this.process = process;
        this.unpacked = process.getInputStream();
    }

    /** Whether there is one that unpacks on several cores: 5.4 and later. */
    static boolean isThere() {
        return Found.THERE;
    }

    /** Looked for once. */
    private static final class Found {
        static final boolean THERE = look();

        private static boolean look() {
            try {
                Process asked = new ProcessBuilder("xz", "--version")
                        .redirectError(ProcessBuilder.Redirect.DISCARD)
                        .start();
                String told = new String(asked.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
                Matcher match = VERSION.matcher(told);
                return asked.waitFor() == 0
                        && match.find()
                        && (Integer.parseInt(match.group(1)) > 5 || Integer.parseInt(match.group(2)) >= 4);
            } catch (IOException e) {
                return false;
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                return false;
            }
        }
    }

    static SystemXz open(Path file) throws IOException {
        Process process = new ProcessBuilder(List.of(
                        "xz",
                        "-dc",
                        "-qq",
                        "-T0",
                        "--memlimit-mt-decompress=100MiB",
                        "--memlimit-decompress=" + ImageFile.XZ_MEMORY_KIB + "KiB",
                        "--",
                        file.toAbsolutePath().toString()))
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .start();
        process.getOutputStream().close();
        return new SystemXz(process);
    }

    @Override
    public int read(byte[] target, int offset, int length) throws IOException {
        int got = unpacked.read(target, offset, length);
        if (got < 0) {
            requireGoodEnd();
        }
        return got;
    }

    private void requireGoodEnd() throws IOException {
        try {
            if (process.waitFor() != 0) {
                throw new IOException("its data are damaged, or need more memory than any image of this trade");
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new InterruptedIOException("interrupted while unpacking");
        }
    }

    @Override
    public void close() throws IOException {
        process.destroyForcibly();
        unpacked.close();
    }
}
