// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.core.storage.media.MediumKind;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Stream;

/** What is done at the PC. Minutes by the paces that were measured, else by those of the kind; the rest common practice, no source. */
final class DeskMoves {
    /** Finding it, typing its name, waiting for the last of it. */
    private static final double HANDLING = 1;

    private static final double BUYING = 5;
    private static final double SETTING_UP = 3;
    private static final double PROVING = 2;
    private static final double SECONDS_IN_A_MINUTE = 60;
    /** Less than this share more is not worth a step. */
    private static final double WORTH_GROWING = 1.1;

    /** What is set up where nothing else is. */
    public static final String ROOT_BY_IDENTIFIER = "root-by-identifier";

    private final PassageFacts facts;
    private final Scheme scheme;
    private final ReadingParts reading;

    DeskMoves(PassageFacts facts, Starts starts, Scheme scheme) {
        this.facts = facts;
        this.scheme = scheme;
        this.reading = new ReadingParts(facts, starts);
    }

    /** What the scheme's media need, and its target where it is not owned. */
    void buy(Situation now, Consumer<Act> acts) {
        if (!scheme.allows(Deed.BUY)) {
            return;
        }
        media().filter(id -> now.placeOf(id).equals(Situation.SHOP)).forEach(id -> {
            MediumKind.Medium medium = stock(id).medium();
            acts.accept(new Act(
                    Steps.of(Deed.BUY, "Buy " + medium.name() + ", or what comes up to it.")
                            .medium(id)
                            .cost(Cost.minutes(BUYING).spending(medium.price()))
                            .proves("it is in the register")
                            .step(),
                    now.moved(id, Situation.DESK).buying(id)));
        });
        media().flatMap(id -> wanted(stock(id).medium().kind(), now).stream())
                .distinct()
                .forEach(part -> acts.accept(new Act(
                        Steps.of(Deed.BUY, "Buy " + part.title() + ".")
                                .value(part.id())
                                .cost(Cost.minutes(BUYING).spending(part.price()))
                                .proves("it is at hand")
                                .step(),
                        now.buying(part.id()))));
    }

    /** The part that is missing for it to be read and written here, where it can be bought. */
    private Optional<Part> wanted(MediumKind kind, Situation now) {
        return reading.of(kind).filter(part -> !reading.isAtHand(part, now)).filter(facts.parts()::contains);
    }

    /** A card or stick out of a shop may hold less than it says. */
    void prove(Situation now, Consumer<Act> acts) {
        scheme.target()
                .filter(id -> scheme.allows(Deed.PROVE)
                        && ready(now, id)
                        && !now.held(id).proven())
                .ifPresent(id -> acts.accept(new Act(
                        at(id, Deed.PROVE, "Prove that " + name(id) + " holds what it says.")
                                .cost(Cost.minutes(PROVING))
                                .proves("what was put down at its far end reads back")
                                .step(),
                        now.holding(id, now.held(id).looked()))));
    }

    void copy(Situation now, Consumer<Act> acts) {
        facts.main()
                .filter(id -> scheme.allows(Deed.COPY)
                        && ready(now, id)
                        && !now.held(id).empty()
                        && readable(now.held(id))
                        && !now.copied().contains(now.held(id).content()))
                .ifPresent(id -> acts.accept(new Act(
                        at(id, Deed.COPY, "Copy " + name(id) + " into the vault.")
                                .cost(Cost.minutes(HANDLING + minutes(used(now.held(id)), reads(id))))
                                .proves("the copy is read back and whole")
                                .step(),
                        now.copying(id))));
    }

    private boolean readable(Held held) {
        MediumContents there = facts.contents().get(held.content());
        return there != null && there.unreadable().isEmpty();
    }

    /** Its system straight onto another medium; both stay whole. */
    void copyOntoIt(Situation now, Consumer<Act> acts) {
        if (!scheme.allows(Deed.CLONE)
                || facts.main().isEmpty()
                || scheme.target().isEmpty()) {
            return;
        }
        String from = facts.main().get();
        String to = scheme.target().get();
        Held held = now.held(from);
        if (from.equals(to)
                || !ready(now, from)
                || held.empty()
                || !readable(held)
                || !writable(now, to, least(held))
                || now.held(to).content().equals(held.content())
                || shareOnePart(from, to)) {
            return;
        }
        ByteSize bytes = used(held);
        double minutes = HANDLING + minutes(bytes, slower(reads(from), writes(to))) + minutes(bytes, reads(to));
        acts.accept(new Act(
                at(to, Deed.CLONE, "Clone " + name(from) + " onto " + name(to) + ".")
                        .source(from)
                        .needs(from)
                        .needs(reading.of(stock(from).medium().kind()))
                        .cost(Cost.minutes(minutes).writing(bytes.bytes()))
                        .proves("each byte reads back as it was written")
                        .step(),
                now.holding(
                        to,
                        held.rootNamed()
                                ? now.held(to).writtenWith(held.content()).named()
                                : now.held(to).writtenWith(held.content()))));
    }

