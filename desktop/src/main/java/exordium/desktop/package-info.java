// SPDX-License-Identifier: Apache-2.0
/**
 * The window: shell, day sheet, stations, shelves. Views lay out and bind; models in {@code model} decide what is
 * shown; core decides what is true.
 *
 * <p>In: a workspace. Out: a window, and what the user does in it as jobs. Uses jobs.
 */
package exordium.desktop;
