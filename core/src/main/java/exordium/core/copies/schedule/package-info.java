// SPDX-License-Identifier: Apache-2.0
/** When the next copy is due, which copies stay, and the room they will take. */
package exordium.core.copies.schedule;
