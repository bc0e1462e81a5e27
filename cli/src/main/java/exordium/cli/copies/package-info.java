// SPDX-License-Identifier: Apache-2.0
/** Commands about copies, when they are due, and the vault. */
package exordium.cli.copies;
