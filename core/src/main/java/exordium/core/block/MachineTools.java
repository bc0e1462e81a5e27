// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import java.io.IOException;
import java.nio.file.Path;

/** What a system's own tools do around its drives. Where there is no such tool, nothing is done and that is said. */
public interface MachineTools {

    /** Has the system look at a new table of a drive. */
    void rereadTable(Path node);

    /** The node of a partition, by its number. */
    Path partition(Path drive, int number);

    /**
     * Grows the file system of a partition to fill it.
     *
     * @return what was done, as the rest of a sentence; empty where it is left to somebody else
     */
    String grow(Path partition);

    boolean unmount(String node);

    /** Lets a drive go, so that it can be unplugged; false where no tool did it. */
    boolean letGo(Path node);

    /** What a drive tells of its health, as JSON (smartctl(8)); nothing where it does not answer. */
    byte[] smartReport(Path node) throws IOException;

    /** Of a system nobody can ask. */
    MachineTools NONE = new MachineTools() {
        @Override
        public void rereadTable(Path node) {
            // No system keeps it in mind.
        }

        @Override
        public Path partition(Path drive, int number) {
            return drive;
        }

        @Override
        public String grow(Path partition) {
            return "";
        }

        @Override
        public boolean unmount(String node) {
            return false;
        }

        @Override
        public boolean letGo(Path node) {
            return false;
        }

        @Override
        public byte[] smartReport(Path node) {
            return new byte[0];
        }
    };
}
