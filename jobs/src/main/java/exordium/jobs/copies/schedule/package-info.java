// SPDX-License-Identifier: Apache-2.0
/** What is due, reminded of and made by itself. */
package exordium.jobs.copies.schedule;