    /** Two cards and one reader: the way leads over a copy. */
    private boolean shareOnePart(String from, String to) {
        Optional<Part> part = reading.of(stock(from).medium().kind());
        return part.isPresent() && part.equals(reading.of(stock(to).medium().kind()));
    }

    void write(Situation now, Consumer<Act> acts) {
        put(now, acts, Deed.WRITE, source -> !source.isCopy(), "Write ");
    }

    void restore(Situation now, Consumer<Act> acts) {
        put(now, acts, Deed.RESTORE, PassageFacts.Source::isCopy, "Put back ");
        if (!scheme.allows(Deed.RESTORE)
                || facts.main().isEmpty()
                || scheme.target().isEmpty()) {
            return;
        }
        // The copy that was made on the way.
        String to = scheme.target().get();
        String content = stock(facts.main().get()).held().content();
        Held like = now.held(to).writtenWith(content);
        if (now.copied().contains(content)
                && !now.held(to).content().equals(content)
                && scheme.source().isEmpty()
                && writable(now, to, least(like))) {
            ByteSize bytes = used(like);
            acts.accept(new Act(
                    at(to, Deed.RESTORE, "Put the copy just made onto " + name(to) + ".")
                            .source("copy:newest")
                            .cost(Cost.minutes(HANDLING + minutes(bytes, writes(to)) + minutes(bytes, reads(to)))
                                    .writing(bytes.bytes()))
                            .proves("each byte reads back as it was written")
                            .step(),
                    now.holding(to, like)));
        }
    }

    private interface Which {
        boolean takes(PassageFacts.Source source);
    }

    private void put(Situation now, Consumer<Act> acts, Deed deed, Which which, String verb) {
        Optional<PassageFacts.Source> source =
                scheme.source().flatMap(facts::source).filter(which::takes);
        if (!scheme.allows(deed) || source.isEmpty() || scheme.target().isEmpty()) {
            return;
        }
        String to = scheme.target().get();
        PassageFacts.Source from = source.get();
        if (now.held(to).content().equals(from.id()) || !writable(now, to, from.least())) {
            return;
        }
        Steps steps = at(to, deed, verb + from.title() + (deed == Deed.WRITE ? " to " : " onto ") + name(to) + ".")
                .source(from.id())
                .cost(Cost.minutes(HANDLING + minutes(from.written(), writes(to)) + minutes(from.written(), reads(to)))
                        .writing(from.written().bytes()))
                .proves("each byte reads back as it was written");
        if (from.isRecovery()) {
            now.board().config().value(facts.bench().profile().order().key()).ifPresent(steps::value);
        }
        acts.accept(new Act(steps.step(), now.holding(to, now.held(to).writtenWith(from.id()))));
    }

    /** Nothing that is nowhere else is ever written over. */
    private boolean writable(Situation now, String id, ByteSize least) {
        Held held = now.held(id);
        return ready(now, id)
                && held.proven()
                && !held.onlyHere()
                && stock(id).medium().size().compareTo(least) >= 0;
    }

    /** Whether it can be read and written here: out of the board, and with what it takes at hand. */
    private boolean ready(Situation now, String id) {
        return now.atDesk(id)
                && reading.of(stock(id).medium().kind())
                        .filter(part -> !reading.isAtHand(part, now))
                        .isEmpty();
    }

    void grow(Situation now, Consumer<Act> acts) {
        scheme.target()
                .filter(id -> scheme.allows(Deed.GROW)
                        && ready(now, id)
                        && !now.held(id).empty()
                        && !now.held(id).grown()
                        && isWorthGrowing(facts, id, now.held(id)))
                .ifPresent(id -> acts.accept(new Act(
                        at(id, Deed.GROW, "Let the last partition of " + name(id) + " take the room there is.")
                                .cost(Cost.minutes(HANDLING))
                                .proves("its table reads back so")
                                .step(),
                        now.holding(id, now.held(id).filling()))));
    }

    static boolean isWorthGrowing(PassageFacts facts, String id, Held held) {
        double size = facts.stock(id).orElseThrow().medium().size().bytes();
        return size > WORTH_GROWING * least(facts, held).bytes();
    }

