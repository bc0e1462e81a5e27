// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.inside;

import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.finding.UnreadableInput;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.ImageComparison;
import exordium.core.inspection.Inspector;
import exordium.core.rehearsal.contents.StartKit;
import exordium.core.writing.TransferMeter;
import exordium.desktop.desk.House;
import exordium.jobs.media.OpenedSource;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.function.Consumer;

/** An image or a drive laid open: its partitions and files. Opened once, and kept until it is closed. */
public final class InsideModel implements AutoCloseable {
    private static final int MOST_SHOWN = 64 << 10;
    private static final int MOST_LINES = 300;

    private final House house;
    private final OpenedSource.Subject subject;
    /** Unpacking and comparing may take long; closing stops either. */
    private TransferMeter meter = new TransferMeter(System::nanoTime, false);

    private OpenedSource open;
    private boolean closed;

    public InsideModel(House house, OpenedSource.Subject subject) {
        this.house = house;
        this.subject = subject;
    }

    /** What is told of the image as a whole. */
    public record About(DriveInspection inspection, StartKit kit) {}

    public void about(Consumer<About> sink) {
        house.reading()
                .look(
                        () -> new About(
                                Inspector.inspect(device()),
                                StartKit.of(
                                        device(),
                                        house.workbench().profiles().all(),
                                        house.workbench().triedPasswords())),
                        sink);
    }

    private synchronized exordium.core.block.BlockDevice device() throws IOException {
        if (closed) {
            throw new UnreadableInput(subject.title() + " is closed already.");
        }
        if (open == null) {
            open = OpenedSource.of(subject, house.targets(), meter);
        }
        return open.device();
    }

    /** How far what takes long has come, in words. */
    public String progress() {
        return meter.moment().said();
    }

    /** What it can be held against. */
    public void others(Consumer<List<OpenedSource.Subject>> sink) {
        house.reading()
                .look(
                        () -> OpenedSource.all(house.workbench()).stream()
                                .filter(each -> !each.path().equals(subject.path()))
                                .toList(),
                        sink);
    }

    private FileSystemReader files(int partition) throws IOException {
        return Inspector.filesOf(device(), partition);
    }

    /** A folder's entries, folders first. */
    public void entries(int partition, String folder, Consumer<List<FileEntry>> sink) {
        house.reading()
                .look(
                        () -> files(partition).entries(folder).stream()
                                .sorted(Comparator.comparing(FileEntry::kind)
                                        .thenComparing(each -> each.name().toLowerCase(Locale.ROOT)))
                                .toList(),
                        sink);
    }

    /** A small text file's text; in a sentence, why it is not shown. */
    public void text(int partition, String path, long size, Consumer<String> sink) {
        house.reading()
                .look(
                        () -> {
                            if (size > MOST_SHOWN) {
                                return "Too large to be shown here; it can be copied out.";
                            }
                            Optional<byte[]> content = files(partition).read(path);
                            return content.map(InsideModel::shown).orElse("It cannot be read.");
                        },
                        sink);
    }

    private static String shown(byte[] content) {
        for (byte each : content) {
            if (each == 0) {
                return "Not a text file; it can be copied out.";
            }
        }
        return new String(content, StandardCharsets.UTF_8);
    }

    /** Copies a file out into the workspace; never over another. */
    public void copyOut(int partition, String path, Consumer<String> sink) {
        house.reading()
                .look(
                        () -> {
                            Path folder = Files.createDirectories(
                                    house.workbench().folder().resolve("files"));
                            Path to = free(folder, path.substring(path.lastIndexOf('/') + 1));
                            try (OutputStream out = Files.newOutputStream(to)) {
                                files(partition).copy(path, out);
                            }
                            return "It is in " + to + ".";
                        },
                        sink);
    }

    private static Path free(Path folder, String name) {
        Path to = folder.resolve(name);
        for (int number = 2; Files.exists(to); number++) {
            to = folder.resolve(name + "." + number);
        }
        return to;
    }

    /** What differs from another one, line by line; a comparison under way is given up, and tells nothing. */
    public void compare(OpenedSource.Subject other, Consumer<List<String>> sink) {
        meter.cancel();
        TransferMeter own = new TransferMeter(System::nanoTime, false);
        meter = own;
        house.reading()
                .look(
                        () -> {
                            try (OpenedSource opened = OpenedSource.of(other, house.targets(), own)) {
                                return lines(ImageComparison.of(device(), opened.device(), own));
                            } catch (CancellationException e) {
                                return List.<String>of();
                            }
                        },
                        found -> {
                            if (!found.isEmpty() && own == meter) {
                                sink.accept(found);
                            }
                        });
    }

    private static List<String> lines(ImageComparison found) {
        List<String> lines = new ArrayList<>();
        lines.add(
                found.pieces() == 0
                        ? "No piece differs."
                        : found.differing().said() + " differ, " + found.pieces() + " of " + found.piecesInBoth()
                                + " pieces of 64 KiB.");
        lines.addAll(found.layout());
        found.files().stream()
                .limit(MOST_LINES)
                .forEach(each -> lines.add(
                        each.kind().name().toLowerCase(Locale.ROOT) + "  " + each.partition() + "  " + each.path()));
        if (found.files().size() > MOST_LINES) {
            lines.add("and " + (found.files().size() - MOST_LINES) + " more");
        }
        return lines;
    }

    @Override
    public void close() {
        meter.cancel();
        house.reading()
                .look(
                        () -> {
                            synchronized (this) {
                                closed = true;
                                if (open != null) {
                                    open.close();
                                }
                            }
                            return closed;
                        },
                        done -> {});
    }
}
