// SPDX-License-Identifier: Apache-2.0
/**
 * What is wanted at the first start, as edits of the small partition; settings and kernel line checked.
 *
 * <p>In: intents and the files found. Out: edits and findings. Uses board, filesystem.
 */
package exordium.core.firststart;
