// SPDX-License-Identifier: Apache-2.0
/** Copies of boards: made and proven, checked, found again. In: bench and run. Out: files in the vault and their rows. */
package exordium.jobs.copies;
