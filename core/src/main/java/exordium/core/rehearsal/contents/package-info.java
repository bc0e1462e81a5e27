// SPDX-License-Identifier: Apache-2.0
/**
 * What is on a medium that decides a start, and on a root whether one gets in.
 *
 * <p>In: bytes of a medium, or a root in another form. Out: contents. Uses firststart.
 */
package exordium.core.rehearsal.contents;
