// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.kernelline;

import java.util.regex.Pattern;

/** A name of a host (RFC 1123, section 2.1): letters, digits and dashes, 1 to 63 a label, no dash at either end, 253 in all. */
public final class HostName {
    private static final Pattern LABEL = Pattern.compile("[A-Za-z0-9]([A-Za-z0-9-]{0,61}[A-Za-z0-9])?");
    private static final int LONGEST = 253;

    private HostName() {}

    public static boolean valid(String name) {
        if (name.isEmpty() || name.length() > LONGEST) {
            return false;
        }
        for (String label : name.split("\\.", -1)) {
            if (!LABEL.matcher(label).matches()) {
                return false;
            }
        }
        // Nothing but digits and dots would be an address.
        return !name.matches("[0-9.]+");
    }
}
