// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.passage;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.filesystem.FileBody;
import exordium.core.firststart.dialect.FileEdit;
import exordium.core.firststart.dialect.FirstStartFiles;
import exordium.core.firststart.dialect.FirstStartPlan;
import exordium.core.firststart.intents.Intents;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.passage.Held;
import exordium.core.passage.Part;
import exordium.core.passage.PartsCatalogue;
import exordium.core.passage.PassageFacts;
import exordium.core.passage.Weights;
import exordium.core.passage.Wish;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.core.storage.media.MediumKind;
import exordium.core.writing.Ending;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.HouseRules;
import exordium.jobs.bench.MediaHealth;
import exordium.jobs.bench.RegisterSnapshot;
import exordium.jobs.bench.Workbench;
import exordium.jobs.storage.StorageQuestion;
import exordium.store.Boards;
import exordium.store.Media;
import exordium.store.Operations;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** Reads what a plan for one board is worked out from. */
final class PassageHouse {
    private static final ByteSize OVERLAY_NEEDS = ByteSize.ofGigabytes(2);
    private static final Set<Wish.Kind> FROM_IMAGES =
            EnumSet.of(Wish.Kind.NEW_BOARD, Wish.Kind.SEVERAL_SYSTEMS, Wish.Kind.BATCH, Wish.Kind.ON_BOARD);
    private static final Set<Wish.Kind> FROM_COPIES = EnumSet.of(Wish.Kind.PUT_BACK, Wish.Kind.BATCH);

    /** It failed under the last thing that was done to it: nothing goes onto it until it is proven. */
    private static final Set<Ending> FAILED = EnumSet.of(Ending.FAILED, Ending.DIFFERENT);
    /** What was stopped half-way holds nothing anybody misses. */
    private static final Set<Ending> HALF_WRITTEN = EnumSet.of(Ending.CANCELLED, Ending.INTERRUPTED);

    private static final Intents ROOT_BY_IDENTIFIER = IntentsReader.of(Map.of("rootByIdentifier", true));

    private final Workbench workbench;
    private final BenchReader benches;
    private final PassageSources from;

    PassageHouse(Workbench workbench, BenchReader benches) {
        this.workbench = workbench;
        this.benches = benches;
        this.from = new PassageSources(workbench, benches);
    }

    /** Ids of the parts at hand. */
    Set<String> atHand(PartsCatalogue parts) {
        Set<String> hand = new TreeSet<>();
        parts.parts().stream().filter(Part::usual).map(Part::id).forEach(hand::add);
        for (String each : workbench
                .workspace()
                .settings()
                .get(HouseRules.PARTS)
                .orElse("")
                .split(",")) {
            if (each.startsWith("-")) {
                hand.remove(each.substring(1));
            } else if (!each.isBlank()) {
                hand.add(each);
            }
        }
        return hand;
    }

    /** Says of a part whether it is at hand. */
    void tell(String part, boolean here) throws IOException {
        Set<String> told = new TreeSet<>(List.of(workbench
                .workspace()
                .settings()
                .get(HouseRules.PARTS)
                .orElse("")
                .split(",")));
        told.removeIf(each -> each.isBlank() || each.equals(part) || each.equals("-" + part));
        told.add(here ? part : "-" + part);
        workbench.keep(HouseRules.PARTS, String.join(",", told));
    }

    /** What of the house a plan goes into. */
    record Needs(boolean images, boolean copies, boolean recovery, boolean imagesToHelp) {
        /** Whatever is wished for. */
        static final Needs ALL = new Needs(true, true, true, true);

        static Needs of(Wish wish) {
            boolean help = wish.kind() == Wish.Kind.ORDER;
            return new Needs(
                    FROM_IMAGES.contains(wish.kind()),
                    FROM_COPIES.contains(wish.kind()),
                    help || wish.kind() == Wish.Kind.REVIVE,
                    help);
        }
    }

