// SPDX-License-Identifier: Apache-2.0
/** Commands about drives, media and the shelf. */
package exordium.cli.media;
