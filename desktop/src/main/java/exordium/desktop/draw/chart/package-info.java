// SPDX-License-Identifier: Apache-2.0
/** Figures against each other: merit, price, pace, soundings. */
package exordium.desktop.draw.chart;