    PassageFacts facts(Workbench.BoardAtHand at, Needs needs) throws IOException {
        RegisterSnapshot record = RegisterSnapshot.of(workbench);
        Bench bench = benches.of(at, record.media());
        Map<String, MediumContents> contents = new HashMap<>();
        Optional<Media.Medium> main = Workbench.mainMedium(at, record.media());
        List<PassageFacts.Source> sources = new ArrayList<>();
        boolean fromCard = needs.imagesToHelp() && !Rehearsal.of(bench).runs();
        from.images(at, fromCard || needs.images(), sources, contents);
        from.copies(at, needs.copies(), sources, contents);
        if (needs.recovery()) {
            from.recovery(at, sources, contents);
        }
        List<PassageFacts.Stock> stock = stock(at, record, contents, sources);
        PartsCatalogue parts = workbench.parts();
        return new PassageFacts(
                at.register().id(),
                at.register().name(),
                bench,
                at.board().overlay(),
                ByteSize.parse(at.board().memory()).compareTo(OVERLAY_NEEDS) >= 0,
                at.board().silentCarrier(),
                workbench.rules().pcie(),
                shut(at),
                main.map(Media.Medium::id),
                stock,
                otherThings(record),
                sources,
                from.releases(at),
                parts.parts(),
                atHand(parts),
                workbench.media().enclosures(),
                contents,
                workbench.rules().wayBack(),
                bench.network().tftpRoot().isPresent(),
                weights());
    }

    /** Whatever of them is named by its user is known, also where it is no choice for this board. */
    private Set<String> otherThings(RegisterSnapshot record) {
        Set<String> things = new TreeSet<>();
        record.media().forEach(each -> things.add(each.medium().id()));
        workbench.media().kinds().forEach(each -> things.add(each.id()));
        return things;
    }

    private Weights weights() {
        return workbench.rules().weights();
    }

    /** Behind the lid: what sits on the board itself, and a card slot that cannot be reached. */
    private Set<String> shut(Workbench.BoardAtHand at) {
        boolean slot = new StorageQuestion(workbench).role(at).slotReachable();
        Set<String> shut = new HashSet<>();
        for (BoardProfile.Port port : at.profile().ports()) {
            if (port.source() == StartSource.NVME || (port.source() == StartSource.CARD && !slot)) {
                shut.add(port.id());
            }
        }
        return shut;
    }

    private List<PassageFacts.Stock> stock(
            Workbench.BoardAtHand at,
            RegisterSnapshot record,
            Map<String, MediumContents> contents,
            List<PassageFacts.Source> sources)
            throws IOException {
        MediaHealth health = MediaHealth.of(workbench, record);
        Map<String, Boards.Board> service = workbench.inService();
        Map<String, String> ports = new HashMap<>();
        at.board().attached().forEach(plug -> ports.put(plug.drive(), plug.port()));
        List<PassageFacts.Stock> stock = new ArrayList<>();
        for (Media.Listed each : record.media()) {
            Media.Medium medium = each.medium();
            Optional<String> port = Optional.ofNullable(ports.get(medium.file()));
            MediumKind.Medium candidate = health.candidate(each, Optional.ofNullable(service.get(medium.file())));
            if (port.isPresent()) {
                stock.add(new PassageFacts.Stock(candidate, true, port, own(at, medium, contents)));
            } else if (each.details().state() == Media.State.HERE
                    && !service.containsKey(medium.file())
                    && candidate.replacement().filter(day -> day.due()).isEmpty()) {
                free(at, each, record, contents, sources)
                        .ifPresent(held -> stock.add(new PassageFacts.Stock(candidate, true, Optional.empty(), held)));
            }
        }
        workbench.media().offered().stream()
                .filter(offer -> !offer.kind().bus().equals("network"))
                .filter(offer -> stock.stream().noneMatch(each -> each.id().equals(offer.id())))
                .forEach(offer -> stock.add(new PassageFacts.Stock(
                        offer, false, Optional.empty(), offer.kind().lasting() ? Held.NOTHING : Held.UNPROVEN)));
        return stock;
    }

    /** What is in the board: its system writes, so that some of it is nowhere else. */
    private Held own(Workbench.BoardAtHand at, Media.Medium medium, Map<String, MediumContents> contents)
            throws IOException {
        MediumContents there = benches.contents(medium, at.profile());
        if (isBlank(there)) {
            return Held.NOTHING;
        }
        String key = "medium:" + medium.id();
        contents.put(key, there);
        if (Workbench.mainMedium(at, workbench.workspace().media().listed())
                .filter(medium::equals)
                .isPresent()) {
            rootNamed(at, there).ifPresent(named -> contents.put(key + PassageFacts.ROOT_NAMED, named));
        }
        return new Held(key, true, false, false, false, false, true);
    }

