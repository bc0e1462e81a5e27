// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;

/** Commands that need no demo, in a workspace of the test's own. */
abstract class Commands {
    @TempDir
    Path folder;

    Terminal terminal;

    @BeforeEach
    void terminal() {
        terminal = new Terminal(folder.resolve("workspace"));
    }
}
