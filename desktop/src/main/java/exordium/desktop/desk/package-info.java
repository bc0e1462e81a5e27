// SPDX-License-Identifier: Apache-2.0
/**
 * What stands behind the whole window: where one is, what is read, what runs, what is true of the house. In: jobs. Out:
 * properties that change on the interface thread only. No control and no drawing is known here.
 */
package exordium.desktop.desk;
