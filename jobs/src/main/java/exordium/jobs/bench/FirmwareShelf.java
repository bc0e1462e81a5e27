// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.block.Durable;
import exordium.core.block.FolderLock;
import exordium.core.finding.Sentence;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareBundle;
import exordium.core.firmware.FirmwareCatalogue;
import exordium.core.firmware.FirmwareRelease;
import exordium.core.firmware.RecoverySet;
import exordium.core.profile.InputFile;
import exordium.core.profile.ProfileReader;
import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.security.PublicKey;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.commons.codec.digest.DigestUtils;

/** The workspace's {@code firmware} folder: bundles, releases written down by hand ({@code own.yaml}), and the keys of those who sign. */
public final class FirmwareShelf {
    private static final String OWN = "own.yaml";
    private static final String KEYS = "keys";
    private static final String SETS = "recovery";
    private static final String SET_FILE = "set.yaml";
    private static final int LARGEST_PIECE = 32 << 20;

    private final Path folder;
    private final ProfileReader reader;

    public FirmwareShelf(Path folder, ProfileReader reader) {
        this.folder = folder;
        this.reader = reader;
    }

    /** A bundle on the shelf, and who made it as far as the shelf's keys tell. */
    public record Shelved(Path file, FirmwareBundle bundle, FirmwareBundle.Signed signed) {}

    /** All that can be read; what is wrong with the others goes to the list. */
    public List<Shelved> bundles(List<String> unreadable) throws IOException {
        List<Shelved> found = new ArrayList<>();
        List<PublicKey> keys = keys(unreadable);
        for (Path file : files(folder, "*.zip")) {
            try {
                FirmwareBundle bundle = FirmwareBundle.read(file, reader);
                found.add(new Shelved(file, bundle, bundle.signed(keys)));
            } catch (UnreadableInput e) {
                unreadable.add(Sentence.of(e));
            }
        }
        return found;
    }

    public List<PublicKey> keys(List<String> unreadable) throws IOException {
        List<PublicKey> keys = new ArrayList<>();
        for (Path file : files(folder.resolve(KEYS), "*.pem")) {
            try {
                keys.add(FirmwareBundle.key(file));
            } catch (UnreadableInput e) {
                unreadable.add(Sentence.of(e));
            }
        }
        return keys;
    }

    private static List<Path> files(Path folder, String pattern) throws IOException {
        List<Path> found = new ArrayList<>();
        if (Files.isDirectory(folder)) {
            try (DirectoryStream<Path> files = Files.newDirectoryStream(folder, pattern)) {
                files.forEach(found::add);
            }
        }
        found.sort(Comparator.naturalOrder());
        return found;
    }

    /** The shipped releases with those of the shelf. */
    public FirmwareCatalogue catalogue(List<String> unreadable) throws IOException {
        FirmwareCatalogue shipped = FirmwareCatalogue.shipped();
        List<FirmwareRelease> more = new ArrayList<>();
        try {
            more.addAll(own());
        } catch (UnreadableInput e) {
            unreadable.add(Sentence.of(e));
        }
        for (Shelved each : bundles(unreadable)) {
            try {
                // Signed by somebody else, or changed since: it is on the shelf, but nothing is taken from it.
                if (each.signed() != FirmwareBundle.Signed.WRONG) {
                    more.add(each.bundle()
                            .manifest()
                            .release(shipped.channel(each.bundle().manifest().channel())));
                }
            } catch (UnreadableInput e) {
                unreadable.add(each.file().getFileName() + ": " + Sentence.of(e));
            }
        }
        return shipped.with(more);
    }

    private List<FirmwareRelease> own() throws IOException {
        Path file = folder.resolve(OWN);
        return Files.exists(file)
                ? reader.user(file, FirmwareCatalogue.SCHEMA, FirmwareCatalogue.class)
                        .releases()
                : List.of();
    }

    /** Writes a release down that has no bundle; one of the same date and families is replaced. */
    public Path add(FirmwareRelease release) throws IOException {
        Files.createDirectories(folder);
        return FolderLock.holding(folder, () -> {
            List<FirmwareRelease> releases = new ArrayList<>(own());
            releases.removeIf(each ->
                    each.version().equals(release.version()) && each.boards().equals(release.boards()));
            releases.add(release);
            Durable.replace(folder.resolve(OWN), reader.writeForPeople(new FirmwareCatalogue(Map.of(), releases)));
            return folder.resolve(OWN);
        });
    }

    /**
     * A maker's recovery set on the shelf.
     *
     * @param from what it was taken from
     */
    public record ShelvedSet(String profile, LocalDate version, String from, RecoverySet set) {}

