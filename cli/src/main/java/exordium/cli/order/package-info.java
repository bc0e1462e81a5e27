// SPDX-License-Identifier: Apache-2.0
/** Commands about the start order. */
package exordium.cli.order;
