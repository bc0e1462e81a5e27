// SPDX-License-Identifier: Apache-2.0
/** Commands about firmware. */
package exordium.cli.firmware;
