// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import exordium.core.image.PublishedChecksum;
import exordium.core.quantity.ByteSize;
import java.util.List;
import org.jdbi.v3.core.Jdbi;
import org.jdbi.v3.core.mapper.reflect.ColumnName;

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
            @ColumnName("bytes") ByteSize size,
            ByteSize least,
            PublishedChecksum.State checksum,
            String version) {}

    public List<Image> all() {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT * FROM image ORDER BY rowid")
                .mapTo(Image.class)
                .list());
    }

    public void add(Image image) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        """
                        INSERT INTO image (id, title, file, container, compressed, bytes, least, checksum, version)
                        VALUES (:id, :title, :file, :container, :compressed, :size, :least, :checksum, :version)
                        """)
                .bindMethods(image)
                .execute());
    }
}
