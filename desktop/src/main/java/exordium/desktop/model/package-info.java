// SPDX-License-Identifier: Apache-2.0
/**
 * What the window shows, as plain properties and records, tested without a window.
 */
package exordium.desktop.model;
