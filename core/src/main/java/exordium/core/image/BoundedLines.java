// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import java.io.BufferedInputStream;
import java.io.ByteArrayOutputStream;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;

/**
 * The lines of a text from elsewhere, one after the other; of one that is longer than it may be, the beginning. What is no UTF-8 comes as
 * the replacement letter. Memory: one line.
 */
final class BoundedLines implements Closeable {
    private final InputStream bytes;
    private final int longest;

    BoundedLines(Path file, int longest) throws IOException {
        this.bytes = new BufferedInputStream(Files.newInputStream(file), 1 << 16);
        this.longest = longest;
    }

    /** Empty at the end. */
    Optional<String> next() throws IOException {
        int one = bytes.read();
        if (one < 0) {
            return Optional.empty();
        }
        ByteArrayOutputStream line = new ByteArrayOutputStream(128);
        for (; one >= 0 && one != '\n'; one = bytes.read()) {
            if (line.size() < longest) {
                line.write(one);
            }
        }
        return Optional.of(line.toString(StandardCharsets.UTF_8));
    }

    @Override
    public void close() throws IOException {
        bytes.close();
    }
}
