// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.contents;

import exordium.core.board.BoardProfile;
import exordium.core.board.NamePattern;
import exordium.core.firststart.kernelline.StartMenu;
import exordium.core.firststart.lint.SettingsCheck;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Which kernel of a start partition a board takes, and what is missing of it otherwise: with no kernel or no device tree at all
 * there are no start files; with only those of others it is the kernel of another board.
 *
 * @param width bits of the kernel
 * @param initramfs whether one is loaded with it
 */
public record KernelChoice(Optional<Fault> fault, int width, boolean initramfs) {

    /** What keeps the firmware from handing over. */
    public record Fault(Cause cause, String text) {}

    public static KernelChoice of(BoardProfile profile, MediumContents.StartPartition start) {
        BoardProfile.StartFiles files = profile.startFiles();
        if (files.kernelLineForm() != BoardProfile.KernelLineForm.PLAIN) {
            Optional<StartMenu.Entry> entry = start.kernelLine()
                    .map(bytes -> new String(bytes, StandardCharsets.UTF_8))
                    .flatMap(text ->
                            StartMenu.parse(text, files.kernelLineForm()).chosen());
            if (entry.isPresent() && entry.get().kernel().isPresent()) {
                return named(profile, start, entry.get());
            }
        }
        return found(profile, start);
    }

    /** By the names the chosen entry of a menu gives. */
    private static KernelChoice named(
            BoardProfile profile, MediumContents.StartPartition start, StartMenu.Entry entry) {
        for (Optional<String> name : List.of(entry.kernel(), entry.tree(), entry.initramfs())) {
            if (name.isPresent() && !there(profile, start, name.get())) {
                return fault(Cause.NO_START_FILES, "its menu asks for " + name.get() + ", which is not there.");
            }
        }
        String kernel = last(entry.kernel().orElseThrow());
        Optional<Integer> width = profile.startFiles().kernels().entrySet().stream()
                .filter(each -> NamePattern.isLike(kernel, last(each.getKey())))
                .map(Map.Entry::getValue)
                .findFirst();
        boolean ofAny = NamePattern.isLike(kernel, profile.startFiles().kernelOfAny());
        boolean tooWide = width.filter(bits -> bits > profile.width()).isPresent();
        if (tooWide || (width.isEmpty() && ofAny)) {
            return fault(
                    Cause.KERNEL_FOR_OTHER_BOARD, kernel + ", which its menu starts, is the kernel of another board.");
        }
        boolean otherTree = entry.tree()
                .filter(tree -> profile.startFiles().deviceTrees().stream()
                        .noneMatch(each -> NamePattern.isLike(last(tree), last(each))))
                .isPresent();
        if (otherTree && !profile.startFiles().deviceTrees().isEmpty()) {
            return fault(
                    Cause.KERNEL_FOR_OTHER_BOARD,
                    entry.tree().get() + ", which its menu names, is the device tree of another board.");
        }
        return new KernelChoice(
                Optional.empty(),
                width.orElse(profile.width()),
                entry.initramfs().isPresent());
    }

    /** A text for a loader may leave out the folders before a name, which the loader puts there. */
    private static boolean there(BoardProfile profile, MediumContents.StartPartition start, String path) {
        boolean shortened = profile.startFiles().kernelLineForm() == BoardProfile.KernelLineForm.ENVIRONMENT;
        return start.hasFile(path)
                || (shortened
                        && start.names().stream().anyMatch(name -> last(name).equalsIgnoreCase(last(path))));
    }

    private static String last(String path) {
        return path.substring(path.lastIndexOf('/') + 1);
    }

    /** By the names a firmware looks for itself. */
    private static KernelChoice found(BoardProfile profile, MediumContents.StartPartition start) {
        BoardProfile.StartFiles files = profile.startFiles();
        List<String> settings = start.settings().map(SettingsCheck::effective).orElse(List.of());
        boolean wantsNarrow = settings.contains("arm_64bit=0");
        Optional<Integer> width = files.kernels().entrySet().stream()
                .filter(each -> each.getValue() <= profile.width() && start.has(each.getKey()))
                .map(Map.Entry::getValue)
                .reduce((one, other) -> wantsNarrow ? Math.min(one, other) : Math.max(one, other));
        if (width.isEmpty()) {
            return start.has(files.kernelOfAny())
                    ? fault(Cause.KERNEL_FOR_OTHER_BOARD, "its kernel or device tree is for another board.")
                    : fault(
                            Cause.NO_START_FILES,
                            "there is no kernel on it, none of "
                                    + String.join(", ", files.kernels().keySet()) + ".");
        }
        boolean tree =
                files.deviceTrees().isEmpty() || files.deviceTrees().stream().anyMatch(start::has);
        if (!tree) {
            return start.has(files.treeOfAny())
                    ? fault(Cause.KERNEL_FOR_OTHER_BOARD, "its kernel or device tree is for another board.")
                    : fault(Cause.NO_START_FILES, "there is no device tree on it.");
        }
        return new KernelChoice(Optional.empty(), width.get(), initramfs(settings, start));
    }

    private static KernelChoice fault(Cause cause, String text) {
        return new KernelChoice(Optional.of(new Fault(cause, text)), 0, false);
    }

    /** A line "initramfs NAME ..." or "auto_initramfs=1" of the settings (common practice, no source). */
    private static boolean initramfs(List<String> settings, MediumContents.StartPartition start) {
        return settings.stream().anyMatch(line -> {
            String[] words = line.split("\\s+");
            return (words.length > 1 && words[0].equals("initramfs") && start.hasFile(words[1]))
                    || (line.equals("auto_initramfs=1") && start.has("initramfs*"))
                    || (line.startsWith("ramfsfile=") && start.hasFile(line.substring(10)));
        });
    }
}
