// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.contents;

import exordium.core.filesystem.FileSystemReader;
import exordium.core.firststart.kernelline.FirstProgram;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * What a program does that is started in the place of a system, by its text where it is one.
 *
 * @param there whether the root holds it
 * @param once whether it makes the medium larger and starts again
 * @param flashes whether it writes the storage that sits on the board
 */
public record FirstLook(String path, boolean there, boolean once, boolean flashes) {
    private static final Pattern GROWS = Pattern.compile("resize2fs|growpart|sfdisk|parted|fdisk|resizepart");
    private static final Pattern RESTARTS = Pattern.compile("\\breboot\\b|sysrq-trigger|systemctl\\s+reboot");
    private static final Pattern WRITES =
            Pattern.compile("\\b(dd|cp|rsync|tar|mkfs\\S*|sfdisk)\\b[^\\n]*/dev/mmcblk|\\bof=/dev/mmcblk");
    private static final int LARGEST = 1 << 20;

    static FirstLook at(FirstProgram program, FileSystemReader root) throws IOException {
        Optional<byte[]> content = root.read(program.path());
        String text = content.filter(bytes -> bytes.length > 2 && bytes.length <= LARGEST && bytes[0] == '#')
                .map(bytes -> new String(bytes, StandardCharsets.ISO_8859_1))
                .orElse("");
        boolean once = program.calledOnce()
                || (GROWS.matcher(text).find() && RESTARTS.matcher(text).find());
        return new FirstLook(
                program.path(),
                content.isPresent(),
                once,
                !once && (program.calledFlasher() || WRITES.matcher(text).find()));
    }
}
