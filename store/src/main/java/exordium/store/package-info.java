// SPDX-License-Identifier: Apache-2.0
/**
 * The workspace folder: registers of boards, media, images, writes and copies, the append-only logbook, settings.
 *
 * <p>In: a folder. Out: plain records. SQL stays SQL, in the register classes. Uses core alone.
 */
package exordium.store;
