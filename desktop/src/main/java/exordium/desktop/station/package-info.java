// SPDX-License-Identifier: Apache-2.0
/**
 * The seven stations, one class each, on one base.
 */
package exordium.desktop.station;
