// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The manual and the completion have every command; the shell itself reads the completion. */
class PapersTest {
    @TempDir
    Path folder;

    @Test
    void everyCommandHasAPageAndIsCompleted() throws IOException {
        Path completion = folder.resolve("completion");
        Papers.main(new String[] {folder.resolve("man").toString(), completion.toString()});
        String all = Files.readString(folder.resolve("man/exordium.1"));
        String completed = Files.readString(completion);
        for (String command : Main.COMMANDS.keySet()) {
            assertThat(folder.resolve("man/exordium-" + command + ".1"))
                    .content()
                    .startsWith(".TH \"EXORDIUM-")
                    .contains(".SH SYNOPSIS");
            assertThat(all).contains(".B exordium " + command.replace("-", "\\-"));
            assertThat(completed).contains(command);
        }
        assertThat(folder.resolve("man/exordium-board.1")).content().contains("\\-\\-reach simulated|by\\-hand");
        GeneralTools.run("bash", "-n", completion.toString());
    }
}
