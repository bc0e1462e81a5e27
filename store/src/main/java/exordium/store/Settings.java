// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import exordium.core.copies.CopyRule;
import exordium.core.quantity.ByteSize;
import java.util.Optional;
import org.jdbi.v3.core.Jdbi;

/** What the user set, house rules among it; each with its default. */
public final class Settings {
    private static final String REAL_DRIVES = "real-drives";
    private static final String THEME = "theme";
    private static final String TEXT_SIZE = "text-size";
    private static final String NAME = "name";

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
        return get(TEXT_SIZE).map(Integer::parseInt).orElse(100);
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

    public CopyRule copyRule() {
        return CopyRule.USUAL;
    }

    /** House rule: nothing under this size; 16 GB unless set. Sold in decimal, so a little under counts. */
    public ByteSize smallestMedium() {
        return ByteSize.ofGigabytes(15.5);
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
