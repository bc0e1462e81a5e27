// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.family;

import exordium.core.board.BoardProfiles;
import exordium.core.board.NamePattern;
import exordium.core.firststart.kernelline.StartMenu;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** The kernels and the device trees that stand among the files of a start, by a menu's word, their names and their first bytes. */
final class StartKernels {
    /** Linux kernel documentation, arm64 booting: "ARM\x64" at byte 56. */
    private static final int ARM64_AT = 56;

    private static final int ARM64 = 0x644d5241;
    /** Linux kernel documentation, arm zImage: the magic number at byte 36. */
    private static final int ZIMAGE_AT = 36;

    private static final int ZIMAGE = 0x016f2818;

    private final StartTree tree;
    private final BoardProfiles known;
    private final Optional<Integer> rootWidth;

    StartKernels(StartTree tree, BoardProfiles known, Optional<Integer> rootWidth) {
        this.tree = tree;
        this.known = known;
        this.rootWidth = rootWidth;
    }

    /** Each with its bits. */
    Map<String, Integer> kernels(Optional<StartMenu.Entry> entry) throws IOException {
        Map<String, Integer> found = new LinkedHashMap<>();
        Optional<String> named = entry.flatMap(StartMenu.Entry::kernel).flatMap(tree::named);
        if (named.isPresent()) {
            found.put(tree.onExt() ? named.get() : StartTree.last(named.get()), widthOf(named.get()));
            return found;
        }
        for (String name : tree.atTop().toList()) {
            boolean called = known.all().stream()
                    .flatMap(each -> each.startFiles().kernels().keySet().stream())
                    .anyMatch(pattern -> NamePattern.isLike(StartTree.last(name), pattern));
            if (called || byContent(name).isPresent()) {
                found.put(name, widthOf(name));
            }
        }
        return found;
    }

    private int widthOf(String name) throws IOException {
        Optional<Integer> content = byContent(name);
        if (content.isPresent()) {
            return content.get();
        }
        Optional<Integer> called = known.all().stream()
                .flatMap(each -> each.startFiles().kernels().entrySet().stream())
                .filter(each -> NamePattern.isLike(StartTree.last(name), each.getKey()))
                .map(Map.Entry::getValue)
                .findFirst();
        return called.or(() -> rootWidth).orElse(64);
    }

    /** By the first bytes of a kernel that is not packed. */
    private Optional<Integer> byContent(String name) throws IOException {
        byte[] start = tree.head(name, ARM64_AT + 4);
        if (start.length < ARM64_AT + 4) {
            return Optional.empty();
        }
        ByteBuffer bytes = ByteBuffer.wrap(start).order(ByteOrder.LITTLE_ENDIAN);
        if (bytes.getInt(ARM64_AT) == ARM64) {
            return Optional.of(64);
        }
        return bytes.getInt(ZIMAGE_AT) == ZIMAGE ? Optional.of(32) : Optional.empty();
    }

    /** Those a menu names; else all there are, by what their names have in common. */
    List<String> trees(Optional<StartMenu.Entry> entry) {
        Optional<String> named = entry.flatMap(StartMenu.Entry::tree).flatMap(tree::named);
        if (named.isPresent()) {
            return List.of(tree.onExt() ? named.get() : StartTree.last(named.get()));
        }
        if (entry.flatMap(StartMenu.Entry::kernel).isPresent()) {
            return List.of();
        }
        List<String> all = tree.atTop()
                .filter(name -> name.toLowerCase(Locale.ROOT).endsWith(".dtb"))
                .sorted()
                .toList();
        if (all.size() < 2) {
            return all;
        }
        String common = all.get(0);
        for (String name : all) {
            while (!name.startsWith(common)) {
                common = common.substring(0, common.length() - 1);
            }
        }
        return common.length() >= 3 ? List.of(common + "*.dtb") : all;
    }
}
