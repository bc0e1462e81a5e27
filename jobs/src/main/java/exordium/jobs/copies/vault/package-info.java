// SPDX-License-Identifier: Apache-2.0
/** Copies made and proven, checked, found again; the vault as a whole. */
package exordium.jobs.copies.vault;
