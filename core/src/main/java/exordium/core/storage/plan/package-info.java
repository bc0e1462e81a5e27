// SPDX-License-Identifier: Apache-2.0
/** The ranking of media for a board, what would change it, and the plan for all boards. */
package exordium.core.storage.plan;
