// SPDX-License-Identifier: Apache-2.0
/** ext2, ext3 and ext4: read, and files put in where all features are known. */
package exordium.core.filesystem.ext;
