// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import exordium.core.finding.Step;
import exordium.core.quantity.Coded;
import java.util.Optional;

/**
 * One thing a careful person sees to before an update, in their order.
 *
 * @param text what was found, and what to do where it is open
 * @param step where it is mended
 */
public record Gate(What what, State state, String text, Optional<Step> step) {
    /** In the order they are seen to. */
    public enum What implements Coded {
        COPY("A copy since the last change"),
        SUPPLY("A supply that holds"),
        OVERLAY("The read-only overlay is off"),
        EARLIER_RELEASE("The release it builds on runs"),
        TOOL("Its system has the updating tool"),
        RESTART("Restart it, do not switch it off");

        private final String title;

        What(String title) {
            this.title = title;
        }

        public String title() {
            return title;
        }
    }

    /** Whether it holds. */
    public enum State implements Coded {
        HOLDS,
        OPEN,
        /** Nobody can tell from here. */
        LOOK,
        /** Comes afterwards. */
        THEN
    }
}
