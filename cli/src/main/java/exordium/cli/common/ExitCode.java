// SPDX-License-Identifier: Apache-2.0
package exordium.cli.common;

/** Exit codes of the contract. */
public final class ExitCode {
    public static final int DONE = 0;
    public static final int FAILED = 1;
    public static final int BAD_INPUT = 2;
    public static final int REFUSED = 3;
    public static final int DIFFERENT = 4;

    private ExitCode() {}
}
