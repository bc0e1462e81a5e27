// SPDX-License-Identifier: Apache-2.0
/**
 * An open workspace with everything a job works on: profiles, registers, house rules, targets, readings of drives and boards. In: a
 * folder. Out: what is on record and what is there. Uses core, store and sim; knows no job.
 */
package exordium.jobs.bench;
