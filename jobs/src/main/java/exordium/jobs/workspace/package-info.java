// SPDX-License-Identifier: Apache-2.0
/** Workspaces as a whole: made, found again, taken along as one file. */
package exordium.jobs.workspace;
