// SPDX-License-Identifier: Apache-2.0
/** A family of boards read off an image. */
package exordium.core.rehearsal.family;
