// SPDX-License-Identifier: Apache-2.0
package exordium.core.daysheet;

/** The state of one step of one board, the same five everywhere. */
public enum Pennant {
    /** Read back or worked out, and good. */
    PROVEN("proven"),
    /** Set, but nobody has proven it. */
    SET("set, not proven"),
    /** Something is to be done. */
    DUE("due"),
    /** It fails, or would. */
    FAILING("would fail"),
    /** Nothing is known. */
    UNKNOWN("unknown");

    private final String text;

    Pennant(String text) {
        this.text = text;
    }

    public String text() {
        return text;
    }

    /** Higher is worse. */
    public int weight() {
        return switch (this) {
            case PROVEN -> 0;
            case SET -> 1;
            case UNKNOWN -> 2;
            case DUE -> 3;
            case FAILING -> 4;
        };
    }
}
