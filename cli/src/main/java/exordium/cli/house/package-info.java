// SPDX-License-Identifier: Apache-2.0
/** Commands about the house as a whole: the demo, its boards, its logbook. */
package exordium.cli.house;
