// SPDX-License-Identifier: Apache-2.0
package exordium.core.profile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.finding.OverBound;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.lint.TriedPasswords;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

@Timeout(60)
class InputFileTest {
    @TempDir
    private Path folder;

    @Test
    void aFileUpToItsBoundIsReadWhole() throws IOException {
        Path file = Files.write(folder.resolve("a"), new byte[1000]);
        assertThat(InputFile.read(file, 1000)).hasSize(1000);
        assertThatThrownBy(() -> InputFile.read(file, 999)).isInstanceOf(OverBound.class);
    }

    /** A pipe nobody writes into would hold its reader for ever; a file the kernel makes up says that it has no bytes. */
    @Test
    void whatIsNoFileIsSaidAtOnce() {
        Path pipe = folder.resolve("pipe");
        GeneralTools.run("mkfifo", pipe.toString());
        assertThatThrownBy(() -> InputFile.read(pipe, 10))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("is not a file");
        assertThatThrownBy(() -> InputFile.read(folder, 10)).hasMessageContaining("is not a file");
        assertThatThrownBy(() -> InputFile.read(Path.of("/dev/zero"), 10)).hasMessageContaining("is not a file");
        assertThatThrownBy(() -> InputFile.read(folder.resolve("none"), 10)).hasMessageContaining("There is no file");
        assertThatThrownBy(() -> InputFile.read(Path.of("/proc/self/status"), 1 << 20))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("made up by the system");
    }

    /** The hash is made by openssl passwd, a general tool. */
    @Test
    void passwordsOfOnesOwnAreTriedBesideThoseThatShip() throws IOException {
        Files.writeString(folder.resolve(TriedPasswords.FILE), "# of the house\n\nlow-water-1741\nHigh-Water\n");
        TriedPasswords own = TriedPasswords.with(folder);
        TriedPasswords shipped = TriedPasswords.shipped();
        assertThat(own.has("Low-Water-1741", "keeper")).isTrue();
        assertThat(own.has("high-water", "keeper")).isTrue();
        assertThat(shipped.has("low-water-1741", "keeper")).isFalse();
        assertThat(shipped.has("keeper", "Keeper")).isTrue();
        String hash = GeneralTools.run("openssl", "passwd", "-5", "-salt", "aBcD", "low-water-1741")
                .strip();
        assertThat(own.opens(hash, "keeper")).isTrue();
        assertThat(shipped.opens(hash, "keeper")).isFalse();
        Files.writeString(folder.resolve(TriedPasswords.FILE), words(300));
        assertThatThrownBy(() -> TriedPasswords.with(folder)).isInstanceOf(OverBound.class);
    }

    private static String words(int count) {
        StringBuilder words = new StringBuilder();
        for (int i = 0; i < count; i++) {
            words.append("word").append(i).append('\n');
        }
        return words.toString();
    }
}
