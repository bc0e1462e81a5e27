// SPDX-License-Identifier: Apache-2.0
/** The first start: the small partition edited, on a board's drive or on any target. In: bench and run. Out: edits, their row and their words. */
package exordium.jobs.firststart;
