// SPDX-License-Identifier: Apache-2.0
/** What leaves the house on paper or as a table: labels, reports, media as CSV, due dates as iCalendar. In: facts of other rooms. Out: files. */
package exordium.jobs.paper;
