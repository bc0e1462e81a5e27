// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import java.io.IOException;

/**
 * Opens drives of the machine for a user who may not do so alone, after asking whoever may allow it. No deed knows the
 * difference.
 */
public interface DriveKeeper {

    /** Whether somebody is there to be asked. Quick, and asks nobody for leave. */
    boolean there();

    /**
     * Opens a drive; for writing, nobody else can use it meanwhile. Waits for the answer of whoever is asked.
     *
     * @throws Refused when leave was not given, or the drive is in use
     */
    BlockDevice open(MachineDrive drive, boolean forWriting) throws IOException;

    /** The refusal where a drive may not be opened and nobody can be asked, with what to do. */
    static Finding nobody(String node) {
        return Finding.stop(
                "target-not-permitted",
                node + " may not be opened by this user, and there is nobody to ask for leave: install the system's"
                        + " package udisks2, or this program as a package together with pkexec.",
                Basis.computed("its permissions, the system bus and the installed package"));
    }
}
