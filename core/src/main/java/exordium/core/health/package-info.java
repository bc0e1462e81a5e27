// SPDX-License-Identifier: Apache-2.0
/**
 * How a medium is, and when it is to be replaced.
 *
 * <p>In: what it tells of itself, what was measured, what went wrong with it, what is written to it. Out: a day with its reason.
 * Uses storage and inspection.
 */
package exordium.core.health;
