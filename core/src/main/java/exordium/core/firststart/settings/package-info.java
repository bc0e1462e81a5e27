// SPDX-License-Identifier: Apache-2.0
/** A settings file as a document that loses nothing, its keys, and findings on its lines. */
package exordium.core.firststart.settings;
