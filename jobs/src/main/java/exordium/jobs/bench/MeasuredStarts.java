// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.block.Durable;
import exordium.core.block.FolderLock;
import exordium.core.board.BoardProfile;
import exordium.core.board.MeasuredStart;
import exordium.core.profile.ProfileReader;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Starts that were timed, a file a family in the workspace ({@code profiles/measured/FAMILY.yaml}). */
public final class MeasuredStarts {
    /** The newest count; a family's boards change with their systems. */
    private static final int MOST = 200;

    private final Path folder;
    private final ProfileReader reader;

    public MeasuredStarts(Path workspace, ProfileReader reader) {
        this.folder = workspace.resolve("profiles").resolve("measured");
        this.reader = reader;
    }

    private record Listing(List<MeasuredStart> starts) {}

    /** Those of a family; none where nothing was measured, or the file cannot be read. */
    public List<MeasuredStart> of(String family) {
        Path file = folder.resolve(family + ".yaml");
        if (!Files.isRegularFile(file)) {
            return List.of();
        }
        try {
            return reader.own(file, Listing.class).starts();
        } catch (IOException e) {
            // What cannot be read calibrates nothing; the usual times stay.
            return List.of();
        }
    }

    public void add(String family, MeasuredStart start) throws IOException {
        Files.createDirectories(folder);
        FolderLock.holding(folder, () -> {
            List<MeasuredStart> all = new ArrayList<>(of(family));
            boolean again = all.stream()
                    .anyMatch(each -> each.board().equals(start.board()) && each.seconds() == start.seconds());
            if (again) {
                // The same text, pasted twice.
                return all.size();
            }
            all.add(start);
            List<MeasuredStart> newest = all.subList(Math.max(0, all.size() - MOST), all.size());
            Durable.replace(folder.resolve(family + ".yaml"), reader.writeForPeople(new Listing(newest)));
            return newest.size();
        });
    }

    /** The family with its own times, where any were measured. */
    public BoardProfile calibrated(BoardProfile family) {
        List<MeasuredStart> all = of(family.id());
        return MeasuredStart.middle(all)
                .map(times -> family.calibrated(times, MeasuredStart.said(all)))
                .orElse(family);
    }
}
