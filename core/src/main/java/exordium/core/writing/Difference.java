// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

/** A run of bytes of the target that is not what the image holds there. */
public record Difference(long offset, long bytes) {}
