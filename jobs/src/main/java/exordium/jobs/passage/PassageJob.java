// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.passage;

import exordium.core.block.TransferWatch;
import exordium.core.finding.BadArgument;
import exordium.core.finding.NotPossible;
import exordium.core.finding.PlainText;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.passage.Deed;
import exordium.core.passage.PassagePlan;
import exordium.core.passage.Route;
import exordium.core.passage.Step;
import exordium.core.passage.Wish;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.daysheet.DaySheets;
import exordium.store.Media;
import exordium.store.Passages;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;

/** Wishes of boards, the ways to them, and how far each is. */
public final class PassageJob {
    private final Workbench workbench;
    private final PassageHouse house;
    private final Passages passages;
    private final StepWork work;
    private final Course course;

    public PassageJob(Workbench workbench, BenchReader benches, DaySheets sheets, Targets targets) {
        this.workbench = workbench;
        this.house = new PassageHouse(workbench, benches);
        this.passages = workbench.workspace().passages();
        this.work = new StepWork(workbench, benches, sheets, targets);
        this.course = new Course(workbench, house);
    }

    public Prospect prospect(String board) throws IOException {
        return new Prospect(house.facts(workbench.board(board), PassageHouse.Needs.ALL));
    }

    /** All wishes, each with what it would take. */
    public List<Prospect.Offer> wishes(String board) throws IOException {
        Prospect prospect = prospect(board);
        List<Prospect.Offer> offers = new ArrayList<>();
        for (Wish.Kind kind : Wish.Kind.values()) {
            offers.add(prospect.offer(kind));
        }
        return offers;
    }

    /** @throws UnreadableInput when there is no such board, or a thing is named that there is not */
    public PassagePlan plan(String board, Wish wish, PassagePlan.Given given) throws IOException {
        return PassagePlan.of(house.facts(workbench.board(board), PassageHouse.Needs.of(wish)), wish, given);
    }

    /**
     * A step of a passage, as it stands.
     *
     * @param confirm the name to be typed for it; empty where none is, or its medium is not here
     * @param over what is written over by it, in words; empty where nothing is
     * @param tells facts that have to be told with it, since nothing here reads them
     */
    public record Standing(
            Step step,
            Progress progress,
            Optional<Instant> at,
            String said,
            Optional<String> confirm,
            String over,
            Tells tells) {}

    /** A passage as it stands; changed: why it was planned anew. */
    public record Shown(
            long id,
            String board,
            Wish wish,
            Passages.State state,
            Instant begun,
            String changed,
            List<Standing> steps) {
        /** What is to be done now; empty where it has ended. */
        public Optional<Standing> next() {
            return steps.stream()
                    .filter(each -> each.progress() == Progress.NEXT)
                    .findFirst();
        }

        public boolean underWay() {
            return state == Passages.State.UNDER_WAY;
        }

        /** How many steps are done, of those that count. */
        public int done() {
            return (int) steps.stream()
                    .filter(each -> each.progress() == Progress.DONE)
                    .count();
        }

        /** Those that fell are replaced by others. */
        public int counted() {
            return (int) steps.stream()
                    .filter(each -> each.progress() != Progress.FALLEN)
                    .count();
        }

        public String stateSaid() {
            return state.code().replace('-', ' ');
        }

        public long wholeMinutesLeft() {
            return underWay() ? Math.max(1, Math.round(minutesLeft())) : 0;
        }

        /** Minutes of what is left. */
        public double minutesLeft() {
            return steps.stream()
                    .filter(each -> each.progress() == Progress.NEXT || each.progress() == Progress.OPEN)
                    .mapToDouble(each -> each.step().cost().minutes())
                    .sum();
        }
    }

    /**
     * Begins one of the ways.
     *
     * @param route which, from 1
     * @throws NotPossible when there is none, or one is under way at that board
     */
    public Shown start(String board, Wish wish, PassagePlan.Given given, int route) throws IOException {
        requireNoneUnderWay(board);
        PassagePlan plan = plan(board, wish, given);
        if (plan.routes().isEmpty()) {
            throw plan.possible()
                    ? new NotPossible(plan.reason() + " There is nothing to begin.")
                    : new NotPossible(plan.reason());
        }
        if (route < 1 || route > plan.routes().size()) {
            throw new BadArgument(
                    "There "
                            + (plan.routes().size() == 1
                                    ? "is one way"
                                    : "are " + plan.routes().size() + " ways") + "; there is no " + route + ".",
                    String.valueOf(route));
        }
        Route chosen = plan.routes().get(route - 1);
        passages.add(
                board,
                wish.said(),
                workbench.clock().instant(),
                KeptPlan.of(given, chosen).json());
        return show(Optional.of(board)).get(0);
    }

