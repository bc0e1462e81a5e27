// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import java.io.IOException;

/** A medium could not be read or written at a place. */
public class MediumException extends IOException {
    private static final long serialVersionUID = 1L;
    private final long position;

    /** Where position: bytes from the start of the medium. */
    public MediumException(String medium, long position, String what) {
        super(medium + ": " + what);
        this.position = position;
    }

    public MediumException(String medium, long position, String what, IOException cause) {
        super(medium + ": " + what, cause);
        this.position = position;
    }

    public long position() {
        return position;
    }
}
