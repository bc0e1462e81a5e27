// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.image;

import exordium.core.filesystem.FileSystemKind;
import exordium.core.inspection.DriveInspection;

/** What is on a drive or in an image, in one line. */
final class LayoutWords {
    private LayoutWords() {}

    static String of(DriveInspection inspection) {
        String system = inspection.system().map(each -> each.title() + ", ").orElse("");
        if (inspection.partitions().isEmpty()) {
            return "no partitions";
        }
        return system
                + String.join(
                        " and ",
                        inspection.partitions().stream()
                                .map(each -> each.fileSystem().kind() == FileSystemKind.UNKNOWN
                                        ? "something unknown"
                                        : each.fileSystem().kind().code() + " "
                                                + each.partition().size().said())
                                .toList());
    }
}
