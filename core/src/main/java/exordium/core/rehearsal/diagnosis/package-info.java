// SPDX-License-Identifier: Apache-2.0
/** What may be wrong after the fact, by the signs of it, and which look tells most. */
package exordium.core.rehearsal.diagnosis;
