// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.diagnosis;

import exordium.core.board.BoardProfile;
import exordium.core.board.NamePattern;
import exordium.core.board.StartSource;
import exordium.core.firmware.FirmwareChip;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.firmware.RecoverySet;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.core.rehearsal.contents.MediumContents.RootFiles;
import exordium.core.storage.media.Supply;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;

/** Everything single that may be wrong with a board as it is known, each rehearsed. */
final class Suspects {
    private static final String GONE = "PARTUUID=00000bad-02";

    private final Bench bench;
    private final BoardProfile profile;
    private final List<Suspect> all = new ArrayList<>();

    private Suspects(Bench bench) {
        this.bench = bench;
        this.profile = bench.profile();
    }

    static List<Suspect> of(Bench bench) {
        Suspects suspects = new Suspects(bench);
        suspects.put(Suspect.SuspectKind.NOTHING, bench);
        suspects.ofBoard();
        bench.attached().forEach(suspects::ofMedium);
        suspects.ofNetwork();
        return suspects.all;
    }

    private void put(Suspect.SuspectKind kind, Bench other) {
        all.add(Suspect.of(kind, null, other));
    }

    private void put(Suspect.SuspectKind kind, Bench.Attached medium, Bench other) {
        all.add(Suspect.of(kind, medium, other));
    }

    private void put(Suspect.SuspectKind kind, Bench.Attached medium, UnaryOperator<MediumContents> change) {
        put(kind, medium, bench.with(medium.port(), change.apply(medium.contents())));
    }

    private void ofBoard() {
        put(
                Suspect.SuspectKind.WEAK_SUPPLY,
                bench.withSupply(new Supply(profile.power().volts(), 0.5, "adapter")));
        if (profile.firmware().inChip()) {
            put(Suspect.SuspectKind.CHIP_DEAD, bench.withFirmware(FirmwareChip.NONE));
        }
        String usual = profile.order().usual();
        if (profile.order().fuse().isEmpty() && !usual.equals(bench.order())) {
            put(Suspect.SuspectKind.OTHER_ORDER, bench.withOrder(usual));
        }
        profile.order()
                .fuse()
                .filter(fuse -> !bench.order().equals(fuse.before()))
                .ifPresent(fuse -> put(Suspect.SuspectKind.FUSE, bench.withOrder(fuse.before())));
        if (profile.firmware().needs().keySet().stream()
                .anyMatch(source -> bench.mediaOn(source).findAny().isPresent() || source == StartSource.NETWORK)) {
            put(Suspect.SuspectKind.OLD_FIRMWARE, bench.withFirmware(LocalDate.of(2001, 1, 1)));
        }
    }