    /** As it is once its root is named by its identifier; empty where nothing of that has to change, or cannot. */
    private Optional<MediumContents> rootNamed(Workbench.BoardAtHand at, MediumContents there) throws IOException {
        Optional<FirstStartFiles> files = benches.mainFiles(at);
        if (files.isEmpty() || there.start().isEmpty()) {
            return Optional.empty();
        }
        FirstStartPlan plan = FirstStartPlan.of(ROOT_BY_IDENTIFIER, files.get(), at.profile());
        if (!plan.stops().isEmpty()) {
            return Optional.empty();
        }
        MediumContents named = there;
        for (FileEdit edit : plan.edits()) {
            Optional<byte[]> after = edit.after().map(FileBody::bytes);
            if (edit.file().equals(there.start().get().kernelLineFile())) {
                named = named.withStart(start -> start.withLine(after));
            } else if (edit.file().equals("/etc/fstab") && after.isPresent()) {
                String fstab = new String(after.get(), StandardCharsets.UTF_8);
                Map<Integer, MediumContents.RootFiles> roots = new HashMap<>();
                named.roots().forEach((number, root) -> roots.put(number, root.withFstab(fstab)));
                named = named.withRoots(roots);
            }
        }
        return Optional.of(named).filter(after -> !after.equals(there));
    }

    private static boolean isBlank(MediumContents there) {
        return there.unreadable().isEmpty()
                && there.start().isEmpty()
                && there.inspection().partitions().isEmpty();
    }

    /** What lies in the drawer and may be written: empty, or holding what is somewhere else as well; empty where it may not. */
    private Optional<Held> free(
            Workbench.BoardAtHand at,
            Media.Listed listed,
            RegisterSnapshot record,
            Map<String, MediumContents> contents,
            List<PassageFacts.Source> sources)
            throws IOException {
        Media.Medium medium = listed.medium();
        Optional<Operations.Operation> write =
                Optional.ofNullable(record.lastWrites().get(medium.id()));
        Optional<Operations.Operation> touch =
                Optional.ofNullable(record.lastTouching().get(medium.id()));
        boolean writtenLast = touch.filter(
                        each -> write.filter(last -> last.id() > each.id()).isEmpty())
                .isEmpty();
        Optional<Ending> ended = (writtenLast ? write : touch).map(Operations.Operation::ending);
        if (ended.filter(FAILED::contains).isPresent()) {
            return Optional.empty();
        }
        // Only a write leaves nothing that anybody misses; what was looked at or set up holds what it held.
        if (writtenLast && ended.filter(HALF_WRITTEN::contains).isPresent()) {
            return Optional.of(Held.NOTHING);
        }
        if (benches.unread(medium)) {
            return listed.details().holds().equals("nothing") ? Optional.of(Held.NOTHING) : Optional.empty();
        }
        if (isBlank(benches.contents(medium, at.profile()))) {
            return Optional.of(Held.NOTHING);
        }
        boolean good = write.filter(each -> each.ending() == Ending.VERIFIED || each.ending() == Ending.WRITTEN)
                .isPresent();
        if (!good) {
            return Optional.empty();
        }
        List<Operations.Operation> plugged = pluggedAfter(medium, write.get());
        boolean elsewhere = plugged.stream()
                .anyMatch(each ->
                        !each.deed().board().equals(Optional.of(at.register().id())));
        if (elsewhere) {
            return Optional.empty();
        }
        boolean setUp = touch.filter(each -> each.id() != write.get().id()).isPresent();
        Optional<String> source = sources.stream()
                .map(PassageFacts.Source::id)
                .filter(id -> id.equals("image:" + write.get().image()))
                .findFirst();
        if (source.isPresent()) {
            contents.putIfAbsent(source.get(), benches.contents(medium, at.profile()));
            // What this board wrote to it is only there: it goes in again as it is, and is not written over.
            return Optional.of(new Held(source.get(), !plugged.isEmpty(), setUp, false, false, false, true));
        }
        if (!plugged.isEmpty()) {
            return Optional.empty();
        }
        // A spare of this board's own is written anew; another board's is left alone.
        boolean ownCopy = workbench.workspace().copies().of(at.register().id()).stream()
                .anyMatch(copy -> copy.file().endsWith("/" + write.get().image()));
        if (!ownCopy) {
            return Optional.empty();
        }
        String key = "medium:" + medium.id();
        contents.put(key, benches.contents(medium, at.profile()));
        return Optional.of(new Held(key, false, setUp, false, false, false, true));
    }

    /** Boards it was in since wrote to it, for all anybody knows. */
    private List<Operations.Operation> pluggedAfter(Media.Medium medium, Operations.Operation write) {
        return workbench.workspace().operations().plugs().stream()
                .filter(each -> each.deed()
                        .medium()
                        .filter(id -> !id.equals(medium.id()))
                        .isEmpty())
                .filter(each -> write.ended().filter(each.started()::isBefore).isEmpty())
                .toList();
    }
}
