// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.model;

import exordium.core.writing.TransferMeter;
import java.util.Optional;

/**
 * What runs now.
 *
 * @param board whose station shows it
 * @param target the drive it works on
 */
public record RunningJob(String title, String board, Optional<String> target, TransferMeter meter) {}
