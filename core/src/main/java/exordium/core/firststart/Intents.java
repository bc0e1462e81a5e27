// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart;

import java.util.Optional;

/**
 * What is wanted of the first start, in a user's words.
 *
 * @param remoteLogin switch remote login on
 * @param fixedAddress an IPv4 address for the wired port, such as 169.254.20.7 for a straight cable
 * @param rootByIdentifier name the root by its partition's identifier instead of its place
 */
public record Intents(boolean remoteLogin, Optional<String> fixedAddress, boolean rootByIdentifier) {
    public static final Intents NONE = new Intents(false, Optional.empty(), false);

    public boolean none() {
        return equals(NONE);
    }
}
