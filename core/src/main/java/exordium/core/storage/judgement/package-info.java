// SPDX-License-Identifier: Apache-2.0
/**
 * What a medium will do for a board: fit, time, years, power.
 *
 * <p>In: kinds of media, a supply, the chain of links, an image. Out: an assessment with numbers.
 */
package exordium.core.storage.judgement;
