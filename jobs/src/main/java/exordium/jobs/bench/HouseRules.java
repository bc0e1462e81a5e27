// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.bootorder.FirstTried;
import exordium.core.copies.care.WayBack;
import exordium.core.copies.schedule.CopyRule;
import exordium.core.copies.schedule.Retention;
import exordium.core.firmware.Channel;
import exordium.core.firststart.SetUpAt;
import exordium.core.passage.Weights;
import exordium.core.storage.judgement.Reliability;
import exordium.core.storage.judgement.StorageNeed;
import exordium.core.storage.judgement.StorageRules;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.BiConsumer;
import java.util.regex.Pattern;

/**
 * What the user decided once: house rules, and how the window looks; each with its default. It is as it was when it was read; what
 * is decided by it counts here at once and is handed on to be kept.
 */
public final class HouseRules {
    /** Before a board's id: what was wanted of its first start. It says what is offered next time, and permits nothing. */
    public static final String FIRST_START = "firststart.";

    private static final int LONGEST_INTENTS = 1 << 16;
    private static final String REAL_DRIVES = "real-drives";
    private static final String THEME = "theme";
    private static final String TEXT_SIZE = "text-size";
    private static final String NAME = "name";
    private static final String COPY_DAYS = "copy-days";
    private static final String COPY_DAYS_LIGHT = "copy-days-light";
    private static final String COPY_RISK = "copy-by-risk";
    private static final String DUE_RUNS = "due-runs";
    private static final String REMINDERS = "reminders";
    private static final String KEEP_LAST = "keep-last";
    private static final String KEEP_MONTHS = "keep-months";
    private static final String KEEP_YEARS = "keep-years";
    private static final String KEEP_CHANGES = "keep-changes";
    private static final String SMALLEST_CARD = "smallest-card";
    private static final String PCIE = "pcie";
    private static final String RELIABILITY = "reliability";
    private static final String FIRST_TRIED = "first-tried";
    private static final String CHANNEL = "channel";
    private static final String WAY_BACK = "way-back";
    private static final String SET_UP_AT = "set-up-at";
    private static final String FREE_TAIL = "free-tail";
    private static final String WEIGH_OPENING = "weigh-opening";
    private static final String WEIGH_EURO = "weigh-euro";
    private static final String WEIGH_WEAR = "weigh-wear";
    /** Which parts the house has, beside those that mostly are there: ids with a comma between; a minus before one that is not. */
    public static final String PARTS = "parts-at-hand";

    private static final Pattern PART_LIST =
            Pattern.compile("(-?[a-z0-9][a-z0-9-]{0,59})(,-?[a-z0-9][a-z0-9-]{0,59}){0,199}");

    private final Map<String, String> known;
    private final BiConsumer<String, String> keeper;

    /** Where keeper: takes what is decided, to be kept. */
    public HouseRules(Map<String, String> known, BiConsumer<String, String> keeper) {
        this.known = new ConcurrentHashMap<>(known);
        this.keeper = keeper;
    }

    /** The same with another keeper. */
    public HouseRules keptBy(BiConsumer<String, String> other) {
        return new HouseRules(known, other);
    }

    /** Drives of the machine are off until the user turns them on. */
    public boolean realDrives() {
        return get(REAL_DRIVES).filter("on"::equals).isPresent();
    }

    public void realDrives(boolean on) {
        put(REAL_DRIVES, on ? "on" : "off");
    }

    public boolean nightChart() {
        return get(THEME).filter("night"::equals).isPresent();
    }

    public void nightChart(boolean on) {
        put(THEME, on ? "night" : "day");
    }

    /** In percent, 80 to 150. */
    public int textSize() {
        return number(TEXT_SIZE, 100);
    }

    public void textSize(int percent) {
        put(TEXT_SIZE, String.valueOf(Math.max(80, Math.min(150, percent))));
    }

    public String workspaceName() {
        return get(NAME).orElse("Exordium");
    }

    /** Whether its user gave it a name. */
    public boolean isNamed() {
        return get(NAME).isPresent();
    }

    public void workspaceName(String name) {
        put(NAME, name);
    }

    /** House rule: how often a board is copied. */
    public CopyRule copyRule() {
        return new CopyRule(
                number(COPY_DAYS, CopyRule.USUAL.days()),
                number(COPY_DAYS_LIGHT, CopyRule.USUAL.daysWhenLightlyUsed()),
                get(COPY_RISK).map("on"::equals).orElse(CopyRule.USUAL.byRisk()));
    }

    public void copyRule(CopyRule rule) {
        put(COPY_DAYS, String.valueOf(rule.days()));
        put(COPY_DAYS_LIGHT, String.valueOf(rule.daysWhenLightlyUsed()));
        put(COPY_RISK, rule.byRisk() ? "on" : "off");
    }

    /** House rule: whether due copies of media that are here are made by themselves while the window is open. */
    public boolean dueRuns() {
        return get(DUE_RUNS).map("on"::equals).orElse(true);
    }

    public void dueRuns(boolean on) {
        put(DUE_RUNS, on ? "on" : "off");
    }

    /** House rule: whether the desktop reminds of copies whose medium has to be fetched. */
    public boolean reminders() {
        return get(REMINDERS).map("on"::equals).orElse(true);
    }

    public void reminders(boolean on) {
        put(REMINDERS, on ? "on" : "off");
    }

