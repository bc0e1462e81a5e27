// SPDX-License-Identifier: Apache-2.0
package exordium.core.daysheet;

import exordium.core.finding.Step;

/** Something to do today, with its reason and the place to do it. */
public record Task(String board, Step step, Pennant pennant, String title, String reason, String action) {}
