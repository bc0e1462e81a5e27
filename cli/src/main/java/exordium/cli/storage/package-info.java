// SPDX-License-Identifier: Apache-2.0
/** The command that chooses storage. */
package exordium.cli.storage;
