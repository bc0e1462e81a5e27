// SPDX-License-Identifier: Apache-2.0
/** Which medium for a board: the question put together from the register or from a file of needs. In: bench. Out: core's choice. */
package exordium.jobs.storage;