    /** @throws NotPossible when the board is on its way somewhere */
    public void requireNoneUnderWay(String board) throws IOException {
        Workbench.BoardAtHand at = workbench.board(board);
        Optional<Passages.Passage> there = passages.underWay(board);
        if (there.isPresent()) {
            throw new NotPossible(at.register().name() + " is on its way already, to "
                    + there.get().wish() + "; stop that first.");
        }
    }

    /** The newest passage of each board, or of one; looked at anew: what does not hold any more has fallen, and what is otherwise is planned anew. */
    public List<Shown> show(Optional<String> board) throws IOException {
        if (board.isPresent()) {
            workbench.workspace().boards().require(board.get());
        }
        List<Shown> shown = new ArrayList<>();
        List<Passages.Passage> all = passages.all();
        for (int i = all.size() - 1; i >= 0; i--) {
            Passages.Passage each = all.get(i);
            boolean newest = shown.stream().noneMatch(other -> other.board().equals(each.board()));
            if (newest && board.filter(id -> !id.equals(each.board())).isEmpty()) {
                shown.add(shown(each.state() == Passages.State.UNDER_WAY ? course.refreshed(each) : each));
            }
        }
        return shown;
    }

    private Shown shown(Passages.Passage passage) throws IOException {
        KeptPlan plan = KeptPlan.read(passage);
        List<Standing> steps = new ArrayList<>();
        for (int i = 0; i < plan.steps().size(); i++) {
            KeptPlan.Kept kept = plan.steps().get(i);
            boolean next = passage.state() == Passages.State.UNDER_WAY && i == plan.next();
            Progress progress = plan.progress(i);
            steps.add(new Standing(
                    kept.step(),
                    progress == Progress.NEXT && !next ? Progress.OPEN : progress,
                    kept.at(),
                    kept.said(),
                    next ? confirm(kept.step()) : Optional.empty(),
                    next ? work.over(kept.step()) : "",
                    next ? work.tells(workbench.board(passage.board()), kept.step()) : Tells.NOTHING));
        }
        return new Shown(
                passage.id(),
                passage.board(),
                Wish.parse(passage.wish()),
                passage.state(),
                passage.begun(),
                passage.changed(),
                steps);
    }

    /** A medium that is away has no name that could be typed. */
    private Optional<String> confirm(Step step) {
        try {
            return work.nameOf(step);
        } catch (IOException e) {
            return Optional.empty();
        }
    }

    /** The passage under way a step belongs to. @throws UnreadableInput when there is none, or it is not clear which */
    private Passages.Passage of(Optional<String> board) throws UnreadableInput {
        if (board.isPresent()) {
            workbench.workspace().boards().require(board.get());
            return passages.underWay(board.get())
                    .orElseThrow(() -> new UnreadableInput("No passage is under way at " + board.get() + "."));
        }
        List<Passages.Passage> all = passages.all().stream()
                .filter(each -> each.state() == Passages.State.UNDER_WAY)
                .toList();
        if (all.size() == 1) {
            return all.get(0);
        }
        throw new UnreadableInput(
                all.isEmpty()
                        ? "No passage is under way."
                        : "Passages are under way at "
                                + String.join(
                                        ", ",
                                        all.stream()
                                                .map(Passages.Passage::board)
                                                .toList())
                                + ": say which with --board.");
    }

