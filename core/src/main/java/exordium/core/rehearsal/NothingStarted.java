// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.StartSource;
import exordium.core.bootorder.DecodedOrder;
import exordium.core.finding.Step;
import exordium.core.rehearsal.contents.Cause;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/** What is said where nothing started: the cause, and its mend. */
final class NothingStarted {
    private NothingStarted() {}

    /** Cause and mend in one sentence each. */
    static String closing(
            Bench bench, TraceBuilder trace, DecodedOrder order, Optional<TraceBuilder.Fault> fault, Cause cause) {
        if (fault.isPresent()) {
            return "It does not start. " + fault.get().text() + " " + mend(cause);
        }
        List<String> untried = bench.attached().stream()
                .filter(medium -> !trace.tried(medium.port()))
                .map(medium -> medium.name() + " on " + medium.port())
                .toList();
        String looked = order.sources().stream()
                .filter(source -> source != StartSource.STOP && source != StartSource.RESTART)
                .map(StartSource::code)
                .distinct()
                .collect(Collectors.joining(", "));
        String where = looked.isEmpty()
                ? "The order " + order.value() + " names no place to start from."
                : "Nothing is plugged in where this board looks: " + looked + ".";
        return untried.isEmpty()
                ? where + (looked.isEmpty() ? " Set one that does." : " Put a medium with a system in one of these.")
                : where + " " + String.join(" and ", untried) + (untried.size() == 1 ? " is" : " are")
                        + " never tried: put that into the order, or move it.";
    }

    private static String mend(Cause cause) {
        return switch (cause) {
            case NO_PARTITION_TABLE, NO_START_PARTITION, NO_START_FILES -> "Write an image for this board to it.";
            case KERNEL_FOR_OTHER_BOARD -> "Write an image made for this board to it.";
            case FIRMWARE_TOO_OLD -> "Update the firmware, and restart.";
            case DRIVE_WRONG_KIND -> "Use a drive of the right kind, or another port.";
            case PCIE_OFF -> "Set it in the firmware's settings, and restart.";
            case SUPPLY_TOO_WEAK -> "Use the supply this board is made for.";
            case NETWORK_NO_LINK -> "Plug the cable in.";
            case NETWORK_NO_LEASE -> "Start the server that hands out addresses first.";
            case NETWORK_NO_DIRECTORY, NETWORK_NO_FILES -> "Put the board's files on the server.";
            default -> "";
        };
    }

    static Step mendAt(Cause cause) {
        return switch (cause) {
            case NO_PARTITION_TABLE, NO_START_PARTITION, NO_START_FILES, KERNEL_FOR_OTHER_BOARD -> Step.IMAGE;
            case FIRMWARE_TOO_OLD -> Step.FIRMWARE;
            case DRIVE_WRONG_KIND, DRIVE_NOT_SEEN, SUPPLY_TOO_WEAK -> Step.STORAGE;
            default -> Step.ORDER;
        };
    }
}