    private void ofMedium(Bench.Attached medium) {
        put(Suspect.SuspectKind.OUT, medium, bench.without(Set.of(medium.port())));
        put(Suspect.SuspectKind.LOOSE, medium, bench.loose(Set.of(medium.port())));
        put(Suspect.SuspectKind.BLANK, medium, MediumContents::blank);
        put(
                Suspect.SuspectKind.NO_START_FILES,
                medium,
                contents -> contents.withStart(start -> start.withNames(List.of())));
        put(Suspect.SuspectKind.OTHER_BOARD, medium, contents -> contents.withStart(this::ofOtherBoard));
        put(Suspect.SuspectKind.KERNEL_LINE, medium, contents -> contents.withRootNamed(""));
        put(Suspect.SuspectKind.ROOT_MOVED, medium, contents -> contents.withRootNamed("root=" + GONE));
        put(Suspect.SuspectKind.ROOT_BROKEN, medium, contents -> contents.withRoots(Map.of()));
        put(Suspect.SuspectKind.FSTAB, medium, contents -> contents.withRoots(mounting(contents.roots())));
        put(Suspect.SuspectKind.LOGIN_OFF, medium, contents -> contents.withStart(
                        MediumContents.StartPartition::withoutFirstStart)
                .withRoots(each(contents.roots(), RootFiles::withoutLogin)));
        put(Suspect.SuspectKind.NO_ACCOUNT, medium, contents -> contents.withStart(
                        start -> start.withoutFirstStart().withNames(start.names()))
                .withRoots(each(contents.roots(), RootFiles::withoutAccount)));
        if (profile.startFiles().settings().isPresent()) {
            put(
                    Suspect.SuspectKind.SETTINGS,
                    medium,
                    contents -> contents.withStart(
                            start -> start.withSettings("arm=1".getBytes(StandardCharsets.UTF_16LE))));
        }
        BoardProfile.Port port = profile.port(medium.port()).orElseThrow();
        if (port.source() == StartSource.NVME || port.source() == StartSource.USB) {
            put(Suspect.SuspectKind.WRONG_KIND, medium, bench.without(Set.of(medium.port())));
        }
        if (port.off().isPresent() && !port.off().get().isEmpty()) {
            put(
                    Suspect.SuspectKind.PORT_OFF,
                    medium,
                    bench.withConfig(new FirmwareConfig(
                            bench.config().text() + "\n" + port.off().get().get(0))));
        }
        if (port.source() == StartSource.CARD && profile.firmware().recovery().isPresent()) {
            put(
                    Suspect.SuspectKind.RECOVERY_CARD,
                    medium,
                    contents -> contents.withStart(start -> start.withNames(RecoverySet.names(profile))));
        }
        twin(medium);
    }

    /** Another drive that carries the same identifiers: the root of this one is found on the other first. */
    private void twin(Bench.Attached medium) {
        for (Bench.Attached other : bench.attached()) {
            if (!other.port().equals(medium.port())) {
                put(
                        Suspect.SuspectKind.TWIN,
                        medium,
                        bench.with(
                                other.port(),
                                new MediumContents(
                                        medium.contents().inspection(),
                                        other.contents().start(),
                                        medium.contents().roots(),
                                        Optional.empty())));
            }
        }
    }

    private MediumContents.StartPartition ofOtherBoard(MediumContents.StartPartition start) {
        List<String> names = new ArrayList<>();
        for (String name : start.names()) {
            boolean kernel = NamePattern.isLike(name, profile.startFiles().kernelOfAny());
            boolean tree = NamePattern.isLike(name, profile.startFiles().treeOfAny());
            names.add(kernel ? "kernel-of-another.img" : tree ? "another-board.dtb" : name);
        }
        return start.withNames(names);
    }

    private static Map<Integer, RootFiles> mounting(Map<Integer, RootFiles> roots) {
        return each(roots, root -> root.mounting(GONE + " /data ext4 defaults 0 2"));
    }

    private static Map<Integer, RootFiles> each(Map<Integer, RootFiles> roots, UnaryOperator<RootFiles> change) {
        Map<Integer, RootFiles> changed = new HashMap<>();
        roots.forEach((number, root) -> changed.put(number, change.apply(root)));
        return changed;
    }

    private void ofNetwork() {
        Bench.Network network = bench.network();
        put(Suspect.SuspectKind.CABLE, bench.withNetwork(Bench.Network.NONE));
        put(Suspect.SuspectKind.NO_LEASE, bench.withNetwork(network.withoutLease()));
        if (network.tftpRoot().isPresent()) {
            put(
                    Suspect.SuspectKind.NO_DIRECTORY,
                    new Bench(
                            profile,
                            "0000000000000bad",
                            "02:00:00:00:0b:ad",
                            bench.firmware(),
                            bench.config(),
                            bench.order(),
                            bench.supply(),
                            bench.attached(),
                            network));
            put(
                    Suspect.SuspectKind.NO_FILES,
                    bench.withNetwork(new Bench.Network(
                            network.link(), network.dhcp(), network.internet(), Optional.empty(), network.exports())));
        }
        if (!network.exports().isEmpty()) {
            put(
                    Suspect.SuspectKind.NO_EXPORT,
                    bench.withNetwork(new Bench.Network(
                            network.link(), network.dhcp(), network.internet(), network.tftpRoot(), List.of())));
        }
    }
}
