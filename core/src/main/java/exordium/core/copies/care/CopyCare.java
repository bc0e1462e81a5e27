// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.care;

/**
 * What a copy of a board asks of the people around it.
 *
 * @param stopFirst what writes there and has to be stopped, and how, in its owner's words
 * @param services what is not there while it is off, in words
 * @param quiet when it may be off
 */
public record CopyCare(String stopFirst, String services, QuietTimes quiet) {
    public static final CopyCare NONE = new CopyCare("", "", QuietTimes.ALWAYS);
}
