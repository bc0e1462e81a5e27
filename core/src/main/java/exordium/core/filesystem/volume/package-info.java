// SPDX-License-Identifier: Apache-2.0
/** File systems told by their signatures, and what is said of those that are not read. */
package exordium.core.filesystem.volume;
