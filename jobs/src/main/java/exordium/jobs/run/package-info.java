// SPDX-License-Identifier: Apache-2.0
/**
 * The one way for everything that is done to a medium or a board: claimed, put down, done, told, closed; and what a kill left brought in
 * order at the next opening. In: the bench. Out: rows, words, evidence.
 */
package exordium.jobs.run;