    /** House rule: which copies are kept. */
    public Retention retention() {
        return new Retention(
                number(KEEP_LAST, Retention.USUAL.last()),
                number(KEEP_MONTHS, Retention.USUAL.months()),
                number(KEEP_YEARS, Retention.USUAL.years()),
                number(KEEP_CHANGES, Retention.USUAL.changes()));
    }

    public void retention(Retention rule) {
        put(KEEP_LAST, String.valueOf(rule.last()));
        put(KEEP_MONTHS, String.valueOf(rule.months()));
        put(KEEP_YEARS, String.valueOf(rule.years()));
        put(KEEP_CHANGES, String.valueOf(rule.changes()));
    }

    /** House rule: the smallest card's label, 8, 16 or 32 in decimal gigabytes; 16 unless set. */
    public int smallestLabel() {
        return number(SMALLEST_CARD, 16);
    }

    public void smallestLabel(int gigabytes) {
        put(SMALLEST_CARD, String.valueOf(gigabytes));
    }

    /** House rule: the PCIe generation NVMe drives are run at, 2 or 3; 2, the rated one, unless set. */
    public int pcie() {
        return number(PCIE, 2);
    }

    public void pcie(int generation) {
        put(PCIE, String.valueOf(generation));
    }

    /** House rule: what a board that has to go on running rests on. */
    public Reliability reliability() {
        return one(RELIABILITY, Reliability.BY_ROLE);
    }

    public void reliability(Reliability rule) {
        put(RELIABILITY, code(rule));
    }

    /** The house rules that count when storage is chosen, together. */
    public StorageRules storageRules() {
        return new StorageRules(StorageNeed.leastOf(smallestLabel()), pcie(), reliability());
    }

    /** House rule: card or drive first. */
    public FirstTried firstTried() {
        return one(FIRST_TRIED, FirstTried.CARD);
    }

    public void firstTried(FirstTried rule) {
        put(FIRST_TRIED, code(rule));
    }

    /** House rule: the channel a new board follows, and beside which the others are seen. */
    public Channel channel() {
        return one(CHANNEL, Channel.DEFAULT);
    }

    public void channel(Channel rule) {
        put(CHANNEL, code(rule));
    }

    /** House rule: back from a copy or from a new image. */
    public WayBack wayBack() {
        return one(WAY_BACK, WayBack.COPY);
    }

    public void wayBack(WayBack rule) {
        put(WAY_BACK, code(rule));
    }

    /** House rule: settings at writing time or at the board. */
    public SetUpAt setUpAt() {
        return one(SET_UP_AT, SetUpAt.WRITING);
    }

    public void setUpAt(SetUpAt rule) {
        put(SET_UP_AT, code(rule));
    }

    /** House rule: how much of a medium stays free behind the last partition when that is grown, in percent. */
    public int freeTail() {
        return number(FREE_TAIL, 1);
    }

    public void freeTail(int percent) {
        put(FREE_TAIL, String.valueOf(percent));
    }

    /** House rule: what counts how much when ways to a wish are compared. */
    public Weights weights() {
        return new Weights(
                number(WEIGH_OPENING, (int) Weights.USUAL.opening()),
                number(WEIGH_EURO, (int) Weights.USUAL.euro()),
                number(WEIGH_WEAR, (int) Weights.USUAL.wear()));
    }

    public void weights(Weights weights) {
        put(WEIGH_OPENING, String.valueOf((int) weights.opening()));
        put(WEIGH_EURO, String.valueOf((int) weights.euro()));
        put(WEIGH_WEAR, String.valueOf((int) weights.wear()));
    }

    /** Whether a rule may come from somebody else's workspace: it is one there is, can be read, and permits nothing. */
    public static boolean mayCome(String key, String value) {
        HouseRules rules = new HouseRules(Map.of(key, value), (one, other) -> {});
        try {
            return switch (key) {
                case NAME -> value.length() <= 80 && value.chars().noneMatch(Character::isISOControl);
                case THEME -> List.of("night", "day").contains(value);
                case TEXT_SIZE -> within(rules.textSize(), 80, 150);
                case REAL_DRIVES -> false;
                case PARTS -> PART_LIST.matcher(value).matches();
                default ->
                    RuleTable.find(key)
                            .map(rule -> rule.takes(value))
                            .orElse(key.startsWith(FIRST_START) && value.length() <= LONGEST_INTENTS);
            };
        } catch (IllegalArgumentException e) {
            return false;
        }
    }

    /** What was decided of a rule, as it is kept; empty where nothing was. */
    Optional<String> decided(String key) {
        return get(key);
    }

    /** Decides a rule by its name, as it is kept. */
    void decide(String key, String value) {
        put(key, value);
    }

    private static boolean within(int number, int least, int most) {
        return number >= least && number <= most;
    }

    private static String code(Enum<?> rule) {
        return rule.name().toLowerCase(Locale.ROOT);
    }

    private <E extends Enum<E>> E one(String key, E usual) {
        return get(key).map(code -> Enum.valueOf(
                        usual.getDeclaringClass(), code.toUpperCase(Locale.ROOT).replace('-', '_')))
                .orElse(usual);
    }

    private int number(String key, int usual) {
        return get(key).map(Integer::parseInt).orElse(usual);
    }

    private Optional<String> get(String key) {
        return Optional.ofNullable(known.get(key));
    }

    private void put(String key, String value) {
        known.put(key, value);
        keeper.accept(key, value);
    }
}
