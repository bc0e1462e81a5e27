// SPDX-License-Identifier: Apache-2.0
/**
 * Plan, run and report of writing an image to a target and proving it by reading back.
 *
 * <p>In: an image and a target. Out: {@link exordium.core.writing.WriteReport}. Uses block, image, inspection.
 */
package exordium.core.writing;
