// SPDX-License-Identifier: Apache-2.0
/** FAT: geometry, table and folders read as they are asked for, damage told, changes through a library. */
package exordium.core.filesystem.fat;
