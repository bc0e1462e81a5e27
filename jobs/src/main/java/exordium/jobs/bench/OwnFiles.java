// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.block.FileIdentity;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.store.Workspace;
import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * The program's own files: register, vault, shelf, journals, reports, boards, profiles. None of them is ever a target, by
 * whatever name it is reached; drives of the drawer are. Any folder with a register in it counts, not only the open one.
 */
public final class OwnFiles {
    private static final List<String> FOLDERS =
            List.of("images", "vault", "writes", "deeds", "reports", "boards", "profiles", "files", "firmware");
    private static final Basis BASIS = Basis.computed("the workspace folder");

    private final Path workspace;

    OwnFiles(Path workspace) {
        this.workspace = workspace.toAbsolutePath().normalize();
    }

    /** The refusal of a target that is one of them; same: everything whose bytes are the target's. */
    Optional<Finding> refusal(Path target, Set<FileIdentity> same) throws IOException {
        Path real = real(target);
        Optional<Path> byPlace = within(real);
        if (byPlace.isPresent()) {
            return Optional.of(refused(target, byPlace.get()));
        }
        Path house = real(workspace);
        if (!Files.isDirectory(house) || same.isEmpty() || hasOneName(real, same)) {
            return Optional.empty();
        }
        Found found = new Found(house, same);
        Files.walkFileTree(house, found);
        return found.file.map(file -> refused(target, file));
    }

    private static Finding refused(Path target, Path own) {
        return Finding.stop(
                "target-is-own",
                target.getFileName() + " is one of this program's own files (" + own + "); it is never written over.",
                BASIS);
    }

    /** Nothing else is the same thing, so its place has told all there is to tell. */
    private static boolean hasOneName(Path real, Set<FileIdentity> same) throws IOException {
        return same.size() == 1
                && Files.isRegularFile(real)
                && real.getFileSystem().supportedFileAttributeViews().contains("unix")
                && Files.getAttribute(real, "unix:nlink").equals(1);
    }

    /** A link leads to what it names; of what is not there yet, the folder counts. */
    private static Path real(Path path) throws IOException {
        Path absolute = path.toAbsolutePath().normalize();
        if (Files.exists(absolute)) {
            return absolute.toRealPath();
        }
        Path folder = absolute.getParent();
        return folder != null && Files.exists(folder) ? folder.toRealPath().resolve(absolute.getFileName()) : absolute;
    }

    /** The path within a workspace, where it is one of its own files there. */
    private static Optional<Path> within(Path real) {
        for (Path folder = real.getParent(); folder != null; folder = folder.getParent()) {
            if (Workspace.isOne(folder)) {
                Path inside = folder.relativize(real);
                if (isOwn(inside)) {
                    return Optional.of(inside);
                }
            }
        }
        return Optional.empty();
    }

    private static boolean isOwn(Path inside) {
        String first = inside.getName(0).toString();
        boolean register = inside.getNameCount() == 1 && first.startsWith("exordium.");
        return register || (inside.getNameCount() > 1 && FOLDERS.contains(first)) || isDescription(inside);
    }

    private static boolean isDescription(Path inside) {
        return inside.getName(0).toString().equals("drives")
                && inside.toString().endsWith(".yaml");
    }

    private static final class Found extends SimpleFileVisitor<Path> {
        private final Path house;
        private final Set<FileIdentity> same;
        private Optional<Path> file = Optional.empty();

        Found(Path house, Set<FileIdentity> same) {
            this.house = house;
            this.same = same;
        }

        @Override
        public FileVisitResult visitFile(Path each, BasicFileAttributes attributes) throws IOException {
            Path inside = house.relativize(each);
            if (attributes.isRegularFile() && isOwn(inside) && same.contains(FileIdentity.of(each))) {
                file = Optional.of(inside);
                return FileVisitResult.TERMINATE;
            }
            return FileVisitResult.CONTINUE;
        }

        @Override
        public FileVisitResult visitFileFailed(Path each, IOException failure) {
            return FileVisitResult.CONTINUE;
        }
    }
}
