// SPDX-License-Identifier: Apache-2.0
/** The parts every page is made of: labels, buttons, rows, forms, the advice column; and what a page and an overlay are. Knows no page. */
package exordium.desktop.part;
