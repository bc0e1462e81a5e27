// SPDX-License-Identifier: Apache-2.0
/** What a copy asks of the people around it, what changed since, spares, and the way back. */
package exordium.core.copies.care;
