// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonValue;
import exordium.core.board.BoardProfile;
import exordium.core.board.NamePattern;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.quantity.Coded;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A maker's files that write a board's firmware chip from a card, each with the part it plays. The writing program alone, or the chip's
 * image under its name, does nothing (common practice, no source).
 */
public record RecoverySet(List<Piece> files) {
    private static final Pattern HEX = Pattern.compile("\\b([0-9a-f]{64})\\b");
    private static final String IMAGE = "firmware.bin";
    private static final int SMALLEST_IMAGE = 64 << 10;
    /** What a chip's image is likely to be called, and what a program. */
    private static final Pattern IMAGES = Pattern.compile("eeprom|chip|image|firmware|\\.(img|rom|upd|fd)$");

    private static final Pattern PROGRAMS = Pattern.compile(".*\\.(bin|elf|efi|com)|.*(writ|flash|updat|program).*");
    private static final int LARGEST_SIGNATURE = 8 << 10;
    private static final List<String> SIGNATURES =
            List.of("*.sig", "*.sign", "*.signature", "*.asc", "*.p7s", "*.minisig");
    private static final List<String> SETTINGS = List.of("*.txt", "*.conf", "*.cfg", "*.ini");
    private static final List<String> PAPERS = List.of(
            "readme*",
            "license*",
            "licence*",
            "copying*",
            "changelog*",
            "*notes*",
            "*sums*",
            "*.sha256",
            "*.md",
            "*.html");

    /** What a file of it is for. */
    public enum Part implements Coded {
        WRITER,
        IMAGE,
        SIGNATURE,
        SETTINGS,
        OTHER;

        @JsonCreator
        public static Part of(String code) {
            return Coded.of(Part.class, code);
        }

        @JsonValue
        @Override
        public String code() {
            return Coded.super.code();
        }
    }

    /** One file, by the name it has on the card. */
    public record Piece(String file, Part part, byte[] content) {}

    public RecoverySet {
        files = List.copyOf(files);
    }

    /** Whether a card with these files has a family's chip written anew: the program, and an image beside it. */
    public static boolean writes(BoardProfile profile, Collection<String> names) {
        List<String> programs = profile.firmware().recovery().orElse(List.of());
        boolean writer = names.stream().anyMatch(name -> NamePattern.isLikeAny(name, programs));
        List<String> signatures = profile.firmware().chipSignature().orElse(List.of());
        boolean signed =
                signatures.isEmpty() || names.stream().anyMatch(name -> NamePattern.isLikeAny(name, signatures));
        return writer && signed && names.stream().anyMatch(name -> isImage(profile, name));
    }

    /** What the files of a card are called that has it written anew, where the maker's own names are not at hand. */
    public static List<String> names(BoardProfile profile) {
        List<String> names = new ArrayList<>();
        names.add(plain(profile.firmware().recovery().orElse(List.of("recovery.bin")), "recovery.bin"));
        names.add(plain(profile.firmware().chipImage().orElse(List.of(IMAGE)), IMAGE));
        profile.firmware().chipSignature().ifPresent(each -> names.add(plain(each, "firmware.sig")));
        return List.copyOf(names);
    }

    private static String plain(List<String> patterns, String usual) {
        String name = patterns.get(0).replace("*", "");
        return name.startsWith(".") ? usual : name;
    }

    /** By its name alone: the program that writes a chip. */
    static boolean isProgram(String path, BoardProfile profile) {
        String name = path.substring(path.lastIndexOf('/') + 1);
        return !NamePattern.isLikeAny(name, PAPERS)
                && !NamePattern.isLikeAny(name, SIGNATURES)
                && !NamePattern.isLikeAny(name, SETTINGS)
                && NamePattern.isLikeAny(name, profile.firmware().recovery().orElse(List.of("recovery*")));
    }

    /** By its name alone: of an image's kind, and neither the program, nor what a system starts with. */
    static boolean isImage(BoardProfile profile, String name) {
        BoardProfile.StartFiles start = profile.startFiles();
        return !name.contains("/")
                && NamePattern.isLikeAny(name, profile.firmware().chipImages())
                && !NamePattern.isLikeAny(name, profile.firmware().recovery().orElse(List.of()))
                && !NamePattern.isLikeAny(name, start.loaders())
                && !NamePattern.isLikeAny(name, List.copyOf(start.kernels().keySet()))
                && !NamePattern.isLike(name, start.kernelOfAny())
                && !NamePattern.isLike(name, "initramfs*");
    }

