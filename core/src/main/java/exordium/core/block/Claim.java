// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Path;

/** Holds a file or a device against everybody else for as long as it is open. */
public interface Claim extends Closeable {

    /** Leads to the very thing that is held, whatever its name leads to by now. */
    Path path();

    @Override
    void close() throws IOException;

    /** The refusal where somebody else has it. */
    static Refused busy(Path path, Basis basis) {
        return new Refused(Finding.stop(
                "target-busy",
                path.getFileName() + " is being written by somebody else at this moment; nothing was touched.",
                basis));
    }
}
