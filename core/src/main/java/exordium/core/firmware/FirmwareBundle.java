// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import exordium.core.board.StartSource;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.OverBound;
import exordium.core.finding.UnreadableInput;
import exordium.core.profile.InputFile;
import exordium.core.profile.ProfileReader;
import exordium.core.profile.Signatures;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.security.PrivateKey;
import java.security.PublicKey;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;

/**
 * A release as one file (docs/formats/firmware.md): a zip with {@code manifest.json}, the payload it names, and where somebody signed
 * it {@code manifest.sig}, an Ed25519 signature (RFC 8032) of the manifest's bytes. The manifest holds the payload's SHA-256, so the
 * signature covers both.
 *
 * @param manifestBytes as they stand in the file
 */
public record FirmwareBundle(Manifest manifest, byte[] manifestBytes, byte[] payload, Optional<byte[]> signature) {
    public static final String SCHEMA = "/exordium/profiles/firmware-bundle.schema.json";
    public static final String FORMAT = "exordium-firmware-1";
    /** More fits no chip of these boards. */
    public static final int LARGEST_PAYLOAD = 8 << 20;

    private static final String MANIFEST = "manifest.json";
    private static final String SIGNATURE = "manifest.sig";
    private static final int LARGEST_MANIFEST = 64 << 10;
    private static final int SIGNATURE_BYTES = 64;
    private static final int MOST_ENTRIES = 8;

    /** What the bundle says of itself; channel as its publisher calls it. */
    public record Manifest(
            String format,
            List<String> boards,
            LocalDate version,
            String channel,
            String notes,
            Optional<List<StartSource>> enables,
            Optional<List<FirmwareRelease.Mend>> mends,
            Optional<LocalDate> needs,
            Payload payload) {
        public FirmwareRelease release(Channel known) {
            return new FirmwareRelease(boards, version, known, notes, enables, mends, needs);
        }
    }

    /** The payload's name in the bundle, its length and its SHA-256 in hex. */
    public record Payload(String file, int bytes, String sha256) {}

    /** What is known of who made it. */
    public enum Signed {
        /** Nobody signed it. */
        NO,
        /** Somebody did, and no key is at hand to check it with. */
        UNCHECKED,
        /** By the owner of the key. */
        YES,
        /** Not by the owner of the key, or changed since. */
        WRONG
    }

    /** Puts one together. */
    public static FirmwareBundle of(FirmwareRelease release, byte[] payload, Optional<PrivateKey> key) {
        Manifest manifest = new Manifest(
                FORMAT,
                release.boards(),
                release.version(),
                release.channel().code(),
                release.notes(),
                release.enables(),
                release.mends(),
                release.needs(),
                new Payload("firmware.bin", payload.length, sha256(payload)));
        byte[] bytes = new ProfileReader().json(manifest).getBytes(StandardCharsets.UTF_8);
        return new FirmwareBundle(manifest, bytes, payload, key.map(each -> Signatures.sign(bytes, each)));
    }

