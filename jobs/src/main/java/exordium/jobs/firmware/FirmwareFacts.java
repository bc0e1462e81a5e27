// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firmware;

import exordium.core.access.BoardState;
import exordium.core.access.Knowledge;
import exordium.core.block.BlockDevice;
import exordium.core.block.MediumException;
import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.OrderDialect;
import exordium.core.filesystem.FileSystemException;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.Finding;
import exordium.core.firmware.FirmwareAdvice;
import exordium.core.firmware.SystemAdvice;
import exordium.core.inspection.Inspector;
import exordium.core.inspection.InstalledSystem;
import exordium.core.inspection.PartitionContent;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.RegisterSnapshot;
import exordium.jobs.bench.Workbench;
import exordium.store.Images;
import exordium.store.Logbook;
import exordium.store.Media;
import exordium.store.Operations;
import java.io.IOException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** What a judgement of a board's firmware and system goes by, gathered from the registers and from the medium it starts from. */
public final class FirmwareFacts {
    /** What was seen longer ago says nothing of what runs now. */
    private static final int NEWEST_ENTRIES = 40;

    private final Workbench workbench;
    private final BenchReader benches;

    public FirmwareFacts(Workbench workbench, BenchReader benches) {
        this.workbench = workbench;
        this.benches = benches;
    }

    /** Leave it or update it, with reasons and gates. */
    public FirmwareAdvice advice(Workbench.BoardAtHand at) throws IOException {
        BoardState board = at.board();
        RegisterSnapshot record = RegisterSnapshot.of(workbench);
        Optional<Media.Medium> medium = workbench.mainMedium(at);
        Optional<LocalDate> changed = medium.flatMap(each -> lastChange(record, each));
        return FirmwareAdvice.of(
                at.profile(),
                board.chipAsKnown(),
                at.register().channel(),
                workbench.firmware(),
                new FirmwareAdvice.Facts(
                        board.supply(),
                        board.overlay(),
                        wanted(at),
                        seen(at),
                        record.newest(at.register().id()).here().map(this::day),
                        changed,
                        tool(at)));
    }

    private Optional<LocalDate> lastChange(RegisterSnapshot record, Media.Medium medium) {
        Optional<Instant> written =
                Optional.ofNullable(record.lastWrites().get(medium.id())).map(each -> each.started());
        Optional<Instant> touched =
                Optional.ofNullable(record.lastTouching().get(medium.id())).map(Operations.Operation::started);
        return touched.or(() -> written).map(this::day);
    }

    private LocalDate day(Instant at) {
        return LocalDate.ofInstant(at, workbench.zone());
    }

    /** Places of what is plugged in, and what the order asks for beside drives; all of it where an order is staged. */
    private static Set<StartSource> wanted(Workbench.BoardAtHand at) {
        BoardProfile profile = at.profile();
        Set<StartSource> wanted = EnumSet.noneOf(StartSource.class);
        at.board().attached().forEach(plug -> profile.port(plug.port()).ifPresent(port -> wanted.add(port.source())));
        OrderDialect dialect = OrderDialect.of(profile);
        dialect.decode(at.order()).sources().stream()
                .filter(source -> !source.holdsMedium())
                .forEach(wanted::add);
        at.stagedOrder().ifPresent(order -> wanted.addAll(dialect.decode(order).sources()));
        return wanted;
    }

    private List<String> seen(Workbench.BoardAtHand at) {
        List<String> seen = new ArrayList<>();
        at.board().known().trouble().map(Knowledge.Seen::what).ifPresent(seen::add);
        workbench.workspace().log().newestOf(at.register().id(), NEWEST_ENTRIES).stream()
                .map(Logbook.Entry::text)
                .forEach(seen::add);
        return seen;
    }

    /** Whether the updating tool that the family's profile names is in the root; empty where no profile names one, or nothing is known. */
    private Optional<Boolean> tool(Workbench.BoardAtHand at) throws IOException {
        Optional<String> tool = at.profile().firmware().tool().map(path -> "/" + path.replaceFirst("^/+", ""));
        return tool.isEmpty()
                ? Optional.empty()
                : onRoot(at, root -> {
                    int slash = tool.get().lastIndexOf('/');
                    return Optional.of(
                            root.has(tool.get().substring(0, slash), tool.get().substring(slash + 1)));
                });
    }

    /** What is to be said of the system on its medium: newer images, and how old its packages are. */
    public List<Finding> system(Workbench.BoardAtHand at) throws IOException {
        Optional<MediumContents> contents = benches.mainContents(at);
        if (contents.isEmpty()) {
            return List.of();
        }
        Optional<InstalledSystem> installed = contents.get().inspection().system();
        List<SystemAdvice.Image> images = new ArrayList<>();
        for (Images.Image image : workbench.workspace().imageShelf().all()) {
            SystemAdvice.Image listed =
                    new SystemAdvice.Image(image.title(), image.title().replaceFirst(" .*", ""), image.version());
            // Unpacking is dear: what is of another system, or older, is not looked into.
            if (installed.filter(listed::succeeds).isPresent() && starts(image, at.profile())) {
                images.add(listed);
            }
        }
        return SystemAdvice.of(at.profile(), installed, images, updated(at), workbench.today());
    }

    private boolean starts(Images.Image image, BoardProfile profile) {
        try {
            return benches.inImage(workbench.images().resolve(image.file()), image.size(), profile)
                    .hasKernelFor(profile);
        } catch (IOException e) {
            // One that is gone or broken is no newer image for anybody.
            return false;
        }
    }

    private Optional<LocalDate> updated(Workbench.BoardAtHand at) throws IOException {
        return onRoot(at, root -> {
                    Optional<Instant> newest = Optional.empty();
                    for (String path : SystemAdvice.PACKAGE_RECORDS) {
                        Optional<Instant> changed = root.changed(path);
                        newest = newest.or(() -> changed);
                    }
                    return newest;
                })
                .map(this::day);
    }

    /** What is looked up in the root a board starts. */
    private interface RootWork<T> {
        Optional<T> in(FileSystemReader root) throws IOException;
    }

    private <T> Optional<T> onRoot(Workbench.BoardAtHand at, RootWork<T> work) throws IOException {
        Optional<BlockDevice> device = benches.mainDevice(at);
        if (device.isEmpty()) {
            return Optional.empty();
        }
        try (BlockDevice open = device.get()) {
            for (PartitionContent each : Inspector.inspect(open).partitions()) {
                if (each.fileSystem().kind().isExt()) {
                    Optional<FileSystemReader> root =
                            FileSystems.open(each.partition().on(open));
                    return root.isEmpty() ? Optional.empty() : work.in(root.get());
                }
            }
        } catch (FileSystemException | MediumException e) {
            // Nothing is known of a broken one, or of what was not read of a medium that is away.
            return Optional.empty();
        }
        return Optional.empty();
    }
}
