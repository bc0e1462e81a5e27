// SPDX-License-Identifier: Apache-2.0
/** Writing an image to one target or several, going on with a write that was cut off. In: a plan of core. Out: reports, rows, evidence. */
package exordium.jobs.writing;
