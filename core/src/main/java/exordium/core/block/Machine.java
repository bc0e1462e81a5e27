// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.ServiceLoader;
import java.util.Set;

/**
 * All in which one operating system differs from another, asked in one place. What is the same everywhere is answered by {@link
 * PlainMachine}; whoever knows more of a system overrides it, and is found by the service loader.
 */
public interface Machine {
    /** Set to {@code plain}, nothing is known of the system but what Java has: as it is on one nobody has written anything for. */
    String PROPERTY = "exordium.machine";

    /** Whether the program runs on a machine of this kind. */
    boolean isThis();

    MachineDrives drives();

    /**
     * Claims what stands at a path against everybody else.
     *
     * @param expected what it was when the deed was planned; empty where nobody looked before
     * @throws exordium.core.finding.Refused when something else has it, or something else stands there by now; nothing was touched
     */
    Claim claim(Path path, Optional<FileIdentity> expected) throws IOException;

    /** Where a file holds anything, in order; the whole file where the system does not tell. */
    List<FileExtents.Extent> extents(Path file) throws IOException;

    /** Everything whose bytes are those of this one, itself first. */
    Set<FileIdentity> sameBytes(FileIdentity one) throws IOException;

    /** The devices among these that have the bytes of something else. */
    List<Path> nodes(Set<FileIdentity> same) throws IOException;

    /** What the system says of the use of a device. */
    enum Use {
        FREE,
        IN_USE,
        NOT_ALLOWED,
        NOT_TOLD
    }

    Use use(Path node);

    /** Who opens drives that this user may not open alone; empty where nobody is there to be asked. */
    Optional<DriveKeeper> keeper();

    MachineTools tools();

    /** When a process began, as this system tells it and never twice for one number; empty where no such process runs. */
    Optional<String> began(long process);

    /** Another text after each start of the machine; empty where it does not tell. */
    String sinceStart();

    /** Whatever this process and those it starts make from now on is its user's alone. */
    void makePrivate();

    /** Shows short words on the user's screen; false where nobody takes them. */
    boolean notice(String title, String words);

    /** Whether networks that nobody else sees can be made here by this user, and go away with who made them. */
    boolean makesNetworks();

    /** Makes unpackers of .xz from the library of the system; empty where it has none. */
    Optional<XzUnpacker.Maker> xz();

    /** The machine the program runs on. */
    static Machine here() {
        return Here.MACHINE;
    }

    /** Looked for once. */
    final class Here {
        private static final Machine MACHINE = found();

        private Here() {}

        private static Machine found() {
            if ("plain".equals(System.getProperty(PROPERTY))) {
                return new PlainMachine();
            }
            return ServiceLoader.load(Machine.class).stream()
                    .map(ServiceLoader.Provider::get)
                    .filter(Machine::isThis)
                    .findFirst()
                    .orElseGet(PlainMachine::new);
        }
    }
}
