// SPDX-License-Identifier: Apache-2.0
/**
 * Containers an image comes in, told by content; their size; checksums published beside them.
 *
 * <p>In: a file. Out: a stream of the image's bytes. Uses block.
 */
package exordium.core.image;
