// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/** The whole drives of a machine. Nothing is hidden: a drive that must not be written is listed with its reasons. */
public interface MachineDrives {

    /** Why no drive of this machine can be reached, in one sentence; empty where they can. */
    Optional<Finding> notReached();

    /** Where workspace: whose drive is refused as a target. */
    List<MachineDrive> list(Path workspace) throws IOException;

    /** The drive behind a device node; empty when the path is no whole drive of the machine. */
    Optional<MachineDrive> find(Path node, Path workspace) throws IOException;

    /** The same drives by what the system writes down of them alone: none is opened, not even to ask whether it is in use. */
    MachineDrives untouched();

    /** What an eMMC says of its life, as the kernel gives it: two numbers of its life, one of its reserve. */
    record OwnWords(String lifeTime, String preEol) {}

    /** Empty where the drive tells nothing. */
    Optional<OwnWords> ownWords(MachineDrive drive) throws IOException;

    /** Another text whenever somebody has written to a drive; empty where that is not told. */
    String changeMark(String id) throws IOException;

    /** What is said where a system tells of no drives. */
    Finding NOT_REACHED = Finding.stop(
            "drives-not-reached",
            "On this system drives of the machine are not reached: image files and virtual drives work, and an image can be proven"
                    + " there before it is taken to a machine with Linux.",
            Basis.computed("the system this program runs on"));

    /** Of a system nobody can ask. */
    MachineDrives NONE = new MachineDrives() {
        @Override
        public Optional<Finding> notReached() {
            return Optional.of(NOT_REACHED);
        }

        @Override
        public List<MachineDrive> list(Path workspace) {
            return List.of();
        }

        @Override
        public Optional<MachineDrive> find(Path node, Path workspace) {
            return Optional.empty();
        }

        @Override
        public MachineDrives untouched() {
            return this;
        }

        @Override
        public Optional<OwnWords> ownWords(MachineDrive drive) {
            return Optional.empty();
        }

        @Override
        public String changeMark(String id) {
            return "";
        }
    };
}
