// SPDX-License-Identifier: Apache-2.0
/** An image or a drive laid open over the window. */
package exordium.desktop.inside;
