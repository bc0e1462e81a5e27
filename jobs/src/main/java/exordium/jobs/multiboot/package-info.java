// SPDX-License-Identifier: Apache-2.0
/** Several systems for one board: its start sets, and drives with several systems on them. */
package exordium.jobs.multiboot;