    void setUp(Situation now, Consumer<Act> acts) {
        if (scheme.source().isEmpty() && !scheme.target().equals(facts.main())) {
            return;
        }
        // A board that is made read-only has it done to what it starts from.
        boolean overlay =
                scheme.target().equals(facts.main()) && scheme.source().isEmpty();
        scheme.target()
                .filter(id -> scheme.allows(Deed.SET_UP)
                        && ready(now, id)
                        && !now.held(id).empty()
                        && !now.held(id).setUp())
                .filter(id -> !overlay || !now.board().overlay())
                .ifPresent(id -> {
                    Situation after = now.holding(id, now.held(id).prepared());
                    acts.accept(new Act(
                            at(
                                            id,
                                            Deed.SET_UP,
                                            overlay
                                                    ? "Switch the read-only overlay on in the files of " + name(id)
                                                            + "."
                                                    : "Set the first start up on " + name(id)
                                                            + ": remote login, account, network.")
                                    .value(overlay ? "read-only" : "first-start")
                                    .cost(Cost.minutes(SETTING_UP))
                                    .proves("each file reads back as it was put")
                                    .step(),
                            overlay ? after.with(now.board().readOnly()) : after));
                });
    }

    /** A kernel line that names its root by its place finds nothing once the medium sits elsewhere. */
    void nameRoot(Situation now, Consumer<Act> acts) {
        if (!scheme.allows(Deed.SET_UP)) {
            return;
        }
        // What is cloned stays as it is: it is the way back.
        boolean mainStays = scheme.source().isEmpty();
        media().filter(id -> !mainStays || scheme.target().filter(id::equals).isPresent())
                .filter(id -> ready(now, id)
                        && !now.held(id).rootNamed()
                        && facts.contents().containsKey(now.held(id).content() + PassageFacts.ROOT_NAMED))
                .forEach(id -> acts.accept(new Act(
                        at(
                                        id,
                                        Deed.SET_UP,
                                        "Let the kernel line of " + name(id)
                                                + " name its root by its identifier, not by its place.")
                                .value(ROOT_BY_IDENTIFIER)
                                .cost(Cost.minutes(HANDLING))
                                .proves("the line reads back so")
                                .step(),
                        now.holding(id, now.held(id).named()))));
    }

    void newIdentity(Situation now, Consumer<Act> acts) {
        scheme.target()
                .filter(id -> scheme.allows(Deed.NEW_IDENTITY)
                        && ready(now, id)
                        && !now.held(id).empty()
                        && !now.held(id).ownIdentity())
                .ifPresent(id -> acts.accept(new Act(
                        at(id, Deed.NEW_IDENTITY, "Give " + name(id) + " identifiers of its own.")
                                .cost(Cost.minutes(HANDLING))
                                .proves("its table and the files that name it read back so")
                                .step(),
                        now.holding(id, now.held(id).renamed()))));
    }

    void clear(Situation now, Consumer<Act> acts) {
        facts.main()
                .filter(id -> scheme.allows(Deed.CLEAR)
                        && ready(now, id)
                        && !now.held(id).empty()
                        && !now.held(id).onlyHere())
                .ifPresent(id -> acts.accept(new Act(
                        at(id, Deed.CLEAR, "Clear " + name(id) + ".")
                                .cost(Cost.minutes(HANDLING))
                                .proves("no table and no file system reads back")
                                .step(),
                        now.holding(id, Held.NOTHING))));
    }

    private Steps at(String id, Deed deed, String text) {
        return Steps.of(deed, text)
                .medium(id)
                .needs(id)
                .needs(reading.of(stock(id).medium().kind()));
    }

    /** The scheme's target, and what the board starts from. */
    private Stream<String> media() {
        return Stream.concat(scheme.target().stream(), facts.main().stream())
                .distinct()
                .filter(id -> facts.stock(id).isPresent());
    }

    private PassageFacts.Stock stock(String id) {
        return facts.stock(id).orElseThrow();
    }

    private String name(String id) {
        return stock(id).medium().name();
    }

    private ByteRate reads(String id) {
        return stock(id).medium().readRate();
    }

    private ByteRate writes(String id) {
        return stock(id).medium().writeRate();
    }

    private static ByteRate slower(ByteRate one, ByteRate other) {
        return one.bytesPerSecond() < other.bytesPerSecond() ? one : other;
    }

    private static double minutes(ByteSize size, ByteRate rate) {
        return size.bytes() / Math.max(1, rate.bytesPerSecond()) / SECONDS_IN_A_MINUTE;
    }

    private ByteSize used(Held held) {
        return facts.source(held.content())
                .map(PassageFacts.Source::written)
                .orElseGet(
                        () -> facts.contents().get(held.content()).inspection().used());
    }

    private static ByteSize least(PassageFacts facts, Held held) {
        return facts.source(held.content())
                .map(PassageFacts.Source::least)
                .orElseGet(
                        () -> facts.contents().get(held.content()).inspection().leastMedium());
    }

    private ByteSize least(Held held) {
        return least(facts, held);
    }
}
