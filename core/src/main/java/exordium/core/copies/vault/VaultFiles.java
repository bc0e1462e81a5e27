// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.vault;

import exordium.core.block.PrivateFiles;
import exordium.core.image.ChunkPacks;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/** The files of a vault. Its folder may be a drive of somebody's with other things on it: those are none. */
public final class VaultFiles {
    /** A copy as one compressed image. */
    public static final String IMAGE = ".img.zst";

    static final String PART = ".part";
    static final String CHECKSUM = ".sha256";
    /** As Linux says it; a platform that says it otherwise is told in its own words. */
    private static final List<String> FULL = List.of("No space left", "quota exceeded");

    private VaultFiles() {}

    /** The copies that are lists of chunks, sorted. */
    public static List<Path> lists(Path vault) throws IOException {
        List<Path> lists = new ArrayList<>();
        for (Path file : ofBoards(vault)) {
            if (file.toString().endsWith(VaultRun.SUFFIX)) {
                lists.add(file);
            }
        }
        lists.sort(null);
        return lists;
    }

    /** What was being made and has no name yet. */
    static List<Path> parts(Path vault) throws IOException {
        List<Path> parts = new ArrayList<>();
        for (Path file : all(vault)) {
            if (file.toString().endsWith(PART)) {
                parts.add(file);
            }
        }
        return parts;
    }

    /** What stands under its own name. */
    public static List<Path> whole(Path vault) throws IOException {
        return all(vault).stream()
                .filter(file -> !file.toString().endsWith(PART))
                .toList();
    }

    /** Whether there is a vault: one that was never used is none, and so is the folder of a share that is not mounted. */
    public static boolean isThere(Path vault) throws IOException {
        return Files.isDirectory(vault.resolve(ChunkPacks.FOLDER))
                || !whole(vault).isEmpty();
    }

    /** What went wrong while something was put into a vault; where its disk is full or away, that, and what helps. */
    public static IOException said(Path vault, IOException failure) throws IOException {
        if (failure instanceof NoSuchFileException && !isThere(vault)) {
            return new IOException(
                    "The vault went away while the copy was being made: " + vault
                            + " has nothing of it. The copy was not"
                            + " kept; see whether its drive or share is mounted.",
                    failure);
        }
        String words = String.valueOf(failure.getMessage());
        boolean full = FULL.stream().anyMatch(words::contains);
        if (!full || !Files.isDirectory(vault)) {
            return failure;
        }
        ByteSize free = ByteSize.of(Files.getFileStore(vault).getUsableSpace());
        return new IOException(
                "The vault's disk is full: the copy does not fit beside what is in " + vault + ", where " + free.said()
                        + " are free. It was not kept; take copies out, or have the vault lie elsewhere.",
                failure);
    }

    /** What earlier versions made may be read by everybody; what else lies in the folder is left as it is. */
    public static void makePrivate(Path vault) throws IOException {
        Path packs = vault.resolve(ChunkPacks.FOLDER);
        if (!Files.isDirectory(packs) || PrivateFiles.isClosed(packs)) {
            return;
        }
        for (Path file : all(vault)) {
            PrivateFiles.all(file, Set.of());
            if (!file.getParent().equals(vault)) {
                PrivateFiles.folder(file.getParent());
            }
        }
        PrivateFiles.folder(packs);
    }

    /** What they take. */
    public static ByteSize room(Path vault) throws IOException {
        long bytes = 0;
        for (Path file : all(vault)) {
            bytes += size(file);
        }
        return ByteSize.of(bytes);
    }

    private static long size(Path file) throws IOException {
        try {
            return Files.size(file);
        } catch (NoSuchFileException e) {
            // Somebody took it out since the folder was looked through.
            return 0;
        }
    }

    private static List<Path> all(Path vault) throws IOException {
        List<Path> all = new ArrayList<>(ofBoards(vault));
        for (Path file : in(vault.resolve(ChunkPacks.FOLDER))) {
            if (!isOfCopy(file)) {
                all.add(file);
            }
        }
        for (Path file : in(vault)) {
            if (String.valueOf(file.getFileName()).startsWith(VaultScript.NAME)) {
                all.add(file);
            }
        }
        return all;
    }

    private static List<Path> ofBoards(Path vault) throws IOException {
        List<Path> files = new ArrayList<>();
        if (!Files.isDirectory(vault)) {
            return files;
        }
        List<Path> folders = new ArrayList<>();
        try (DirectoryStream<Path> all = Files.newDirectoryStream(vault, Files::isDirectory)) {
            all.forEach(folders::add);
        }
        for (Path folder : folders) {
            String name = String.valueOf(folder.getFileName());
            // What a file system and a desktop put at the top of a drive may not even be looked into. A board may be
            // called "packs".
            if (!name.startsWith(".") && !name.equals("lost+found")) {
                in(folder).stream().filter(VaultFiles::isOfCopy).forEach(files::add);
            }
        }
        return files;
    }

    /** Whether it is a copy, finished or not, or what stands beside one. */
    static boolean isOfCopy(Path file) {
        String name = String.valueOf(file.getFileName());
        if (name.endsWith(PART)) {
            name = name.substring(0, name.length() - PART.length());
        }
        return name.endsWith(VaultRun.SUFFIX) || name.endsWith(IMAGE) || name.endsWith(IMAGE + CHECKSUM);
    }

    private static List<Path> in(Path folder) throws IOException {
        List<Path> files = new ArrayList<>();
        if (Files.isDirectory(folder)) {
            try (DirectoryStream<Path> all = Files.newDirectoryStream(folder, Files::isRegularFile)) {
                all.forEach(files::add);
            }
        }
        return files;
    }
}
