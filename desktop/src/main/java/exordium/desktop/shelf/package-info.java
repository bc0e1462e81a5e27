// SPDX-License-Identifier: Apache-2.0
/** Shelves and books: media, images, firmware, calendar, logbook, house rules, the storage plan; and the forms that fill them. */
package exordium.desktop.shelf;
