// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.settings;

import exordium.core.block.BlockDevice;
import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.UnreadableInput;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.PartitionContent;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;

/** Settings files as the user's own images brought them: what stands there so is nothing to be said of. */
public final class StockForms {
    private StockForms() {}

    /** One form; file: what it is called. */
    public record Form(String file, BoardProfile.Stock stock) {}

    /** Of a file that came with a system. */
    public static BoardProfile.Stock of(byte[] content) {
        return new BoardProfile.Stock(
                SettingsDocument.digest(content),
                SettingsDocument.parse(content).lines().stream()
                        .filter(line -> !line.blank() && !line.comment() && !line.heading())
                        .map(SettingsDocument.Line::inItsSection)
                        .distinct()
                        .toList());
    }

    /**
     * Those on an image that is open.
     *
     * @param names of the settings files of all families that are known
     */
    public static List<Form> on(BlockDevice device, DriveInspection inspection, Collection<String> names)
            throws IOException {
        List<Form> forms = new ArrayList<>();
        for (PartitionContent content : inspection.partitions()) {
            boolean inside = content.partition().endByte() <= device.size().bytes();
            if (!inside || !content.fileSystem().kind().isFat()) {
                continue;
            }
            for (String name : names) {
                read(content, device, name).ifPresent(bytes -> forms.add(new Form(name, of(bytes))));
            }
        }
        return List.copyOf(forms);
    }

    private static Optional<byte[]> read(PartitionContent content, BlockDevice device, String name) throws IOException {
        try {
            Optional<FileSystemReader> files =
                    FileSystems.open(content.partition().on(device));
            return files.isEmpty() ? Optional.empty() : files.get().read("/" + name);
        } catch (UnreadableInput e) {
            // A broken file system holds no form.
            return Optional.empty();
        }
    }
}
