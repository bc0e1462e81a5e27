// SPDX-License-Identifier: Apache-2.0
/** Scenarios read from files. In: a file. Out: core's bench. */
package exordium.jobs.rehearsal;
