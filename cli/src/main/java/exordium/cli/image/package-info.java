// SPDX-License-Identifier: Apache-2.0
/** Commands about images: looked into, written, proven, compared, files taken out. */
package exordium.cli.image;
