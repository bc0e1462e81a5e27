// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.network;

import exordium.core.finding.UnreadableInput;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.GeneralSecurityException;
import java.security.KeyFactory;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.security.PrivateKey;
import java.security.Signature;
import java.security.spec.PKCS8EncodedKeySpec;
import java.util.ArrayList;
import java.util.Base64;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.apache.commons.codec.digest.DigestUtils;

/**
 * Lists of what belongs to a board, as sha256sum(1) checks them, each signed with a key of the workspace (RFC 8032, Ed25519; RFC 8410 for
 * its file), as openssl-pkeyutl(1) checks it.
 */
final class KitSeal {
    private static final String KEY = "kit-key.pem";
    static final String PUBLIC = "kit.pub";

    private final Path workspace;
    private final Path kit;

    KitSeal(Path workspace, Path kit) {
        this.workspace = workspace;
        this.kit = kit;
    }

    /** Puts the list down with its signature, and the public key where the kit has none. Where files: below the kit. */
    void seal(Path list, Collection<Path> files) throws IOException {
        List<String> lines = new ArrayList<>();
        for (Path file : files.stream().sorted().toList()) {
            lines.add(digest(file) + "  " + kit.relativize(file));
        }
        byte[] content = (String.join("\n", lines) + "\n").getBytes(StandardCharsets.UTF_8);
        Files.createDirectories(list.getParent());
        try {
            Signature signature = Signature.getInstance("Ed25519");
            signature.initSign(key());
            signature.update(content);
            Files.write(signatureOf(list), signature.sign());
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException(e);
        }
        Files.write(list, content);
    }

    static Path signatureOf(Path list) {
        return list.resolveSibling(list.getFileName() + ".sig");
    }

    private static String digest(Path file) throws IOException {
        try (InputStream in = Files.newInputStream(file)) {
            return DigestUtils.sha256Hex(in);
        }
    }

    /** The first file that is not what its list says; empty where all are. */
    Optional<String> broken(Path list) throws IOException {
        if (!Files.exists(list)) {
            return Optional.of(list.getFileName() + " is not there");
        }
        for (String line : Files.readAllLines(list)) {
            String[] parts = line.split("  ", 2);
            if (parts.length < 2) {
                continue;
            }
            Path file = kit.resolve(parts[1]).normalize();
            if (!file.startsWith(kit)) {
                return Optional.of(list.getFileName() + " names a file outside the kit");
            }
            if (!Files.isRegularFile(file)) {
                return Optional.of(parts[1] + " is not there");
            }
            if (!digest(file).equals(parts[0])) {
                return Optional.of(parts[1] + " is not what it was when the kit was made");
            }
        }
        return Optional.empty();
    }

    private PrivateKey key() throws IOException, GeneralSecurityException {
        Path file = workspace.resolve(KEY);
        if (Files.exists(file)) {
            String text = Files.readString(file).replaceAll("-----[A-Z ]+-----|\\s", "");
            try {
                return KeyFactory.getInstance("Ed25519")
                        .generatePrivate(
                                new PKCS8EncodedKeySpec(Base64.getDecoder().decode(text)));
            } catch (IllegalArgumentException | GeneralSecurityException e) {
                throw new UnreadableInput(file + " holds no key; move it away and make the kit again.", e);
            }
        }
        KeyPair pair = KeyPairGenerator.getInstance("Ed25519").generateKeyPair();
        Path working = Files.createTempFile(
                workspace,
                "kit-key",
                ".new",
                PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
        Files.writeString(working, pem("PRIVATE KEY", pair.getPrivate().getEncoded()));
        Files.writeString(
                workspace.resolve(PUBLIC), pem("PUBLIC KEY", pair.getPublic().getEncoded()));
        Files.move(working, file, java.nio.file.StandardCopyOption.ATOMIC_MOVE);
        return pair.getPrivate();
    }

    /** Beside the lists, for whoever wants to know who made them. */
    void putPublic() throws IOException, GeneralSecurityException {
        key();
        Files.copy(workspace.resolve(PUBLIC), kit.resolve(PUBLIC), java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    }

    private static String pem(String kind, byte[] bytes) {
        return "-----BEGIN " + kind + "-----\n"
                + Base64.getMimeEncoder(64, "\n".getBytes(StandardCharsets.US_ASCII))
                        .encodeToString(bytes)
                + "\n-----END " + kind + "-----\n";
    }
}