    /** What is written beside the files of a set. */
    private record SetFile(String from, List<SetPiece> files) {}

    private record SetPiece(String file, RecoverySet.Part part, String sha256) {}

    /** Puts a set onto the shelf, in the place of one of the same family and release. */
    public Path putSet(String profile, LocalDate version, String from, RecoverySet set) throws IOException {
        Path place = folder.resolve(SETS).resolve(profile).resolve(version.toString());
        Files.createDirectories(folder);
        return FolderLock.holding(folder, () -> {
            if (Files.isDirectory(place)) {
                Folders.delete(place);
            }
            Files.createDirectories(place);
            List<SetPiece> pieces = new ArrayList<>();
            for (RecoverySet.Piece each : set.files()) {
                Durable.replace(place.resolve(each.file()), each.content());
                pieces.add(new SetPiece(each.file(), each.part(), DigestUtils.sha256Hex(each.content())));
            }
            // Written last: a set without it is none.
            Durable.replace(place.resolve(SET_FILE), reader.writeForPeople(new SetFile(from, pieces)));
            return place;
        });
    }

    /** The sets for a family, oldest first; one that is not whole any more is named, and left out. */
    public List<ShelvedSet> sets(String profile, List<String> unreadable) throws IOException {
        List<ShelvedSet> found = new ArrayList<>();
        for (Path place : files(folder.resolve(SETS).resolve(profile), "*")) {
            String name = String.valueOf(place.getFileName());
            if (!name.matches("\\d{4}-\\d{2}-\\d{2}") || !Files.isRegularFile(place.resolve(SET_FILE))) {
                continue;
            }
            try {
                found.add(set(profile, LocalDate.parse(name), place));
            } catch (UnreadableInput e) {
                unreadable.add(Sentence.of(e));
            }
        }
        return List.copyOf(found);
    }

    /** The releases there are sets of, by the names of their folders; whether each is whole still is told by {@link #sets}. */
    public List<LocalDate> setDates(String profile) throws IOException {
        return files(folder.resolve(SETS).resolve(profile), "*").stream()
                .filter(place -> Files.isRegularFile(place.resolve(SET_FILE)))
                .map(place -> String.valueOf(place.getFileName()))
                .filter(name -> name.matches("\\d{4}-\\d{2}-\\d{2}"))
                .map(LocalDate::parse)
                .toList();
    }

    private ShelvedSet set(String profile, LocalDate version, Path place) throws IOException {
        SetFile told = reader.own(place.resolve(SET_FILE), SetFile.class);
        List<RecoverySet.Piece> pieces = new ArrayList<>();
        for (SetPiece each : told.files()) {
            if (each.file().contains("/") || each.file().startsWith(".")) {
                throw new UnreadableInput("The recovery set " + place + " names a file outside of it.");
            }
            byte[] content = InputFile.read(place.resolve(each.file()), LARGEST_PIECE);
            if (!DigestUtils.sha256Hex(content).equals(each.sha256())) {
                throw new UnreadableInput(each.file() + " of the recovery set of " + version
                        + " is not as it was taken: its SHA-256 differs. Take the set onto the shelf again.");
            }
            pieces.add(new RecoverySet.Piece(each.file(), each.part(), content));
        }
        return new ShelvedSet(profile, version, told.from(), new RecoverySet(pieces));
    }

    /** Copies a bundle that was read onto the shelf; the same one again is no second one. */
    public Path put(FirmwareBundle bundle) throws IOException {
        Files.createDirectories(folder);
        FirmwareBundle.Manifest manifest = bundle.manifest();
        Path file = folder.resolve(manifest.version() + "_"
                + String.join("_", manifest.boards()).replaceAll("[^A-Za-z0-9._-]", "-") + ".zip");
        return FolderLock.holding(folder, () -> {
            Durable.replace(file, bundle.bytes());
            return file;
        });
    }

    public Path putKey(Path pem) throws IOException {
        FirmwareBundle.key(pem);
        Path keys = Files.createDirectories(folder.resolve(KEYS));
        String name = String.valueOf(pem.getFileName()).replaceFirst("(\\.pem)?$", ".pem");
        return Files.copy(pem, keys.resolve(name), StandardCopyOption.REPLACE_EXISTING);
    }

    /** The bundle of a release for a family, where there is one that nobody has tampered with. */
    public Optional<FirmwareBundle> bundle(String profile, LocalDate version) throws IOException {
        return bundles(new ArrayList<>()).stream()
                .filter(each -> each.signed() != FirmwareBundle.Signed.WRONG)
                .map(Shelved::bundle)
                .filter(each -> each.manifest().version().equals(version)
                        && each.manifest().boards().contains(profile))
                .findFirst();
    }
}