    /**
     * Carries a step out, or takes what was seen of one that was done by hand.
     *
     * @param typed the target's own name, for what writes over something
     * @param saw by the names of facts
     * @throws NotPossible when it cannot be done now, and nothing was changed; or when it did not come to what it was to bring about,
     *     and the passage was planned anew
     */
    public Shown done(String step, Optional<String> board, String typed, Map<String, String> saw, TransferWatch watch)
            throws IOException {
        StartSteps.requireFacts(saw);
        Passages.Passage passage = course.refreshed(of(board));
        KeptPlan plan = KeptPlan.read(passage);
        int index = index(plan, step);
        KeptPlan.Kept kept = plan.steps().get(index);
        if (kept.done()) {
            throw new NotPossible("The step " + step + " is done already.");
        }
        if (index != plan.next() && kept.step().deed() != Deed.BUY) {
            throw new NotPossible("The step " + step + " comes after "
                    + plan.steps().get(plan.next()).step().id() + ".");
        }
        Workbench.BoardAtHand at = workbench.board(passage.board());
        if (kept.step().deed() == Deed.BUY && kept.step().medium().isPresent()) {
            return boughtMedium(passage, plan, index);
        }
        StepWork.Outcome outcome;
        try {
            outcome = work.carryOut(at, kept.step(), typed, saw, watch);
        } catch (CameOtherwise e) {
            course.anew(passage, plan.with(index, kept.fallen(e.getMessage())), plan.given(), e.getMessage());
            throw new NotPossible(e.getMessage(), e);
        }
        Instant now = workbench.clock().instant();
        KeptPlan after = plan.with(index, kept.done(now, outcome.row(), outcome.said() + seen(saw)));
        Passages.State state = after.next() < 0 ? Passages.State.DONE : Passages.State.UNDER_WAY;
        passages.put(passage.with(state, after.json(), passage.changed()));
        return show(Optional.of(passage.board())).get(0);
    }

    private static String seen(Map<String, String> saw) {
        return saw.isEmpty()
                ? ""
                : " Seen: "
                        + saw.entrySet().stream()
                                .map(each -> each.getKey() + "=" + PlainText.line(each.getValue()))
                                .sorted()
                                .collect(Collectors.joining(", "))
                        + ".";
    }

    private static int index(KeptPlan plan, String step) throws UnknownName {
        for (int i = 0; i < plan.steps().size(); i++) {
            if (plan.steps().get(i).step().id().equals(step)) {
                return i;
            }
        }
        List<String> all = plan.steps().stream().map(each -> each.step().id()).toList();
        throw new UnknownName(
                "This passage has no step \"" + step + "\"; it has " + String.join(", ", all) + ".", step, all);
    }

    /** What was bought is in the register under a name of its own: from here on with that. */
    private Shown boughtMedium(Passages.Passage passage, KeptPlan plan, int index) throws IOException {
        KeptPlan.Kept kept = plan.steps().get(index);
        String offer = kept.step().medium().orElseThrow();
        Set<String> before = new TreeSet<>(plan.given().with());
        Media.Medium bought = new BoughtMedium(workbench).of(offer, before);
        before.add(bought.id());
        PassagePlan.Given given = new PassagePlan.Given(before, plan.given().without());
        KeptPlan after = plan.with(
                index,
                kept.done(
                        workbench.clock().instant(), Optional.empty(), "It is " + bought.name() + " in the register."));
        course.anew(passage, after, given, bought.name() + " was bought.");
        return show(Optional.of(passage.board())).get(0);
    }

    /** Whether it can be read, as one that came with somebody else's workspace has to be. @throws UnreadableInput when it cannot */
    public static void requireWhole(Passages.Passage passage) throws UnreadableInput {
        Wish.parse(passage.wish());
        KeptPlan.read(passage);
    }

    /** From here on by what is best now, as where something came into the drawer that was not there when it was begun. */
    public Shown anew(String board) throws IOException {
        Passages.Passage passage = course.refreshed(of(Optional.of(board)));
        KeptPlan plan = KeptPlan.read(passage);
        PassagePlan now = plan(board, Wish.parse(passage.wish()), plan.given());
        if (now.routes().isEmpty() && !now.possible()) {
            throw new NotPossible(now.reason() + " The passage stays as it is.");
        }
        course.anew(passage, plan.withoutTarget(), plan.given(), "You asked for it.");
        return show(Optional.of(board)).get(0);
    }

    /** Leaves a passage where it is. */
    public Shown stop(String board) throws IOException {
        Passages.Passage passage = of(Optional.of(board));
        passages.put(passage.with(Passages.State.STOPPED, passage.plan(), passage.changed()));
        return show(Optional.of(board)).get(0);
    }
}
