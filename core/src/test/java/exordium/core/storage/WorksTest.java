// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.finding.UnreadableInput;
import exordium.core.profile.ProfileReader;
import exordium.core.profile.Signatures;
import exordium.core.storage.media.Works;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.KeyPair;
import java.time.LocalDate;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A list that is handed on; its signature is checked by openssl (RFC 8032), which knows nothing of this program. */
class WorksTest {
    private static final ProfileReader READER = new ProfileReader();

    @TempDir
    Path folder;

    private static Works.Entry entry(String name, boolean works, String by, String date) {
        return new Works.Entry(
                Works.Kind.DRIVE, name, "plover-5", works, Optional.empty(), LocalDate.parse(date), "", by);
    }

    private static Works.Received read(String text) throws IOException {
        return Works.read("works.yaml", text.getBytes(StandardCharsets.UTF_8), READER);
    }

    @Test
    void whatIsHandedOnIsReadAgainWithWhoSaysSo() throws IOException {
        KeyPair key = Signatures.fresh();
        Works mine = new Works(List.of(entry("Kelpline K3", true, "", "2026-10-01")));
        String text = mine.signedText(READER, "Gannet Point", key);
        Works.Received received = read(text);
        assertThat(received.signed()).isEqualTo(Works.Signed.GOOD);
        assertThat(received.entries().get(0).by()).isEqualTo("Gannet Point");
        assertThat(read(text.replace("works: true", "works: false")).signed()).isEqualTo(Works.Signed.BAD);
        assertThat(read(mine.kept(READER)).signed()).isEqualTo(Works.Signed.NONE);
    }

    @Test
    void anotherToolFindsTheSignatureGood() throws IOException {
        KeyPair key = Signatures.fresh();
        String text = new Works(List.of(entry("Kelpline K3", true, "", "2026-10-01")))
                .signedText(READER, "Gannet Point", key);
        int at = text.lastIndexOf("\n# signature: ");
        Path body = Files.writeString(folder.resolve("body"), text.substring(0, at));
        Path signature = Files.write(
                folder.resolve("signature"),
                Base64.getDecoder()
                        .decode(text.substring(at + "\n# signature: ".length()).strip()));
        Path pem = Files.writeString(
                folder.resolve("key.pem"),
                "-----BEGIN PUBLIC KEY-----\n"
                        + Base64.getEncoder().encodeToString(key.getPublic().getEncoded())
                        + "\n-----END PUBLIC KEY-----\n");
        assertThat(GeneralTools.exitOf(
                        "openssl",
                        "pkeyutl",
                        "-verify",
                        "-pubin",
                        "-inkey",
                        pem.toString(),
                        "-rawin",
                        "-in",
                        body.toString(),
                        "-sigfile",
                        signature.toString()))
                .isZero();
    }

    @Test
    void theNewestWordOfTheSamePeopleCountsAndOnesOwnBeforeOthers() {
        Works all = Works.NONE
                .with(entry("Kelpline K3", false, "", "2026-10-01"))
                .with(entry("KELPLINE K3", true, "", "2026-11-01"))
                .with(entry("Kelpline K3", false, "Somebody", "2026-11-20"))
                .with(entry("Kelpline K3", true, "", "2026-09-01"));
        assertThat(all.entries()).hasSize(2);
        List<Works.Entry> said = all.of(Works.Kind.DRIVE, "kelpline k3", "plover-5");
        assertThat(said.get(said.size() - 1).own()).isTrue();
        assertThat(said.get(said.size() - 1).works()).isTrue();
    }

    @Test
    void whatIsNoSuchFileIsSaid() {
        assertThatThrownBy(() -> read("entries: []\nformat: other\n")).isInstanceOf(UnreadableInput.class);
        assertThatThrownBy(() -> read("rubbish")).isInstanceOf(UnreadableInput.class);
    }
}
