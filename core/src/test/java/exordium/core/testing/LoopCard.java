// SPDX-License-Identifier: Apache-2.0
package exordium.core.testing;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;

/** A card of a test's own: a loop device over a file in its folder. Where this machine gives none, {@link #isThere} says so. */
public final class LoopCard implements AutoCloseable {
    private final Path backing;
    private String name = "";
    private Optional<Path> mount = Optional.empty();

    public LoopCard(Path folder, long bytes) throws IOException {
        this.backing = folder.resolve("card");
        DiskBuilder.blank(backing, bytes);
        if (GeneralTools.exitOf("losetup", "-f") == 0) {
            name = GeneralTools.run("losetup", "-f", "--show", backing.toString())
                    .strip()
                    .substring("/dev/".length());
        }
    }

    /** One that takes so many bytes and fails then: the file behind it lies in a small memory file system. */
    public static LoopCard failing(Path folder, long bytes, long room) throws IOException {
        Path small = Files.createDirectories(folder.resolve("small"));
        if (GeneralTools.exitOf("losetup", "-f") == 0) {
            GeneralTools.run("mount", "-t", "tmpfs", "-o", "size=" + room, "exordium-test", small.toString());
        }
        LoopCard card = new LoopCard(small, bytes);
        card.mount = Optional.of(small);
        return card;
    }

    /** The file behind it. */
    public Path backing() {
        return backing;
    }

    /** Whether it begins with the very bytes of this file, by cmp(1). */
    public boolean holds(Path image) throws IOException {
        return GeneralTools.exitOf("cmp", "-n", String.valueOf(Files.size(image)), image.toString(), backing.toString())
                == 0;
    }

    /** Its kernel name, such as {@code loop3}; empty where there is none. */
    public String name() {
        return name;
    }

    public boolean isThere() {
        return !name.isEmpty();
    }

    /** Pulled out. */
    @Override
    public void close() {
        if (isThere()) {
            GeneralTools.exitOf("losetup", "-d", "/dev/" + name);
            mount.ifPresent(place -> GeneralTools.exitOf("umount", "-l", place.toString()));
            name = "";
        }
    }
}
