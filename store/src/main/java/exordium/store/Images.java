// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import exordium.core.image.PublishedChecksum;
import exordium.core.quantity.ByteSize;
import java.util.List;
import org.jdbi.v3.core.Jdbi;

/** The shelf of images. */
public final class Images {
    private final Jdbi jdbi;

    Images(Jdbi jdbi) {
        this.jdbi = jdbi;
    }

    /**
     * One image.
     *
     * @param file name in the workspace's images folder
     * @param least the smallest medium it fits
     */
    public record Image(
            String id,
            String title,
            String file,
            String container,
            ByteSize compressed,
            ByteSize size,
            ByteSize least,
            PublishedChecksum.State checksum,
            String version) {}

    public List<Image> all() {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT * FROM image ORDER BY rowid")
                .map((row, context) -> new Image(
                        row.getString("id"),
                        row.getString("title"),
                        row.getString("file"),
                        row.getString("container"),
                        ByteSize.of(row.getLong("compressed")),
                        ByteSize.of(row.getLong("bytes")),
                        ByteSize.of(row.getLong("least")),
                        PublishedChecksum.State.valueOf(row.getString("checksum")),
                        row.getString("version")))
                .list());
    }

    public void add(Image image) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        """
                        INSERT INTO image (id, title, file, container, compressed, bytes, least, checksum, version)
                        VALUES (:id, :title, :file, :container, :compressed, :bytes, :least, :checksum, :version)
                        """)
                .bind("id", image.id())
                .bind("title", image.title())
                .bind("file", image.file())
                .bind("container", image.container())
                .bind("compressed", image.compressed().bytes())
                .bind("bytes", image.size().bytes())
                .bind("least", image.least().bytes())
                .bind("checksum", image.checksum().name())
                .bind("version", image.version())
                .execute());
    }
}
