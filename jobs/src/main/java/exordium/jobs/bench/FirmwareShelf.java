// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.block.Durable;
import exordium.core.block.FolderLock;
import exordium.core.finding.Sentence;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareBundle;
import exordium.core.firmware.FirmwareCatalogue;
import exordium.core.firmware.FirmwareRelease;
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

/** The workspace's {@code firmware} folder: bundles, releases written down by hand ({@code own.yaml}), and the keys of those who sign. */
public final class FirmwareShelf {
    private static final String OWN = "own.yaml";
    private static final String KEYS = "keys";

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
