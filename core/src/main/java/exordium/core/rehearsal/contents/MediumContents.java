// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.contents;

import exordium.core.board.BoardProfile;
import exordium.core.board.NamePattern;
import exordium.core.filesystem.FileBody;
import exordium.core.firststart.dialect.FirstStartFiles;
import exordium.core.firststart.dialect.FirstStartPlan;
import exordium.core.firststart.dialect.MediumFiles;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.PartitionContent;
import exordium.core.layout.DiskIdentifier;
import exordium.core.layout.PartitionTable;
import exordium.core.quantity.ByteSize;
import java.nio.charset.StandardCharsets;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.UnaryOperator;
import java.util.regex.Pattern;

/**
 * Everything of a drive's bytes that decides whether it starts: read once, rehearsed with as often as one likes.
 *
 * @param unreadable why not even its table could be read, where that is so
 */
public record MediumContents(
        DriveInspection inspection,
        Optional<StartPartition> start,
        Map<Integer, RootFiles> roots,
        Optional<String> unreadable) {
    private static final Pattern ROOT = Pattern.compile("root=\\S+");

    /**
     * The small partition the firmware reads, or the folder a server hands out in its place.
     *
     * @param names of all files and folders in it, as paths from its top without a slash in front
     * @param kernelLineFile the path of the file that holds the kernel line, and kernelLine its content, which may be a menu
     * @param networkFile beside the cloud file (cloud-init documentation, NoCloud, network-config)
     */
    public record StartPartition(
            int number,
            List<String> names,
            Optional<byte[]> settings,
            String kernelLineFile,
            Optional<byte[]> kernelLine,
            Optional<byte[]> userFile,
            Optional<byte[]> cloudFile,
            Optional<byte[]> networkFile) {

        /** Remote login is switched on by an empty file; FAT names do not tell upper from lower case. */
        public boolean remoteLogin() {
            return Accounts.inCloudFile(cloudFile).remoteLogin() || hasMarker();
        }

        /** Whether the first start makes an account one can log in with. */
        public boolean makesAccount() {
            return Accounts.inUserFile(userFile)
                    || Accounts.inCloudFile(cloudFile).account();
        }

        /** Whether it makes one that a key in the root opens. */
        public boolean makesKeyed(RootFiles root) {
            return Accounts.named(userFile).stream().anyMatch(root.keyed()::contains);
        }

        public StartPartition withNames(List<String> other) {
            return new StartPartition(
                    number, List.copyOf(other), settings, kernelLineFile, kernelLine, userFile, cloudFile, networkFile);
        }

        public StartPartition withLine(Optional<byte[]> line) {
            return new StartPartition(number, names, settings, kernelLineFile, line, userFile, cloudFile, networkFile);
        }

        public StartPartition withSettings(byte[] other) {
            return new StartPartition(
                    number, names, Optional.of(other), kernelLineFile, kernelLine, userFile, cloudFile, networkFile);
        }

        /** With nothing a first start would make of it: no marker, no account, no cloud file. */
        public StartPartition withoutFirstStart() {
            return new StartPartition(
                    number,
                    names.stream()
                            .filter(name -> !name.equalsIgnoreCase(FirstStartPlan.REMOTE_LOGIN))
                            .toList(),
                    settings,
                    kernelLineFile,
                    kernelLine,
                    Optional.empty(),
                    Optional.empty(),
                    Optional.empty());
        }

        private boolean hasMarker() {
            return names.stream().anyMatch(name -> name.equalsIgnoreCase(FirstStartPlan.REMOTE_LOGIN));
        }

        /** Whether any file matches a name that may hold {@code *}, which stands for anything but a slash. */
        public boolean has(String pattern) {
            return names.stream().anyMatch(name -> NamePattern.isLike(name, pattern));
        }

        /** The same for a path as it stands in a menu, with a slash in front or without. */
        public boolean hasFile(String path) {
            String plain = path.strip().replace('\\', '/').replaceFirst("^/+", "");
            return names.stream().anyMatch(name -> name.equalsIgnoreCase(plain));
        }
    }

    /**
     * What matters of a root.
     *
     * @param width bits of its first program, by the ELF header; empty where there is none
     * @param remoteLogin whether the service is switched on in it
     * @param account whether anybody gets in by it
     * @param keyed accounts whose keys are in it outside their homes, made or to be made
     * @param growsBy the mark of a system that fills its medium at its first start
     * @param address IPv4, fixed in it for a wired socket
     * @param flashesBy the mark of a system that writes itself onto the board's own storage
     * @param cloudUser whether the cloud's own default user is one that gets in, where there is a cloud file (cloud-init documentation)
     * @param begins the program its own kernel line has started first, as far as it was looked at
     */
    public record RootFiles(
            Optional<String> fstab,
            Optional<Integer> width,
            boolean remoteLogin,
            boolean account,
            Set<String> keyed,
            Optional<String> growsBy,
            Optional<String> address,
            Optional<String> flashesBy,
            Optional<FirstLook> begins,
            boolean cloudUser) {

        public RootFiles withoutLogin() {
            return new RootFiles(fstab, width, false, account, keyed, growsBy, address, flashesBy, begins, cloudUser);
        }

        public RootFiles withoutAccount() {
            return new RootFiles(
                    fstab, width, remoteLogin, false, Set.of(), growsBy, address, flashesBy, begins, cloudUser);
        }

        /** With another fstab. */
        public RootFiles withFstab(String text) {
            return new RootFiles(
                    Optional.of(text),
                    width,
                    remoteLogin,
                    account,
                    keyed,
                    growsBy,
                    address,
                    flashesBy,
                    begins,
                    cloudUser);
        }

        /** With one more line in its fstab. */
        public RootFiles mounting(String line) {
            return withFstab(fstab.orElse("") + "\n" + line + "\n");
        }

        RootFiles beginning(FirstLook look) {
            return new RootFiles(
                    fstab,
                    width,
                    remoteLogin,
                    account,
                    keyed,
                    growsBy,
                    address,
                    flashesBy,
                    Optional.of(look),
                    cloudUser);
        }
    }

    /** Of a medium of which nothing could be read; where why says the reason. */
    public static MediumContents unknown(ByteSize size, int sectorSize, String why) {
        return new MediumContents(
                new DriveInspection(size, PartitionTable.none(sectorSize), List.of(), Optional.empty(), List.of()),
                Optional.empty(),
                Map.of(),
                Optional.of(why));
    }

    /** The same medium with nothing on it. */
    public MediumContents blank() {
        return new MediumContents(
                new DriveInspection(
                        inspection.size(),
                        PartitionTable.none(inspection.table().sectorSize()),
                        List.of(),
                        Optional.empty(),
                        List.of()),
                Optional.empty(),
                Map.of(),
                Optional.empty());
    }

    /** The same medium with these words where its kernel lines name their root; empty: with none. */
    public MediumContents withRootNamed(String words) {
        return withStart(start -> start.withLine(
                start.kernelLine().map(line -> ROOT.matcher(new String(line, StandardCharsets.ISO_8859_1))
                        .replaceAll(words)
                        .getBytes(StandardCharsets.ISO_8859_1))));
    }

    /** The same medium with its start partition as another one; as it is where it has none. */
    public MediumContents withStart(UnaryOperator<StartPartition> change) {
        return new MediumContents(inspection, start.map(change), roots, unreadable);
    }

    /** The same medium with these roots alone to be read. */
    public MediumContents withRoots(Map<Integer, RootFiles> readable) {
        return new MediumContents(inspection, start, readable, unreadable);
    }

    /** The first root-like partition: the first ext file system. */
    public Optional<PartitionContent> rootPartition() {
        return inspection.partitions().stream()
                .filter(content -> content.fileSystem().kind().isExt())
                .findFirst();
    }

    /** What a first start is planned from, as far as it is in the start partition's own files. */
    public FirstStartFiles found(BoardProfile.StartFiles files) {
        Map<String, FileBody> bodies = new TreeMap<>();
        start.ifPresent(partition -> {
            partition.kernelLine().ifPresent(bytes -> bodies.put(partition.kernelLineFile(), FileBody.of(bytes)));
            partition.settings().ifPresent(bytes -> bodies.put(files.settings().orElseThrow(), FileBody.of(bytes)));
            partition.userFile().ifPresent(bytes -> bodies.put(files.userFile().orElseThrow(), FileBody.of(bytes)));
            partition
                    .cloudFile()
                    .ifPresent(bytes -> bodies.put(files.cloudFile().orElseThrow(), FileBody.of(bytes)));
        });
        return found(
                MediumFiles.ofStart(bodies, start.map(StartPartition::names).orElse(List.of()), kernelLineFile(files)));
    }

    private String kernelLineFile(BoardProfile.StartFiles files) {
        return start.map(StartPartition::kernelLineFile).orElse(files.kernelLine());
    }

    /** The same with all files that were read. */
    FirstStartFiles found(MediumFiles files) {
        return new FirstStartFiles(
                files,
                rootPartition().map(content -> content.partition().partUuid()),
                inspection.partitions().stream()
                        .map(content -> content.partition().partUuid())
                        .toList(),
                inspection.table().diskId().map(DiskIdentifier::text).filter(id -> id.matches("[0-9a-f]{8}")),
                inspection.partitions().stream()
                        .max(Comparator.comparingLong(each -> each.partition().endByte()))
                        .map(each -> new FirstStartFiles.Last(
                                each.fileSystem().kind(),
                                ByteSize.of(each.partition().endByte()),
                                inspection.size())));
    }

    /**
     * Whether it starts by its loader alone, which is none of this family's systems: an installer's medium, as a disc or a stick
     * (UEFI specification, removable media).
     */
    public boolean startsByLoaderAlone(BoardProfile profile) {
        boolean system = inspection.partitions().stream()
                .anyMatch(each -> each.fileSystem().kind().isExt());
        return profile.order().form().entries()
                && !system
                && start.filter(partition -> profile.startFiles().loaders().stream()
                                        .anyMatch(partition::has)
                                && partition.kernelLine().isEmpty()
                                && KernelChoice.of(profile, partition).fault().isPresent())
                        .isPresent();
    }

    /** Whether there is a kernel of its width and a device tree for a family. */
    public boolean hasKernelFor(BoardProfile profile) {
        return start.filter(
                        partition -> KernelChoice.of(profile, partition).fault().isEmpty())
                .isPresent();
    }
}
