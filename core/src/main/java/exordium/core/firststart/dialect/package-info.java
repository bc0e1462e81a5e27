// SPDX-License-Identifier: Apache-2.0
/**
 * From intents to edits of files: in comes what is on a medium and what is wanted, out goes each file before and after. Two
 * dialects, plain files and cloud-init's NoCloud; neither touches a device.
 */
package exordium.core.firststart.dialect;
