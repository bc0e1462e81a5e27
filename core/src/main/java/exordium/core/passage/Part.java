// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import java.util.Optional;

/**
 * Something a passage needs beside media.
 *
 * @param kind such as enclosure, reader, carrier: what {@code --with} and {@code --without} may name as well
 * @param price in euros
 * @param usual whether whoever does this work mostly has one
 * @param note what to look for
 */
public record Part(String id, String kind, String title, double price, boolean usual, Optional<String> note) {
    /** Whether somebody who says this word means it. */
    public boolean is(String thing) {
        return id.equals(thing) || kind.equals(thing);
    }
}
