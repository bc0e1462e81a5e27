// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The SHA-256 published beside an image: a line in {@code SHA256SUMS}, or a file of the image's name with
 * {@code .sha256} added, in the form the coreutils' sha256sum writes.
 */
public final class PublishedChecksum {
    /** How an image stands to its published checksum. */
    public enum State {
        AGREES,
        DIFFERS,
        NONE_KNOWN
    }

    private static final long LARGEST_LIST = 1L << 20;
    private static final Pattern LINE = Pattern.compile("([0-9a-fA-F]{64})(?:\\s+[ *]?(.*))?");

    private PublishedChecksum() {}

    /** The checksum published for this file, or empty when none lies beside it. */
    public static Optional<String> besides(Path image) throws IOException {
        String name = image.getFileName().toString();
        Optional<String> own = in(image.resolveSibling(name + ".sha256"), name, true);
        return own.isPresent() ? own : in(image.resolveSibling("SHA256SUMS"), name, false);
    }

    /** Reads the file through and compares. */
    public static State check(Path image) throws IOException {
        Optional<String> published = besides(image);
        if (published.isEmpty()) {
            return State.NONE_KNOWN;
        }
        return sha256(image).equals(published.get()) ? State.AGREES : State.DIFFERS;
    }

    public static String sha256(Path file) throws IOException {
        MessageDigest digest = newSha256();
        byte[] buffer = new byte[1 << 16];
        try (InputStream stream = Files.newInputStream(file)) {
            for (int got = stream.read(buffer); got >= 0; got = stream.read(buffer)) {
                digest.update(buffer, 0, got);
            }
        }
        return HexFormat.of().formatHex(digest.digest());
    }

    public static MessageDigest newSha256() {
        try {
            return MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java platform has SHA-256", e);
        }
    }

    private static Optional<String> in(Path list, String name, boolean nameMayLack) throws IOException {
        if (!Files.isRegularFile(list) || Files.size(list) > LARGEST_LIST) {
            return Optional.empty();
        }
        for (String line : Files.readString(list, java.nio.charset.StandardCharsets.ISO_8859_1)
                .split("\\R")) {
            Matcher match = LINE.matcher(line.trim());
            if (match.matches()) {
                String named = match.group(2);
                if (named == null ? nameMayLack : named.equals(name)) {
                    return Optional.of(match.group(1).toLowerCase(Locale.ROOT));
                }
            }
        }
        return Optional.empty();
    }
}
