// SPDX-License-Identifier: Apache-2.0
/** What a terminal or a screen showed, as facts with the lines they come from; a parser for each kind of text, told by content. */
package exordium.core.reading;
