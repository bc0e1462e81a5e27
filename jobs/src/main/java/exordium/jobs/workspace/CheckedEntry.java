// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.workspace;

import exordium.core.finding.UnreadableInput;
import java.io.FilterInputStream;
import java.io.IOException;
import java.util.zip.CRC32;
import java.util.zip.CheckedInputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;

/** What an entry of a zip holds, held to its length and its CRC-32 at the end, which the platform's own reading does not do. */
final class CheckedEntry extends FilterInputStream {
    private final ZipEntry entry;
    private final CheckedInputStream checked;
    private long bytes;

    CheckedEntry(ZipFile zip, ZipEntry entry) throws IOException {
        this(entry, new CheckedInputStream(zip.getInputStream(entry), new CRC32()));
    }

    private CheckedEntry(ZipEntry entry, CheckedInputStream checked) {
        super(checked);
        this.entry = entry;
        this.checked = checked;
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] into, int offset, int length) throws IOException {
        int got = super.read(into, offset, length);
        bytes += Math.max(0, got);
        boolean longer = entry.getSize() >= 0 && bytes > entry.getSize();
        boolean other = got < 0
                && ((entry.getSize() >= 0 && bytes != entry.getSize())
                        || entry.getCrc() != checked.getChecksum().getValue());
        if (longer || other) {
            throw new UnreadableInput(
                    entry.getName().replaceAll("\\p{Cntrl}", "?")
                            + " in it is spoilt: it has not the length or the CRC-32 it was put in with; nothing was made of it.");
        }
        return got;
    }
}