    /**
     * Reads one and checks that it is whole; who signed it is {@link #signed}'s matter.
     *
     * @throws UnreadableInput when it is no bundle, a part of it is missing or too large, or the payload is not what the manifest says
     */
    public static FirmwareBundle read(Path file, ProfileReader reader) throws IOException {
        String name = String.valueOf(file.getFileName());
        if (!Files.isRegularFile(file)) {
            throw new UnreadableInput("There is no file " + file + ".");
        }
        Map<String, byte[]> parts = new LinkedHashMap<>();
        try (ZipInputStream zip = new ZipInputStream(Files.newInputStream(file))) {
            for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
                if (parts.size() == MOST_ENTRIES) {
                    throw new OverBound(
                            name + " holds more than " + MOST_ENTRIES + " files; no bundle does.", MOST_ENTRIES);
                }
                if (parts.put(entry.getName(), bounded(zip, name, entry.getName())) != null) {
                    throw new UnreadableInput(name + " holds " + entry.getName() + " twice.");
                }
            }
        } catch (ZipException | java.io.EOFException e) {
            throw new UnreadableInput(name + " is a broken zip file: " + e.getMessage() + ".", e);
        } catch (IllegalArgumentException e) {
            throw new UnreadableInput(name + " holds a file whose name cannot be read.", e);
        }
        if (parts.isEmpty()) {
            throw new UnreadableInput(name + " is no zip file with a firmware release in it.");
        }
        byte[] told = parts.get(MANIFEST);
        if (told == null) {
            throw new UnreadableInput(name + " holds no " + MANIFEST + ", so it is no firmware release.");
        }
        Manifest manifest = reader.user(name + ", " + MANIFEST, told, SCHEMA, Manifest.class);
        byte[] payload = parts.get(manifest.payload().file());
        if (payload == null || manifest.payload().file().equals(MANIFEST)) {
            throw new UnreadableInput(
                    name + " does not hold " + manifest.payload().file() + ", its payload.");
        }
        if (payload.length != manifest.payload().bytes()) {
            throw new UnreadableInput("The payload of " + name + " has " + payload.length
                    + " bytes, and its manifest says " + manifest.payload().bytes() + ".");
        }
        if (!sha256(payload).equals(manifest.payload().sha256())) {
            throw new UnreadableInput(
                    "The payload of " + name + " is not the one its manifest was made for: the SHA-256 differs.");
        }
        Optional<byte[]> signature = Optional.ofNullable(parts.get(SIGNATURE));
        if (signature.filter(each -> each.length != SIGNATURE_BYTES).isPresent()) {
            throw new UnreadableInput("The signature in " + name + " has " + signature.get().length
                    + " bytes; one by Ed25519 has " + SIGNATURE_BYTES + ".");
        }
        return new FirmwareBundle(manifest, told, payload, signature);
    }

    private static byte[] bounded(InputStream in, String bundle, String part) throws IOException {
        int most = part.equals(MANIFEST) ? LARGEST_MANIFEST : LARGEST_PAYLOAD;
        byte[] bytes = in.readNBytes(most + 1);
        if (bytes.length > most) {
            throw new OverBound(part + " in " + bundle + " is larger than " + most + " bytes.", most);
        }
        return bytes;
    }

    /** Who made it, as far as these keys tell. */
    public Signed signed(List<PublicKey> keys) {
        if (signature.isEmpty()) {
            return Signed.NO;
        }
        if (keys.isEmpty()) {
            return Signed.UNCHECKED;
        }
        return keys.stream().anyMatch(this::isBy) ? Signed.YES : Signed.WRONG;
    }

    /** What is to be said of it. Where virtual: on a board whose chip is played here. */
    public List<Finding> findings(Signed signed, boolean virtual) {
        List<Finding> findings = new ArrayList<>();
        LocalDate version = manifest.version();
        if (virtual && payload.length > FlashChip.ROOM) {
            findings.add(Finding.stop(
                    "release-too-large",
                    "Release " + version + " has " + payload.length + " bytes; the chip's slot has room for "
                            + FlashChip.ROOM + ".",
                    Basis.computed("the bundle")));
        }
        Basis basis = Basis.standard("RFC 8032, Ed25519");
        findings.add(
                switch (signed) {
                    case YES ->
                        Finding.note(
                                "bundle-signed", "The bundle of " + version + " is signed by a key you trust.", basis);
                    case NO -> Finding.note("bundle-unsigned", "Nobody signed the bundle of " + version + ".", basis);
                    case UNCHECKED ->
                        Finding.note(
                                "bundle-unchecked",
                                "The bundle of " + version + " is signed, and no key is here to check it with.",
                                basis);
                    case WRONG ->
                        Finding.stop(
                                "bundle-signature",
                                "The signature of the bundle of " + version
                                        + " is by none of the keys you trust, or it was changed since.",
                                basis);
                });
        return findings;
    }

    private boolean isBy(PublicKey key) {
        return Signatures.isBy(manifestBytes, signature.orElseThrow(), key);
    }

    /**
     * A public key as general tools write it: PEM, "BEGIN PUBLIC KEY" (RFC 8410).
     *
     * @throws UnreadableInput when it is none for Ed25519
     */
    public static PublicKey key(Path file) throws IOException {
        byte[] read = InputFile.read(file, LARGEST_MANIFEST);
        try {
            String text = new String(read, StandardCharsets.ISO_8859_1).replaceAll("-----[A-Z ]+-----", "");
            byte[] coded = Base64.getMimeDecoder().decode(text);
            return Signatures.publicKey(coded);
        } catch (GeneralSecurityException | IllegalArgumentException e) {
            throw new UnreadableInput(file.getFileName() + " holds no public key for Ed25519 in PEM.", e);
        }
    }

    /** The file; the same bundle gives the same bytes. */
    public byte[] bytes() throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            put(zip, MANIFEST, manifestBytes);
            put(zip, manifest.payload().file(), payload);
            if (signature.isPresent()) {
                put(zip, SIGNATURE, signature.get());
            }
        }
        return out.toByteArray();
    }

    private static void put(ZipOutputStream zip, String name, byte[] content) throws IOException {
        ZipEntry entry = new ZipEntry(name);
        entry.setTime(0);
        zip.putNextEntry(entry);
        zip.write(content);
        zip.closeEntry();
    }

    static String sha256(byte[] bytes) {
        try {
            return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(bytes));
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException(e);
        }
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof FirmwareBundle bundle
                && Arrays.equals(bundle.manifestBytes, manifestBytes)
                && Arrays.equals(bundle.payload, payload);
    }

    @Override
    public int hashCode() {
        return Arrays.hashCode(manifestBytes);
    }
}
