// SPDX-License-Identifier: Apache-2.0
/**
 * Every judgement of the program, and the typed errors that carry one sentence to a person.
 *
 * <p>In: facts from any step. Out: findings with severity, code, sentence, basis and remedy. Uses nothing.
 */
package exordium.core.finding;
