// SPDX-License-Identifier: Apache-2.0
/** Families of boards of one's own: described, told, kept. */
package exordium.jobs.family;
