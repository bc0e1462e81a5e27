// SPDX-License-Identifier: Apache-2.0
/**
 * Drawings of the chart: pennants, start line, strips, soundings; drawn from numbers that core worked out.
 */
package exordium.desktop.draw;
