// SPDX-License-Identifier: Apache-2.0
/** The day sheet: what is on record and what drives and boards really hold, judged by core. In: bench. Out: facts and sheet. */
package exordium.jobs.daysheet;
