// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import exordium.core.block.MediumAt;
import exordium.core.block.TransferWatch;
import exordium.core.finding.OverBound;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The checksum published beside an image, or pasted: a line in a list such as {@code SHA256SUMS}, or a file of the image's
 * name with the kind added, in the form the coreutils' tools write. The kind follows from the length: MD5 (RFC 1321), SHA-1,
 * SHA-256 and SHA-512 (FIPS 180-4).
 */
public final class PublishedChecksum {
    /** How an image stands to its published checksum. */
    public enum State {
        AGREES,
        DIFFERS,
        NONE_KNOWN
    }

    /** A list of some ten million files. */
    private static final long LARGEST_LIST = 1L << 30;

    private static final int LONGEST_LINE = 1 << 14;
    private static final String BYTE_ORDER_MARK = "\uFEFF";
    private static final Pattern TAGGED = Pattern.compile("[A-Z0-9-]{3,10} \\((.*)\\) = ([0-9a-fA-F]{32,128})");
    private static final Pattern LINE = Pattern.compile("([0-9a-fA-F]{32,128})(?:\\s+[ *]?(.*))?");

    /** The kinds told apart by how many hex digits they have; the strongest first. */
    private enum SumKind {
        SHA512("SHA-512", 128),
        SHA256("SHA-256", 64),
        SHA1("SHA-1", 40),
        MD5("MD5", 32);

        private final String algorithm;
        private final int digits;

        SumKind(String algorithm, int digits) {
            this.algorithm = algorithm;
            this.digits = digits;
        }

        static Optional<SumKind> of(String hex) {
            return Arrays.stream(values())
                    .filter(kind -> kind.digits == hex.length())
                    .findFirst();
        }
    }

    private PublishedChecksum() {}

    /** The checksum published for this file, the strongest there is, or empty when none lies beside it. */
    public static Optional<String> besides(Path image) throws IOException {
        String name = image.getFileName().toString();
        for (SumKind kind : SumKind.values()) {
            String suffix = kind.name().toLowerCase(Locale.ROOT);
            Optional<String> own = in(image.resolveSibling(name + "." + suffix), name, true, kind);
            if (own.isEmpty()) {
                own = in(image.resolveSibling(kind.name() + "SUMS"), name, false, kind);
            }
            if (own.isPresent()) {
                return own;
            }
        }
        return Optional.empty();
    }

    /** What a file beside an image is called that holds this checksum, such as {@code .sha256}. */
    public static String suffix(String hex) {
        return "." + SumKind.of(hex).orElseThrow().name().toLowerCase(Locale.ROOT);
    }

    /** Reads the file through and compares. */
    public static State check(Path image) throws IOException {
        Optional<String> published = besides(image);
        return published.isEmpty() ? State.NONE_KNOWN : check(image, published.get());
    }

    /**
     * The same against a checksum that was pasted: hex alone, or a whole line with the name behind it.
     *
     * @throws UnreadableInput when it is no checksum of a known length
     */
    public static State check(Path image, String pasted) throws IOException {
        String wanted = hex(pasted);
        String found = digest(image, SumKind.of(wanted).orElseThrow().algorithm, TransferWatch.NONE);
        return found.equals(wanted) ? State.AGREES : State.DIFFERS;
    }

    /**
     * The checksum alone, in small letters, out of what was pasted.
     *
     * @throws UnreadableInput when it is none of a known length
     */
    public static String hex(String pasted) throws UnreadableInput {
        Matcher match = LINE.matcher(pasted.strip());
        if (!match.matches() || SumKind.of(match.group(1)).isEmpty()) {
            throw new UnreadableInput("\"" + pasted.strip()
                    + "\" is no checksum: MD5 has 32 hex digits, SHA-1 40, SHA-256 64," + " SHA-512 128.");
        }
        return match.group(1).toLowerCase(Locale.ROOT);
    }

    public static String sha256(Path file) throws IOException {
        return sha256(file, TransferWatch.NONE);
    }

    /** The same of a file that may be large. */
    public static String sha256(Path file, TransferWatch watch) throws IOException {
        return digest(file, "SHA-256", watch);
    }

    private static String digest(Path file, String algorithm, TransferWatch watch) throws IOException {
        MessageDigest digest = newDigest(algorithm);
        byte[] buffer = new byte[1 << 16];
        long at = 0;
        try (InputStream stream = MediumAt.stream(file)) {
            long total = Files.size(file);
            long started = System.nanoTime();
            for (int got = stream.read(buffer); got >= 0; got = stream.read(buffer)) {
                watch.goOnOrStop();
                digest.update(buffer, 0, got);
                long now = System.nanoTime();
                watch.moved(TransferWatch.Phase.COMPARING, at, got, now - started, total);
                started = now;
                at += got;
            }
        }
        return HexFormat.of().formatHex(digest.digest());
    }

    public static MessageDigest newSha256() {
        return newDigest("SHA-256");
    }

    private static MessageDigest newDigest(String algorithm) {
        try {
            return MessageDigest.getInstance(algorithm);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java platform has " + algorithm, e);
        }
    }

    private static Optional<String> in(Path list, String name, boolean own, SumKind kind) throws IOException {
        if (!Files.isRegularFile(list)) {
            return Optional.empty();
        }
        if (Files.size(list) > LARGEST_LIST) {
            throw new OverBound(
                    list.getFileName() + " has " + ByteSize.of(Files.size(list)).said()
                            + "; a list of checksums of more than "
                            + ByteSize.of(LARGEST_LIST).said() + " is not looked through.",
                    LARGEST_LIST);
        }
        try (BoundedLines lines = new BoundedLines(list, LONGEST_LINE)) {
            Optional<Line> only = Optional.empty();
            long count = 0;
            for (Optional<String> line = lines.next(); line.isPresent(); line = lines.next()) {
                Optional<Line> read =
                        Line.of(line.get()).filter(each -> each.hex().length() == kind.digits);
                if (read.filter(each -> each.isOf(name)).isPresent()) {
                    return read.map(Line::hex);
                }
                count += read.isPresent() ? 1 : 0;
                only = only.or(() -> read);
            }
            // Beside the image and of its name, the one line there is means it, whatever it was called where it was
            // made.
            return own && count == 1 ? only.map(Line::hex) : Optional.empty();
        }
    }

    /** A line of a list, in one of the two forms that the coreutils' tools write; name: empty where it has none. */
    private record Line(String hex, String name) {
        static Optional<Line> of(String text) {
            String bare = text.replace(BYTE_ORDER_MARK, "").trim();
            Matcher plain = LINE.matcher(bare);
            if (plain.matches()) {
                String name = plain.group(2) == null ? "" : plain.group(2);
                return Optional.of(new Line(plain.group(1).toLowerCase(Locale.ROOT), name));
            }
            Matcher tagged = TAGGED.matcher(bare);
            return tagged.matches()
                    ? Optional.of(new Line(tagged.group(2).toLowerCase(Locale.ROOT), tagged.group(1)))
                    : Optional.empty();
        }

        /** Whatever folder stands before the name. */
        boolean isOf(String file) {
            return name.substring(Math.max(name.lastIndexOf('/'), name.lastIndexOf('\\')) + 1)
                    .equals(file);
        }
    }
}
