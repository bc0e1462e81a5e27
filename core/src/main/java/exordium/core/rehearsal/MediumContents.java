// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.firststart.FirstStartPlan;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.PartitionContent;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;

/** Everything of a drive's bytes that decides whether it starts: read once, rehearsed with as often as one likes. */
public record MediumContents(
        DriveInspection inspection, Optional<StartPartition> start, Map<Integer, RootFiles> roots) {

    /** The small partition the firmware reads; names: of its top folder and, for folders, of what is inside. */
    public record StartPartition(
            int number, List<String> names, Optional<byte[]> settings, Optional<byte[]> kernelLine) {

        /** Remote login is switched on by an empty file; FAT names do not tell upper from lower case. */
        public boolean remoteLogin() {
            return names.stream().anyMatch(name -> name.equalsIgnoreCase(FirstStartPlan.REMOTE_LOGIN));
        }

        /** Whether any file matches a name that may hold {@code *}. */
        public boolean has(String pattern) {
            Pattern regex = Pattern.compile(Pattern.quote(pattern).replace("*", "\\E.*\\Q"), Pattern.CASE_INSENSITIVE);
            return names.stream().anyMatch(name -> regex.matcher(name).matches());
        }
    }

    /**
     * What matters of a root.
     *
     * @param width bits of its first program, by the ELF header; empty where there is none
     * @param remoteLogin whether the service is switched on in it
     */
    public record RootFiles(Optional<String> fstab, Optional<Integer> width, boolean remoteLogin) {}

    /** The first root-like partition: the first ext file system. */
    public Optional<PartitionContent> rootPartition() {
        return inspection.partitions().stream()
                .filter(content -> content.fileSystem().kind().isExt())
                .findFirst();
    }

    /** What the first start station works on. */
    public FirstStartPlan.Found found() {
        return new FirstStartPlan.Found(
                start.map(StartPartition::names).orElse(List.of()),
                start.flatMap(StartPartition::kernelLine),
                start.flatMap(StartPartition::settings),
                rootPartition().map(content -> content.partition().partUuid()));
    }

    /** The start partition's kernel widths that this profile knows. */
    public boolean hasKernelFor(BoardProfile profile) {
        BoardProfile.StartFiles files = profile.startFiles();
        return start.filter(partition -> files.kernels().entrySet().stream()
                                .anyMatch(kernel ->
                                        kernel.getValue() <= profile.width() && partition.has(kernel.getKey()))
                        && (files.deviceTrees().isEmpty()
                                || files.deviceTrees().stream().anyMatch(partition::has)))
                .isPresent();
    }
}
