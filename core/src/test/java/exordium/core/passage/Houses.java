// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import exordium.core.block.FileDevice;
import exordium.core.board.BoardProfile;
import exordium.core.copies.care.WayBack;
import exordium.core.firmware.RecoveryCard;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.core.storage.media.MediaCatalogue;
import exordium.core.storage.media.MediumKind;
import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** Small houses to plan in: boards over real disks made by general tools, media and parts by their kinds. */
final class Houses {
    /** What a board's own system takes at the least: its last partition ends there. */
    static final long EXTENT = 60L << 20;

    private final MediumContents own;
    private final MediumContents byPlace;
    private final MediumContents image;

    private Houses(MediumContents own, MediumContents byPlace, MediumContents image) {
        this.own = own;
        this.byPlace = byPlace;
        this.image = image;
    }

    static Houses made() throws IOException {
        Path folder = Files.createTempDirectory("houses");
        try {
            return new Houses(
                    read(new DiskBuilder(folder).id("0aa10001").build("own.img")),
                    read(new DiskBuilder(folder)
                            .id("0aa10002")
                            .start("cmdline.txt", "console=tty1 root=/dev/mmcblk0p2 rootwait\n")
                            .root("etc/fstab", "/dev/root / ext4 defaults 0 1\n")
                            .build("place.img")),
                    read(new DiskBuilder(folder).id("0bb20001").build("image.img")));
        } finally {
            try (var files = Files.walk(folder)) {
                files.sorted(java.util.Comparator.reverseOrder())
                        .forEach(file -> file.toFile().delete());
            }
        }
    }

    private static MediumContents read(Path disk) throws IOException {
        try (FileDevice device = FileDevice.forReading(disk)) {
            return ContentsReader.read(device, Benches.profile("plover-5").startFiles());
        }
    }

    /** A house to be described. */
    House house(String family) {
        return new House(family);
    }

    final class House {
        private final BoardProfile profile;
        private String order;
        private LocalDate firmware = LocalDate.parse("2026-09-02");
        private final List<PassageFacts.Stock> stock = new ArrayList<>();
        private final Map<String, MediumContents> contents = new HashMap<>();
        private Optional<String> main = Optional.empty();
        private final Set<String> parts = new TreeSet<>();
        private final Set<String> shut = new HashSet<>(Set.of("nvme"));
        private boolean overlay;
        private boolean copies;
        private boolean images = true;
        private boolean recovery = true;
        private boolean memory = true;
        private Weights weights = Weights.USUAL;

        private House(String family) {
            profile = Benches.profile(family);
            order = profile.order().usual();
        }

        House order(String value) {
            order = value;
            return this;
        }

        House firmware(String day) {
            firmware = LocalDate.parse(day);
            return this;
        }

        /** Its own system; where byPlace: its kernel line names the root by the card's place. */
        House in(String port, String kind, long megabytes, boolean named) {
            stock.add(new PassageFacts.Stock(
                    medium("own", kind, megabytes, 0),
                    true,
                    Optional.of(port),
                    new Held("medium:own", true, false, false, false, false, true)));
            contents.put("medium:own", named ? own : byPlace);
            if (!named) {
                contents.put(
                        "medium:own" + PassageFacts.ROOT_NAMED, byPlace.withRootNamed("root=PARTUUID=0aa10002-02"));
            }
            main = Optional.of("own");
            return this;
        }

        House drawer(String id, String kind, long megabytes) {
            stock.add(new PassageFacts.Stock(medium(id, kind, megabytes, 0), true, Optional.empty(), Held.NOTHING));
            return this;
        }

        House shop(String id, String kind, long megabytes, double price) {
            MediumKind.Medium medium = medium(id, kind, megabytes, price);
            stock.add(new PassageFacts.Stock(
                    medium, false, Optional.empty(), medium.kind().lasting() ? Held.NOTHING : Held.UNPROVEN));
            return this;
        }

        House parts(String... ids) {
            parts.addAll(List.of(ids));
            return this;
        }

        House slotShut() {
            shut.add("card");
            return this;
        }

        House overlay() {
            overlay = true;
            return this;
        }

        House copied() {
            copies = true;
            return this;
        }

        House without(boolean noImages, boolean noRecovery) {
            images = !noImages;
            recovery = !noRecovery;
            return this;
        }

        House littleMemory() {
            memory = false;
            return this;
        }

        House weights(Weights other) {
            weights = other;
            return this;
        }

        PassageFacts facts() {
            List<PassageFacts.Source> sources = new ArrayList<>();
            ByteSize least = ByteSize.of(EXTENT);
            if (images) {
                contents.put("image:new", image);
                contents.put("image:new" + PassageFacts.SET_UP, image);
                sources.add(new PassageFacts.Source("image:new", "marshlinux", least, least, true, false));
            }
            if (copies) {
                contents.put("copy:1", own);
                sources.add(new PassageFacts.Source("copy:1", "the copy of yesterday", least, least, true, false));
            }
            List<LocalDate> releases = List.of(
                    LocalDate.parse("2025-02-11"), LocalDate.parse("2025-09-16"), LocalDate.parse("2026-09-02"));
            if (recovery && profile.firmware().inChip()) {
                String id = "recovery:2026-09-02";
                MediumContents blank =
                        MediumContents.unknown(RecoveryCard.SIZE, 512, "").blank();
                contents.put(
                        id,
                        new MediumContents(
                                blank.inspection(),
                                Optional.of(
                                        image.start().orElseThrow().withNames(List.of("recovery.bin", "firmware.bin"))),
                                Map.of(),
                                Optional.empty()));
                sources.add(new PassageFacts.Source(id, "the recovery set", least, least, false, false));
            }
            List<Bench.Attached> attached = stock.stream()
                    .filter(each -> each.port().isPresent())
                    .map(each -> new Bench.Attached(
                            each.port().get(),
                            each.medium().name(),
                            each.medium().kind(),
                            false,
                            true,
                            contents.get("medium:own")))
                    .toList();
            Bench bench =
                    Benches.with(Benches.bench(profile.id(), order, attached.toArray(new Bench.Attached[0])), firmware);
            PartsCatalogue all =
                    PartsCatalogue.shipped().with(MediaCatalogue.shipped().enclosures());
            return new PassageFacts(
                    "board",
                    "Board",
                    bench,
                    overlay,
                    memory,
                    false,
                    2,
                    shut,
                    main,
                    stock,
                    Set.of(),
                    sources,
                    releases,
                    all.parts(),
                    parts,
                    MediaCatalogue.shipped().enclosures(),
                    contents,
                    WayBack.COPY,
                    false,
                    weights);
        }
    }

    private static MediumKind.Medium medium(String id, String kind, long megabytes, double price) {
        return new MediumKind.Medium(
                id, id, Benches.kind(kind), ByteSize.of(megabytes * 1_000_000), Optional.empty(), ByteSize.ZERO, price);
    }
}
