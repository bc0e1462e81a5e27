// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.block.Durable;
import exordium.core.block.FolderLock;
import exordium.core.board.BoardProfile;
import exordium.core.firststart.settings.StockForms;
import exordium.core.profile.ProfileReader;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Settings files in the form in which the images on the shelf brought them ({@code profiles/stock/forms.yaml}). */
public final class StockShelf {
    private static final int MOST = 60;

    private final Path folder;
    private final ProfileReader reader;

    public StockShelf(Path workspace, ProfileReader reader) {
        this.folder = workspace.resolve("profiles").resolve("stock");
        this.reader = reader;
    }

    private record Listing(List<StockForms.Form> forms) {}

    private Path file() {
        return folder.resolve("forms.yaml");
    }

    /** All there are; none where the file cannot be read, and then nothing is passed over. */
    public List<StockForms.Form> all() {
        try {
            return Files.isRegularFile(file())
                    ? reader.own(file(), Listing.class).forms()
                    : List.of();
        } catch (IOException e) {
            return List.of();
        }
    }

    public void add(List<StockForms.Form> more) throws IOException {
        if (more.isEmpty()) {
            return;
        }
        Files.createDirectories(folder);
        FolderLock.holding(folder, () -> {
            List<StockForms.Form> forms = new ArrayList<>(all());
            more.stream().filter(each -> !forms.contains(each)).forEach(forms::add);
            List<StockForms.Form> newest = forms.subList(Math.max(0, forms.size() - MOST), forms.size());
            Durable.replace(file(), reader.writeForPeople(new Listing(newest)));
            return newest.size();
        });
    }

    /** The family with the lines that came so with systems on the shelf. */
    public static BoardProfile with(BoardProfile family, List<StockForms.Form> forms) {
        List<String> lines = forms.stream()
                .filter(each -> family.startFiles()
                        .settings()
                        .filter(each.file()::equalsIgnoreCase)
                        .isPresent())
                .flatMap(each -> each.stock().lines().stream())
                .distinct()
                .toList();
        return lines.isEmpty() ? family : family.knowingStock(lines);
    }
}
