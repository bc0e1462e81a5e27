// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import exordium.core.filesystem.FileBody;
import exordium.core.filesystem.FileSystemKind;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.firststart.kernelline.FirstProgram;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.regex.Pattern;

/**
 * Whether the system on a medium fills it at its first start, told by the mark it carries: a service or script that does it, an
 * option of the fstab, a word of the kernel line. Common practice, no source, but for systemd.mount(5), x-systemd.growfs, and
 * cloud-init documentation, growpart.
 */
public record SelfGrowth(GrowthKind kind, String mark) {
    private static final Pattern NAME =
            Pattern.compile(".*(grow-?(root|fs|part)|resize.{0,3}(root|fs|2fs)|expand.{0,3}(root|fs)).*");

    private static final String CLOUD = "/etc/cloud/cloud.cfg";

    /** What is to be expected. */
    public enum GrowthKind {
        /** Partition and file system. */
        ITSELF,
        /** The file system follows a partition that was made larger. */
        FILE_SYSTEM,
        /** Nothing says that it does. */
        NOT,
        /** A file system that nobody here can tell about. */
        UNKNOWN
    }

    public static SelfGrowth of(MediumFiles files, Optional<FileSystemKind> last) {
        boolean told = last.filter(kind -> kind.isExt()).isPresent();
        if (!told) {
            return new SelfGrowth(
                    GrowthKind.UNKNOWN, last.map(FileSystemKind::code).orElse("nothing"));
        }
        Optional<String> itself = inRoot(
                        files.names(),
                        () -> files.body(CLOUD).map(FileBody::text).orElse(""))
                .or(() -> inLine(List.of(files.body(files.kernelLine())
                        .map(FileBody::text)
                        .orElse("")
                        .split("\\s+"))));
        if (itself.isPresent()) {
            return new SelfGrowth(GrowthKind.ITSELF, itself.get());
        }
        String fstab = files.body(Fstab.PATH).map(body -> body.text()).orElse("");
        return fstab.contains("x-systemd.growfs")
                ? new SelfGrowth(GrowthKind.FILE_SYSTEM, "x-systemd.growfs in /etc/fstab")
                : new SelfGrowth(GrowthKind.NOT, "");
    }

    /** Where names: paths in a root, and cloud: what stands in cloud-init's settings there. */
    public static Optional<String> inRoot(Collection<String> names, Supplier<String> cloud) {
        return names.stream()
                .filter(name -> name.startsWith("/") && !name.contains("systemd-growfs"))
                .filter(name -> name.contains("/etc/") || name.contains("/initramfs-tools/"))
                .filter(name ->
                        NAME.matcher(name.substring(name.lastIndexOf('/') + 1)).matches())
                .sorted()
                .findFirst()
                .or(() -> cloud.get().contains("growpart") ? Optional.of("growpart in " + CLOUD) : Optional.empty());
    }

    /** The word of a kernel line that has it done. */
    public static Optional<String> inLine(List<String> words) {
        return words.stream().filter(FirstProgram::isOnce).findFirst();
    }

    /**
     * Has the file system follow a partition that is made larger, where the system has its tool for that; otherwise says that it
     * does not.
     */
    static void put(Draft draft, SelfGrowth found) {
        draft.add(found.finding());
        if (found.kind() != GrowthKind.NOT) {
            return;
        }
        boolean tool = draft.has("/usr/lib/systemd/systemd-growfs") || draft.has("/lib/systemd/systemd-growfs");
        if (!tool) {
            draft.caution(
                    "grows-not-by-itself",
                    "The partition is made larger, and the system on it has no tool of its own that lets the file system follow at"
                            + " its start: grow it by hand at the first login (resize2fs).");
        } else if (draft.root("that the file system follows its partition")) {
            Fstab.withOption(draft, "/", "x-systemd.growfs");
        }
    }

    /** One sentence for whoever waits for the room. */
    public Finding finding() {
        Basis basis = Basis.computed("the files on the medium");
        return switch (kind) {
            case ITSELF ->
                Finding.note("grows-itself", "The system fills the medium at its first start (" + mark + ").", basis);
            case FILE_SYSTEM ->
                Finding.note(
                                "grows-with-partition",
                                "The file system follows its partition (" + mark + "); extend the last partition here.",
                                basis)
                        .mendAt(Step.IMAGE);
            case NOT ->
                Finding.note(
                                "grows-not",
                                "Nothing on this medium says that the system fills it at its first start; want it to fill the medium,"
                                        + " and its last partition is made larger here.",
                                basis)
                        .mendAt(Step.IMAGE);
            case UNKNOWN ->
                Finding.note(
                        "grows-not",
                        "The last partition holds " + mark
                                + ", which is not grown here: it stays as large as the image made it.",
                        basis);
        };
    }
}
