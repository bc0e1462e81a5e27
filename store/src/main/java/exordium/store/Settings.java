// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jdbi.v3.core.Jdbi;

/** What the user set, as words by key; what they mean is known above. */
public final class Settings {
    private final Jdbi jdbi;

    Settings(Jdbi jdbi) {
        this.jdbi = jdbi;
    }

    public Map<String, String> all() {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT key, value FROM setting")
                .map((row, context) -> Map.entry(row.getString("key"), row.getString("value")))
                .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue)));
    }

    public Optional<String> get(String key) {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT value FROM setting WHERE key = :key")
                .bind("key", key)
                .mapTo(String.class)
                .findOne());
    }

    public void put(String key, String value) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        "INSERT INTO setting (key, value) VALUES (:key, :value) ON CONFLICT (key) DO UPDATE SET value = excluded.value")
                .bind("key", key)
                .bind("value", value)
                .execute());
    }

    public void forget(String key) {
        jdbi.useHandle(handle -> handle.createUpdate("DELETE FROM setting WHERE key = :key")
                .bind("key", key)
                .execute());
    }
}