    /**
     * Files of one folder, each in its part: by the names its family gives, by what they are called, and by their size. The program is
     * the smaller of two that are otherwise alike.
     */
    public static RecoverySet of(Collection<Piece> found, Optional<BoardProfile> profile) {
        List<String> programs =
                profile.flatMap(each -> each.firmware().recovery()).orElse(List.of("recovery*"));
        List<Piece> left = new ArrayList<>(found);
        List<Piece> pieces = new ArrayList<>();
        for (Piece each : found) {
            Optional<Part> by = byName(each, programs);
            if (by.isPresent()) {
                pieces.add(new Piece(each.file(), by.get(), each.content()));
                left.remove(each);
            }
        }
        left.sort(Comparator.comparing(
                        (Piece each) -> !IMAGES.matcher(lower(each)).find())
                .thenComparing(each -> -each.content().length));
        List<String> kinds = profile.map(BoardProfile::firmware)
                .orElse(BoardProfile.Firmware.plain("chip", true))
                .chipImages();
        boolean image = false;
        boolean writer = pieces.stream().anyMatch(each -> each.part() == Part.WRITER);
        for (Piece each : left) {
            boolean kind = NamePattern.isLikeAny(each.file(), kinds);
            Part part = Part.OTHER;
            if (!image && (kind || each.content().length >= SMALLEST_IMAGE)) {
                part = Part.IMAGE;
                image = true;
            } else if (!writer && PROGRAMS.matcher(lower(each)).matches()) {
                part = Part.WRITER;
                writer = true;
            }
            pieces.add(new Piece(each.file(), part, each.content()));
        }
        pieces.sort(Comparator.comparing(Piece::part).thenComparing(Piece::file));
        return new RecoverySet(pieces);
    }

    private static String lower(Piece piece) {
        return piece.file().toLowerCase(Locale.ROOT);
    }

    private static Optional<Part> byName(Piece piece, List<String> programs) {
        String name = piece.file().toLowerCase(Locale.ROOT);
        if (NamePattern.isLikeAny(name, PAPERS)) {
            return Optional.of(Part.OTHER);
        }
        boolean signs = NamePattern.isLikeAny(name, SIGNATURES) && piece.content().length <= LARGEST_SIGNATURE;
        if (signs) {
            return Optional.of(Part.SIGNATURE);
        }
        if (NamePattern.isLikeAny(name, SETTINGS)) {
            return Optional.of(Part.SETTINGS);
        }
        return NamePattern.isLikeAny(piece.file(), programs) ? Optional.of(Part.WRITER) : Optional.empty();
    }

    public Optional<Piece> piece(Part part) {
        return files.stream().filter(each -> each.part() == part).findFirst();
    }

    /** Whether a card of it would do what it is for. */
    public boolean complete() {
        return findings().stream().noneMatch(Finding::stops);
    }

    /** What is missing of it, or is not what a digest in it says. */
    public List<Finding> findings() {
        List<Finding> findings = new ArrayList<>();
        missing(findings, Part.WRITER, "no program that writes the chip");
        missing(findings, Part.IMAGE, "no image of the chip");
        Optional<Piece> image = piece(Part.IMAGE);
        if (piece(Part.SIGNATURE).isEmpty() && image.isPresent()) {
            findings.add(Finding.note(
                            "recovery-unsigned",
                            "Nothing in the set signs " + image.get().file()
                                    + "; a board that asks for a signature makes nothing of it.",
                            Basis.practice())
                    .mendAt(Step.FIRMWARE));
        }
        for (Piece each : files) {
            if (each.part() == Part.SIGNATURE) {
                differing(each, findings);
            }
        }
        return List.copyOf(findings);
    }

    private void missing(List<Finding> findings, Part part, String words) {
        if (piece(part).isEmpty()) {
            findings.add(Finding.stop(
                            "recovery-set-incomplete",
                            "There is " + words + " in the set; a card made of it would do nothing.",
                            Basis.practice())
                    .mendAt(Step.FIRMWARE));
        }
    }

    /** A signature that names digests: one of them is the image's, or one beside a name is that file's. */
    private void differing(Piece signature, List<Finding> findings) {
        String text = new String(signature.content(), StandardCharsets.ISO_8859_1);
        Optional<Piece> image = piece(Part.IMAGE);
        boolean any = false;
        boolean fits = false;
        for (String line : text.split("\\R")) {
            Matcher hex = HEX.matcher(line.toLowerCase(Locale.ROOT));
            if (!hex.find()) {
                continue;
            }
            Optional<Piece> named = files.stream()
                    .filter(each -> each.part() != Part.SIGNATURE && line.contains(each.file()))
                    .findFirst();
            String told = hex.group(1);
            if (named.isPresent()
                    && !FirmwareBundle.sha256(named.get().content()).equals(told)) {
                findings.add(differs(signature, named.get()));
                return;
            }
            any = true;
            fits |= named.isPresent()
                    || image.filter(each ->
                                    FirmwareBundle.sha256(each.content()).equals(told))
                            .isPresent();
        }
        if (any && !fits && image.isPresent()) {
            findings.add(differs(signature, image.get()));
        }
    }

    private static Finding differs(Piece signature, Piece file) {
        return Finding.stop(
                        "recovery-digest-differs",
                        file.file() + " is not the one " + signature.file() + " was made for: its SHA-256 is "
                                + FirmwareBundle.sha256(file.content()) + ".",
                        Basis.computed("the files of the set"))
                .mendAt(Step.FIRMWARE);
    }

    /** One digest over all of it, by which a card is told to hold this very set. */
    public String digest() {
        StringBuilder all = new StringBuilder();
        files.stream().sorted(Comparator.comparing(Piece::file)).forEach(each -> all.append(each.file())
                .append(' ')
                .append(FirmwareBundle.sha256(each.content()))
                .append('\n'));
        return FirmwareBundle.sha256(all.toString().getBytes(StandardCharsets.UTF_8));
    }

    /** A digest in hex as bytes, for whoever names a disk after it. */
    static byte[] bytes(String hex) {
        return HexFormat.of().parseHex(hex);
    }
}
