// SPDX-License-Identifier: Apache-2.0
/**
 * Copies of a drive, the proof of each, and when the next is due.
 *
 * <p>In: a drive and the times of past copies. Out: a copy with its digest, a due date with its reason. Uses writing.
 */
package exordium.core.copies;
