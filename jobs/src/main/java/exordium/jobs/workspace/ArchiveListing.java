// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.workspace;

import exordium.core.image.PublishedChecksum;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.HexFormat;
import java.util.Set;
import java.util.TreeSet;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;

/** What lies in an archive, as one digest: so that an entry that is missing is missed. */
final class ArchiveListing {
    private final Set<String> lines = new TreeSet<>();

    /** A zip that lists what is put into it. */
    ZipOutputStream listed(OutputStream out) {
        return new ZipOutputStream(out) {
            private ZipEntry now;

            @Override
            public void putNextEntry(ZipEntry entry) throws IOException {
                super.putNextEntry(entry);
                now = entry;
            }

            @Override
            public void closeEntry() throws IOException {
                super.closeEntry();
                add(now);
            }
        };
    }

    void add(ZipEntry entry) {
        lines.add(entry.getName() + "\t" + entry.getSize() + "\t" + Long.toHexString(entry.getCrc()));
    }

    /** SHA-256 of a line for each entry, sorted: name, bytes, CRC-32 in hex, with tabs between and line feeds behind. */
    String digest() {
        StringBuilder text = new StringBuilder();
        lines.forEach(line -> text.append(line).append('\n'));
        return HexFormat.of()
                .formatHex(PublishedChecksum.newSha256().digest(text.toString().getBytes(StandardCharsets.UTF_8)));
    }
}
