// SPDX-License-Identifier: Apache-2.0
/**
 * Drives that the user may not open alone: asked of the desktop's own disk service over the system bus, else of one small process
 * that runs with leave to do so and ends with the deed. Everything else goes on in the user's process.
 */
package exordium.jobs.drives;
