// SPDX-License-Identifier: Apache-2.0
package exordium.core.board;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import exordium.core.bootorder.OrderDialect;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.profile.ProfileReader;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class BoardProfilesTest {
    @TempDir
    Path folder;

    private final ProfileReader reader = new ProfileReader();

    /** What ships is checked here, so that a start need not. */
    @ParameterizedTest
    @ValueSource(strings = {"boards", "media", "firmware"})
    void shippedProfilesKeepTheirSchema(String name) throws IOException {
        String path = "/exordium/profiles/" + name;
        try (InputStream stream = getClass().getResourceAsStream(path + ".yaml")) {
            Path file = Files.write(folder.resolve(name + ".yaml"), stream.readAllBytes());
            assertThat(reader.user(file, path + ".schema.json", JsonNode.class)).isNotEmpty();
        }
    }

    @Test
    void fiveFamiliesShipEachWithADialectThatWorks() {
        BoardProfiles profiles = BoardProfiles.shipped();
        assertThat(profiles.all())
                .extracting(BoardProfile::id)
                .containsExactly("plover-3", "plover-4", "plover-5", "curlew-e", "dunlin-u");
        assertThat(profiles.all()).allSatisfy(profile -> {
            assertThat(OrderDialect.of(profile).available()).isNotEmpty();
            assertThat(profile.sockets()).isNotEmpty();
        });
    }

    @Test
    void ownersDescribeTheirOwnBoards() throws IOException {
        String shipped;
        try (InputStream stream = getClass().getResourceAsStream(BoardProfiles.RESOURCE)) {
            shipped = new String(stream.readAllBytes(), StandardCharsets.UTF_8);
        }
        Files.writeString(
                folder.resolve("own.yaml"),
                shipped.replace("id: plover-4", "id: my-board").replace("id: plover-5", "id: plover-5"));
        BoardProfiles profiles = BoardProfiles.shipped().withFolder(reader, folder);
        assertThat(profiles.require("my-board").width()).isEqualTo(64);
    }

    @Test
    void aProfileThatBreaksTheSchemaIsNamedAndTheRestCounts() throws IOException {
        Files.writeString(folder.resolve("bad.yaml"), "boards:\n  - {id: x}\n");
        BoardProfiles profiles = BoardProfiles.shipped().withFolder(reader, folder);
        assertThat(profiles.unreadable())
                .singleElement()
                .asString()
                .startsWith("bad.yaml, line 2: ")
                .contains("is missing");
        assertThat(profiles.require("plover-5").width()).isEqualTo(64);
        assertThatThrownBy(() -> profiles.require("x"))
                .isInstanceOfSatisfying(
                        UnknownName.class, e -> assertThat(e.known()).contains("plover-5"))
                .hasMessageContaining("bad.yaml, line 2: ");
    }

    @Test
    void brokenYamlIsNamedWithItsLine() throws IOException {
        Files.writeString(folder.resolve("bad.yaml"), "boards:\n  - {id: x\n");
        assertThat(BoardProfiles.shipped().withFolder(reader, folder).unreadable())
                .singleElement()
                .asString()
                .contains("bad.yaml, line");
    }

    /** A few bytes of YAML may stand for as many fields as anybody likes. */
    @Test
    void aFileOfTooManyFieldsIsOneSentence() throws IOException {
        ProfileReader reader = new ProfileReader();
        Path file = folder.resolve("many.yaml");
        for (String text : List.of(
                "a: [" + "1,".repeat(30_000) + "1]\n",
                "[".repeat(3000),
                "x".repeat(2 << 20),
                "a: *b\n",
                "a: &a [*a]\n")) {
            Files.writeString(file, text);
            assertThatThrownBy(() -> reader.user(file, BoardProfiles.SCHEMA, BoardProfile.class))
                    .as(text.substring(0, Math.min(20, text.length())))
                    .isInstanceOf(UnreadableInput.class)
                    .hasMessageContaining("many.yaml");
        }
    }

    @Test
    void anUnknownProfileNamesThoseThereAre() {
        assertThatThrownBy(() -> BoardProfiles.shipped().require("heron-9"))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("plover-5");
    }
}
