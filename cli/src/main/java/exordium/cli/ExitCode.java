// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

/** Exit codes of the contract. */
final class ExitCode {
    static final int DONE = 0;
    static final int FAILED = 1;
    static final int BAD_INPUT = 2;
    static final int REFUSED = 3;
    static final int DIFFERENT = 4;

    private ExitCode() {}
}
