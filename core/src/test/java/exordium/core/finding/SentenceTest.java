// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.Test;

class SentenceTest {
    /** The platform's file errors carry a path and no words; each becomes a sentence that names it. */
    @Test
    void fileErrorsAreSaidInWords() {
        assertThat(Sentence.of(new AccessDeniedException("/dev/sdx"))).contains("no rights to /dev/sdx");
        assertThat(Sentence.of(new NoSuchFileException("/tmp/a"))).isEqualTo("There is no /tmp/a.");
        assertThat(Sentence.of(new FileAlreadyExistsException("/tmp/a"))).contains("already");
        assertThat(Sentence.of(new FileSystemException("/tmp/a", null, "Read-only file system")))
                .isEqualTo("/tmp/a: Read-only file system.");
    }

    @Test
    void realErrorsOfThePlatformAreSaidToo() {
        try {
            Files.readAllBytes(Path.of("/nowhere/at/all"));
            throw new AssertionError("there is such a file");
        } catch (IOException e) {
            assertThat(Sentence.of(e)).isEqualTo("There is no /nowhere/at/all.");
        }
    }

    @Test
    void ownSentencesStayAsTheyAre() {
        Finding stop = Finding.stop("code", "It does not fit.", Basis.practice());
        for (Exception each : List.of(
                new UnreadableInput("It does not fit."),
                new Refused(stop),
                new IllegalArgumentException("It does not fit."))) {
            assertThat(Sentence.of(each)).isEqualTo("It does not fit.");
        }
        assertThat(Sentence.of(new CancellationException())).startsWith("Stopped");
    }

    @Test
    void aFaultOfTheProgramIsCalledOne() {
        assertThat(Sentence.of(new IllegalStateException("x"))).startsWith("Something went wrong inside the program");
        assertThat(Sentence.of(new NullPointerException())).startsWith("Something went wrong inside the program");
    }
}
