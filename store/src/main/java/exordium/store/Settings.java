// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import exordium.core.bootorder.FirstTried;
import exordium.core.copies.CopyRule;
import exordium.core.copies.WayBack;
import exordium.core.firmware.Channel;
import exordium.core.firststart.SetUpAt;
import exordium.core.storage.Reliability;
import exordium.core.storage.StorageNeed;
import exordium.core.storage.StorageRules;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jdbi.v3.core.Jdbi;

/** What the user set, house rules among it; each with its default. */
public final class Settings {
    private static final String REAL_DRIVES = "real-drives";
    private static final String THEME = "theme";
    private static final String TEXT_SIZE = "text-size";
    private static final String NAME = "name";
    private static final String COPY_DAYS = "copy-days";
    private static final String COPY_DAYS_LIGHT = "copy-days-light";
    private static final String SMALLEST_CARD = "smallest-card";
    private static final String PCIE = "pcie";
    private static final String RELIABILITY = "reliability";
    private static final String FIRST_TRIED = "first-tried";
    private static final String CHANNEL = "channel";
    private static final String WAY_BACK = "way-back";
    private static final String SET_UP_AT = "set-up-at";
    private static final String FREE_TAIL = "free-tail";

    private final Jdbi jdbi;
    /** All of them, read together the first time one is asked for. */
    private Map<String, String> known;

    Settings(Jdbi jdbi) {
        this.jdbi = jdbi;
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

    public void workspaceName(String name) {
        put(NAME, name);
    }

    /** House rule: how often a board is copied. */
    public CopyRule copyRule() {
        return new CopyRule(
                number(COPY_DAYS, CopyRule.USUAL.days()),
                number(COPY_DAYS_LIGHT, CopyRule.USUAL.daysWhenLightlyUsed()));
    }

    public void copyRule(CopyRule rule) {
        put(COPY_DAYS, String.valueOf(rule.days()));
        put(COPY_DAYS_LIGHT, String.valueOf(rule.daysWhenLightlyUsed()));
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

    private static String code(Enum<?> rule) {
        return rule.name().toLowerCase(Locale.ROOT);
    }

    private <E extends Enum<E>> E one(String key, E usual) {
        return get(key).map(code -> Enum.valueOf(usual.getDeclaringClass(), code.toUpperCase(Locale.ROOT)))
                .orElse(usual);
    }

    private int number(String key, int usual) {
        return get(key).map(Integer::parseInt).orElse(usual);
    }

    private synchronized Optional<String> get(String key) {
        if (known == null) {
            known = jdbi.withHandle(handle -> handle.createQuery("SELECT key, value FROM setting")
                    .map((row, context) -> Map.entry(row.getString("key"), row.getString("value")))
                    .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue)));
        }
        return Optional.ofNullable(known.get(key));
    }

    private synchronized void put(String key, String value) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        "INSERT INTO setting (key, value) VALUES (:key, :value) ON CONFLICT (key) DO UPDATE SET value = excluded.value")
                .bind("key", key)
                .bind("value", value)
                .execute());
        if (known != null) {
            known.put(key, value);
        }
    }
}
