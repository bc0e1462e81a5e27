// SPDX-License-Identifier: Apache-2.0
package exordium.core.testing;

import java.io.IOException;
import java.nio.file.Path;

/** A card of a test's own: a loop device over a file in its folder. Where this machine gives none, {@link #isThere} says so. */
public final class LoopCard implements AutoCloseable {
    private final Path backing;
    private String name = "";

    public LoopCard(Path folder, long bytes) throws IOException {
        this.backing = folder.resolve("card");
        DiskBuilder.blank(backing, bytes);
        if (GeneralTools.exitOf("losetup", "-f") == 0) {
            name = GeneralTools.run("losetup", "-f", "--show", backing.toString())
                    .strip()
                    .substring("/dev/".length());
        }
    }

    /** The file behind it. */
    public Path backing() {
        return backing;
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
            name = "";
        }
    }
}
