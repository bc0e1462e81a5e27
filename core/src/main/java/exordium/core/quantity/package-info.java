// SPDX-License-Identifier: Apache-2.0
/**
 * Sizes, rates, powers and spans of time as types, with the way people say them.
 *
 * <p>In: plain numbers at the edge. Out: values whose unit cannot be mistaken. Uses nothing.
 */
package exordium.core.quantity;
