// SPDX-License-Identifier: Apache-2.0
/** What commands share: options, the doors to the workspace, exit codes, progress on a terminal. Uses jobs; knows no command. */
package exordium.cli.common;
