// SPDX-License-Identifier: Apache-2.0
/**
 * The jobs from a terminal, for scripts and timers: one class a command, one JSON document on standard output with
 * {@code --json}, messages on standard error, exit codes as docs/command-line.md says.
 *
 * <p>In: arguments. Out: a report as text or JSON, and an exit code. Uses jobs.
 */
package exordium.cli;
