// SPDX-License-Identifier: Apache-2.0
/**
 * The state of every board at every step, from the facts on record: pennants, the number that matters, what to do today.
 *
 * <p>In: facts. Out: a sheet. Uses all before it.
 */
package exordium.core.daysheet;
