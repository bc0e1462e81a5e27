// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import exordium.core.filesystem.FileBody;
import java.util.Optional;

/**
 * One file before and after; empty where it is not there.
 *
 * @param file its path: with a slash in front in the root, without one in the start partition
 */
public record FileEdit(String file, Optional<FileBody> before, Optional<FileBody> after) {

    public boolean inRoot() {
        return file.startsWith("/");
    }

    /** What takes it back. */
    public FileEdit back() {
        return new FileEdit(file, /* before= */ after, /* after= */ before);
    }

    /** Whether the same stands there before and after, permissions aside. */
    boolean nothing() {
        return before.isPresent() == after.isPresent()
                && before.map(body -> body.same(after.get())).orElse(true);
    }
}
