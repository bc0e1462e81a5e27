// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

/** A stream out of a container, that knows how far in the container it is: where nobody says how much there is, it is told from that. */
public interface PackedStream {
    /** Bytes of the container that were read so far; ahead of what was handed out by what is being unpacked. */
    long packedRead();
}
