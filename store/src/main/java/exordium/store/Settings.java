// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import exordium.core.copies.CopyRule;
import java.util.Optional;
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

    private final Jdbi jdbi;

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

    private int number(String key, int usual) {
        return get(key).map(Integer::parseInt).orElse(usual);
    }

    private Optional<String> get(String key) {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT value FROM setting WHERE key = :key")
                .bind("key", key)
                .mapTo(String.class)
                .findOne());
    }

    private void put(String key, String value) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        "INSERT INTO setting (key, value) VALUES (:key, :value) ON CONFLICT (key) DO UPDATE SET value = excluded.value")
                .bind("key", key)
                .bind("value", value)
                .execute());
    }
}
