// SPDX-License-Identifier: Apache-2.0
/**
 * Reads profiles: YAML checked against a JSON Schema, bound to records, errors with the place in the file.
 *
 * <p>In: a file or a shipped resource. Out: a record, or one clear sentence. Uses finding.
 */
package exordium.core.profile;
