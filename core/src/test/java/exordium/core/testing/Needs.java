// SPDX-License-Identifier: Apache-2.0
package exordium.core.testing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

/** What a test needs of the machine it runs on. */
public final class Needs {
    private Needs() {}

    /** What can be installed or given: where everything is held (CI is set), it must be there, or a test would go green unseen. */
    public static void here(boolean there, String otherwise) {
        if (System.getenv("CI") == null) {
            assumeTrue(there, otherwise);
        } else {
            assertThat(there).as(otherwise).isTrue();
        }
    }

    /** What a kernel or a disk has or has not, whoever asks. */
    public static void ofKernel(boolean there, String otherwise) {
        assumeTrue(there, otherwise);
    }
}
