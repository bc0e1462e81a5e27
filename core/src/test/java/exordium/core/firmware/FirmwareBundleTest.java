// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.board.StartSource;
import exordium.core.finding.UnreadableInput;
import exordium.core.profile.ProfileReader;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.time.LocalDate;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Releases as files: against unzip, sha256sum and openssl (Ed25519, RFC 8032), and against what is broken. */
class FirmwareBundleTest {
    private static final FirmwareRelease RELEASE = new FirmwareRelease(
            List.of("plover-5"),
            LocalDate.parse("2026-09-02"),
            Channel.DEFAULT,
            "Mends a hang.",
            Optional.of(List.of(StartSource.NVME)),
            Optional.of(List.of(new FirmwareRelease.Mend("a hang", List.of("hang", "nvme")))),
            Optional.empty());

    @TempDir
    private Path folder;

    private Path put(FirmwareBundle bundle) throws IOException {
        return Files.write(folder.resolve("release.zip"), bundle.bytes());
    }

    private static FirmwareBundle read(Path file) throws IOException {
        return FirmwareBundle.read(file, new ProfileReader());
    }

    @Test
    void aBundleIsReadByGeneralToolsAndByUs() throws Exception {
        byte[] payload = new byte[70_000];
        new Random(1).nextBytes(payload);
        KeyPair keys = KeyPairGenerator.getInstance("Ed25519").generateKeyPair();
        Path file = put(FirmwareBundle.of(RELEASE, payload, Optional.of(keys.getPrivate())));
        GeneralTools.run(
                "unzip", "-q", file.toString(), "-d", folder.resolve("out").toString());
        Path out = folder.resolve("out");
        assertThat(Files.readAllBytes(out.resolve("firmware.bin"))).isEqualTo(payload);
        FirmwareBundle read = read(file);
        assertThat(GeneralTools.said("sha256sum", out.resolve("firmware.bin").toString()))
                .startsWith(read.manifest().payload().sha256());
        Path pem = folder.resolve("key.pem");
        Files.writeString(
                pem,
                "-----BEGIN PUBLIC KEY-----\n"
                        + Base64.getEncoder().encodeToString(keys.getPublic().getEncoded())
                        + "\n-----END PUBLIC KEY-----\n");
        GeneralTools.run(
                "openssl",
                "pkeyutl",
                "-verify",
                "-pubin",
                "-inkey",
                pem.toString(),
                "-rawin",
                "-in",
                out.resolve("manifest.json").toString(),
                "-sigfile",
                out.resolve("manifest.sig").toString());
        assertThat(read.signed(List.of(FirmwareBundle.key(pem)))).isEqualTo(FirmwareBundle.Signed.YES);
        assertThat(read.signed(List.of())).isEqualTo(FirmwareBundle.Signed.UNCHECKED);
        assertThat(read.signed(List.of(KeyPairGenerator.getInstance("Ed25519")
                        .generateKeyPair()
                        .getPublic())))
                .isEqualTo(FirmwareBundle.Signed.WRONG);
        assertThat(read.manifest().release(Channel.DEFAULT)).isEqualTo(RELEASE);
    }

    @Test
    void aSignatureByGeneralToolsCounts() throws IOException {
        Path out = Files.createDirectories(folder.resolve("made"));
        FirmwareBundle plain = FirmwareBundle.of(RELEASE, new byte[] {1, 2, 3}, Optional.empty());
        Files.write(out.resolve("manifest.json"), plain.manifestBytes());
        Files.write(out.resolve("firmware.bin"), plain.payload());
        String key = folder.resolve("private.pem").toString();
        String pub = folder.resolve("public.pem").toString();
        GeneralTools.run("openssl", "genpkey", "-algorithm", "ed25519", "-out", key);
        GeneralTools.run("openssl", "pkey", "-in", key, "-pubout", "-out", pub);
        GeneralTools.run(
                "openssl",
                "pkeyutl",
                "-sign",
                "-inkey",
                key,
                "-rawin",
                "-in",
                out.resolve("manifest.json").toString(),
                "-out",
                out.resolve("manifest.sig").toString());
        Path file = folder.resolve("byhand.zip");
        GeneralTools.run("sh", "-c", "cd '" + out + "' && zip -q '" + file + "' *");
        FirmwareBundle read = read(file);
        assertThat(read.signed(List.of(FirmwareBundle.key(Path.of(pub))))).isEqualTo(FirmwareBundle.Signed.YES);
        assertThat(plain.signed(List.of(FirmwareBundle.key(Path.of(pub))))).isEqualTo(FirmwareBundle.Signed.NO);
        Path rsa = Files.writeString(folder.resolve("none.pem"), "-----BEGIN PUBLIC KEY-----\nAAAA\n");
        assertThatThrownBy(() -> FirmwareBundle.key(rsa)).isInstanceOf(UnreadableInput.class);
    }

    @Test
    void whatIsBrokenIsOneSentence() throws IOException {
        byte[] whole =
                FirmwareBundle.of(RELEASE, new byte[9000], Optional.empty()).bytes();
        Random random = new Random(5);
        for (int i = 0; i < 300; i++) {
            byte[] broken = whole.clone();
            for (int k = 0; k <= i % 3; k++) {
                broken[random.nextInt(broken.length)] ^= (byte) (1 << random.nextInt(8));
            }
            Path file = Files.write(
                    folder.resolve("broken.zip"),
                    java.util.Arrays.copyOf(broken, i % 5 == 0 ? random.nextInt(broken.length) : broken.length));
            try {
                assertThat(read(file).payload()).isEqualTo(new byte[9000]);
            } catch (UnreadableInput e) {
                assertThat(e.getMessage()).endsWith(".");
            }
        }
        Path text = Files.writeString(folder.resolve("text.zip"), "no zip at all");
        assertThatThrownBy(() -> read(text)).isInstanceOf(UnreadableInput.class).hasMessageContaining("no zip file");
    }

    /** A payload that claims to be small and unpacks to a lot: read no further than what fits a chip. */
    @Test
    void aPayloadThatUnpacksWithoutEndIsNotReadToItsEnd() throws IOException {
        Path out = Files.createDirectories(folder.resolve("bomb"));
        Files.write(
                out.resolve("manifest.json"),
                FirmwareBundle.of(RELEASE, new byte[9], Optional.empty()).manifestBytes());
        GeneralTools.run("truncate", "-s", "400M", out.resolve("firmware.bin").toString());
        Path file = folder.resolve("bomb.zip");
        GeneralTools.run("sh", "-c", "cd '" + out + "' && zip -q -1 '" + file + "' manifest.json firmware.bin");
        assertThatThrownBy(() -> read(file))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("larger than 8388608");
    }

    @Test
    void aChannelGoesByItsOtherNamesToo() throws UnreadableInput {
        FirmwareCatalogue shipped = FirmwareCatalogue.shipped();
        assertThat(shipped.channel("Stable")).isEqualTo(Channel.DEFAULT);
        assertThat(shipped.channel("critical")).isEqualTo(Channel.DEFAULT);
        assertThat(shipped.channel("beta")).isEqualTo(Channel.BETA);
        assertThatThrownBy(() -> shipped.channel("gold"))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("critical");
    }
}
