// SPDX-License-Identifier: Apache-2.0
/** The start order of a board: staged. In: bench and run. Out: what is staged, its row and its words. */
package exordium.jobs.order;
