// SPDX-License-Identifier: Apache-2.0
/** Copies put back, cloned, tried; what changed since; spares. */
package exordium.jobs.copies.care;
