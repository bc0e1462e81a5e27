// SPDX-License-Identifier: Apache-2.0
/** All single faults of a bench, each rehearsed. */
package exordium.core.rehearsal.faults;
