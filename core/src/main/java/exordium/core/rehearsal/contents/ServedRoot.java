// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.contents;

import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;

/** A root that a server hands out, unpacked or still a tar, looked into once. */
public final class ServedRoot {
    private final Optional<RootFacts.Contents> contents;

    private ServedRoot(Optional<RootFacts.Contents> contents) {
        this.contents = contents;
    }

    /** Where root: a folder, or a tar of one; there may be none. */
    public static ServedRoot of(Path root) throws IOException {
        return new ServedRoot(RootFacts.contents(root));
    }

    /** A file of it; of a tar, settings whole and of anything else the beginning. */
    public Optional<byte[]> read(String path) throws IOException {
        return contents.isEmpty() ? Optional.empty() : contents.get().read(path);
    }

    /** What decides about a start from it; empty where there is nothing in it. */
    public Optional<MediumContents.RootFiles> facts() throws IOException {
        return contents.isEmpty() ? Optional.empty() : Optional.of(RootFacts.of(contents.get()));
    }
}
