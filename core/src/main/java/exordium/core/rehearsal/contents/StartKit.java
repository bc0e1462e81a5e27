// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.contents;

import exordium.core.block.BlockDevice;
import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.kernelline.KernelLine;
import exordium.core.firststart.lint.TriedPasswords;
import exordium.core.inspection.PartitionContent;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * What an image or a drive brings along for a start, whatever board it goes in.
 *
 * @param boards families whose start files and kernels are on it
 * @param kernel version of the newest kernel whose modules its root holds
 * @param width bits of its system
 * @param remoteLogin whether somebody gets in without a monitor
 * @param account whether anybody has a password on it yet; else the first start asks for one
 * @param openLogins accounts that everybody knows how to get into
 */
public record StartKit(
        List<String> boards,
        Optional<String> kernelLine,
        Optional<String> root,
        Optional<String> kernel,
        Optional<Integer> width,
        boolean remoteLogin,
        boolean account,
        List<String> openLogins) {
    private static final List<String> MODULES = List.of("/lib/modules", "/usr/lib/modules");

    /** Where tried: passwords that everybody tries first. */
    public static StartKit of(BlockDevice device, Collection<BoardProfile> profiles, TriedPasswords tried)
            throws IOException {
        List<String> boards = new ArrayList<>();
        Optional<String> line = Optional.empty();
        Optional<String> root = Optional.empty();
        Optional<Integer> width = Optional.empty();
        boolean login = false;
        boolean made = false;
        for (BoardProfile profile : profiles) {
            MediumContents contents = ContentsReader.read(device, profile.startFiles());
            List<String> loaders = profile.startFiles().loaders();
            boolean loads = contents.start()
                    .filter(partition -> loaders.isEmpty() || loaders.stream().anyMatch(partition::has))
                    .isPresent();
            boolean starts = loads && contents.hasKernelFor(profile);
            if (starts) {
                boards.add(profile.id());
            }
            login |= contents.start()
                            .filter(MediumContents.StartPartition::remoteLogin)
                            .isPresent()
                    || contents.roots().values().stream().anyMatch(MediumContents.RootFiles::remoteLogin);
            // One that the start partition has made at the first start.
            made |= contents.start()
                    .filter(MediumContents.StartPartition::makesAccount)
                    .isPresent();
            made |= contents.roots().values().stream().anyMatch(MediumContents.RootFiles::account);
            width = width.or(() -> contents.roots().values().stream()
                    .flatMap(each -> each.width().stream())
                    .findFirst());
            Optional<KernelLine> found = contents.start()
                    .flatMap(MediumContents.StartPartition::kernelLine)
                    .flatMap(content -> KernelLine.in(
                            new String(content, StandardCharsets.UTF_8),
                            profile.startFiles().kernelLineForm()));
            line = line.or(() -> found.map(KernelLine::text));
            root = root.or(() -> found.flatMap(each -> each.value("root")));
        }
        Optional<FileSystemReader> files = rootFiles(device);
        Logins logins = files.isEmpty() ? Logins.NONE : Logins.of(files.get(), tried);
        return new StartKit(
                List.copyOf(boards),
                line,
                root,
                files.isEmpty() ? Optional.empty() : kernelOf(files.get()),
                width,
                login,
                logins.account() || made,
                logins.open());
    }

    /** In one line: which boards it starts, and who gets in. */
    public String said() {
        return (boards.isEmpty() ? "No start files known here" : "Has start files for " + String.join(", ", boards))
                + kernel.map(version -> ", kernel " + version).orElse("")
                + width.map(bits -> ", " + bits + " bits").orElse("")
                + (remoteLogin ? ", remote login on" : ", remote login off")
                + (account ? ", has an account" : ", no account yet")
                + (openLogins.isEmpty()
                        ? ""
                        : "; everybody knows the password of " + String.join(" and ", openLogins)
                                + ": set another one before it goes on a network");
    }

    private static Optional<FileSystemReader> rootFiles(BlockDevice device) throws IOException {
        for (PartitionContent content :
                exordium.core.inspection.Inspector.inspect(device).partitions()) {
            boolean inside = content.partition().endByte() <= device.size().bytes();
            if (inside && content.fileSystem().kind().isExt()) {
                try {
                    return FileSystems.open(content.partition().on(device));
                } catch (UnreadableInput e) {
                    // Broken: nothing is known of it.
                    return Optional.empty();
                }
            }
        }
        return Optional.empty();
    }

    private static Optional<String> kernelOf(FileSystemReader files) throws IOException {
        List<String> versions = new ArrayList<>();
        try {
            for (String folder : MODULES) {
                versions.addAll(files.list(folder));
            }
        } catch (UnreadableInput e) {
            return Optional.empty();
        }
        return versions.stream().filter(each -> each.matches("\\d+\\..*")).max(Comparator.naturalOrder());
    }
}
