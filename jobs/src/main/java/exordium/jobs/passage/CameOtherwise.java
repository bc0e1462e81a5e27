// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.passage;

import java.io.IOException;

/** A step was done, and what it was to bring about is not so: the passage goes on from what is. */
final class CameOtherwise extends IOException {
    private static final long serialVersionUID = 1L;

    CameOtherwise(String sentence) {
        super(sentence);
    }
}
