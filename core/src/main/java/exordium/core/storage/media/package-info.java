// SPDX-License-Identifier: Apache-2.0
/** Kinds of media, enclosures and links, what a supply gives. */
package exordium.core.storage.media;
