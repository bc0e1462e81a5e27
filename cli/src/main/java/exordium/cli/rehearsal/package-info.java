// SPDX-License-Identifier: Apache-2.0
/** The command that rehearses a start. */
package exordium.cli.rehearsal;
