// SPDX-License-Identifier: Apache-2.0
/** What every file system has: entries, bodies, a summary, the reader behind which they stand. */
package exordium.core.filesystem;
