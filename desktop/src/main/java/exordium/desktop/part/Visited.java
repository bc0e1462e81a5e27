// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.part;

/** Something that is shown for a while: a page, a station of one, a sheet over it. Who shows it closes it. */
public interface Visited extends AutoCloseable {
    /** It was left: nothing of it listens any more. */
    @Override
    default void close() {}
}
