// SPDX-License-Identifier: Apache-2.0
/**
 * A rehearsal held against the real thing, where that is installed: the same drives handed to U-Boot, to EDK2 and to a Linux kernel. Who does
 * that stands beside the tests, which need it most.
 *
 * <p>In: a bench, what was rehearsed with it, the drives' bytes, which are only read. Out: point by point what was told and what
 * came of it.
 */
package exordium.jobs.rehearsal.real;
