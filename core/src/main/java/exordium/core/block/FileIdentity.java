// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;

/**
 * What a path leads to, whatever it is called: a device by its number, a file by the file system it is on and its inode
 * (stat(2)). Two paths with the same identity are the same thing.
 *
 * @param place of a file: the number of its file system; of a device: 0
 * @param number of a file: its inode; of a device: its device number
 */
public record FileIdentity(boolean device, long place, long number) {
    private static final int TYPE = 0170000;
    private static final int BLOCK = 0060000;

    /** Follows links. */
    public static FileIdentity of(Path path) throws IOException {
        try {
            Map<String, Object> facts = Files.readAttributes(path, "unix:mode,dev,ino,rdev");
            boolean device = (((Integer) facts.get("mode")) & TYPE) == BLOCK;
            return device
                    ? ofDevice((Long) facts.get("rdev"))
                    : new FileIdentity(false, (Long) facts.get("dev"), (Long) facts.get("ino"));
        } catch (UnsupportedOperationException | IllegalArgumentException e) {
            // A system that counts no inodes: what is the same there is told by its real path.
            return new FileIdentity(false, 0, path.toRealPath().toString().hashCode());
        }
    }

    /** The refusal where something else stands at a path than was planned. */
    public static Refused changed(Path path, Basis basis) {
        return new Refused(Finding.stop(
                "target-changed",
                path.getFileName() + " is not what it was when this was planned; look again. Nothing was touched.",
                basis));
    }

    public static FileIdentity ofDevice(long number) {
        return new FileIdentity(true, 0, number);
    }
}
