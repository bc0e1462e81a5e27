// SPDX-License-Identifier: Apache-2.0
/** The frame of the window: the roster, the job strip, the field that goes anywhere, keys; it owns the page one is at. */
package exordium.desktop.shell;
