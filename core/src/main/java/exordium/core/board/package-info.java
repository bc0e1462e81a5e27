// SPDX-License-Identifier: Apache-2.0
/**
 * Board profiles: ports, start files, dialect of the start order, supply, timings; all of it data.
 *
 * <p>In: YAML files. Out: {@link exordium.core.board.BoardProfile}. Uses profile, storage.
 */
package exordium.core.board;
