// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

/** Finds what one kind of text tells, by what its lines look like. */
interface TextParser {
    /** What such a text is called. */
    String kind();

    void read(Page page);
}
