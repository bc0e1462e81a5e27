// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firststart;

import exordium.core.block.PageJournal;
import exordium.core.block.StagedDevice;
import exordium.core.finding.UnreadableInput;
import exordium.jobs.bench.Targets;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;

/** Every page that a first start changed, as it was and as it became: so that taking it back leaves no trace, times and folders included. */
final class ChangedPages {
    private static final int MOST = 100;
    private static final String SUFFIX = ".undo";

    private final Path folder;

    ChangedPages(Path folder) {
        this.folder = folder;
    }

    private Path file(long number) {
        return folder.resolve(number + SUFFIX);
    }

    /** Before anything is changed. Only the newest are kept. */
    void keep(long number, Targets.Target target, StagedDevice staged) throws IOException {
        new PageJournal(
                        new PageJournal.Head(
                                PageJournal.Direction.BACK,
                                target.description().id(),
                                target.key(),
                                staged.size().bytes(),
                                number),
                        staged.changes())
                .save(file(number));
        List<Path> all = new ArrayList<>();
        try (DirectoryStream<Path> files = Files.newDirectoryStream(folder, "*" + SUFFIX)) {
            files.forEach(all::add);
        }
        all.sort(Comparator.comparing(ChangedPages::number));
        for (Path old : all.subList(0, Math.max(0, all.size() - MOST))) {
            Files.deleteIfExists(old);
        }
    }

    private static long number(Path file) {
        String digits = String.valueOf(file.getFileName()).replaceAll("\\D", "");
        return digits.isEmpty() || digits.length() > 18 ? 0 : Long.parseLong(digits);
    }

    /** Puts all of it back as it was; false where it is not kept, or anything of it is another by now, and then nothing is put. */
    boolean takeBack(long number, StagedDevice device) throws IOException {
        PageJournal kept;
        try {
            if (!Files.isRegularFile(file(number))) {
                return false;
            }
            kept = PageJournal.load(file(number));
        } catch (UnreadableInput e) {
            return false;
        }
        if (kept.head().bytes() != device.size().bytes()) {
            return false;
        }
        for (StagedDevice.Page page : kept.pages()) {
            if (!Arrays.equals(device.bytes(page.position(), page.after().length), page.after())) {
                return false;
            }
        }
        for (StagedDevice.Page page : kept.pages()) {
            device.write(page.position(), ByteBuffer.wrap(page.before()));
        }
        return true;
    }

    void forget(long number) throws IOException {
        Files.deleteIfExists(file(number));
    }
}
