// SPDX-License-Identifier: Apache-2.0
/** FAT: geometry, table and folders read as they are asked for, damage told, files written and taken out, volumes made. */
package exordium.core.filesystem.fat;
