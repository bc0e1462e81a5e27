// SPDX-License-Identifier: Apache-2.0
/** Several systems for one board. */
package exordium.cli.multiboot;
