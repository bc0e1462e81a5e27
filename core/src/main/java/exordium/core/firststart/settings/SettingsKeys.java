// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.settings;

import exordium.core.profile.ProfileReader;
import exordium.core.quantity.Slips;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * The keys of settings files, as data: kind, range and meaning.
 *
 * @param contradictions pairs of settings that cannot both be meant
 */
public record SettingsKeys(List<Key> keys, List<List<String>> contradictions) {
    private static final String RESOURCE = "/exordium/profiles/settings.yaml";
    private static final int MOST_SLIPS = 2;
    private static final int SHORTEST_SLIPPED = 5;

    /**
     * One key.
     *
     * @param kind flag (0 or 1), number or text
     * @param least and most, of a number
     * @param needs what a board must have for it: the source of a port such as nvme, or 64 for a wide processor
     * @param repeats whether it may stand there more than once
     * @param onlyAll whether it counts outside all filters only
     * @param oneTime to be taken out once it has done its work
     * @param raises clock or voltage
     */
    public record Key(
            String name,
            String kind,
            Optional<Long> least,
            Optional<Long> most,
            Optional<String> needs,
            boolean repeats,
            boolean onlyAll,
            boolean oneTime,
            boolean raises,
            String meaning) {
        /** One that has a bit of one-time memory set. */
        public static Key oneTimeBit(String name) {
            return new Key(
                    name,
                    "flag",
                    Optional.empty(),
                    Optional.empty(),
                    Optional.empty(),
                    false,
                    true,
                    true,
                    false,
                    "set the bit of one-time memory that allows another start");
        }
    }

    private static final class Shipped {
        static final SettingsKeys KEYS = new ProfileReader().shipped(RESOURCE, SettingsKeys.class);
    }

    public static SettingsKeys shipped() {
        return Shipped.KEYS;
    }

    public Optional<Key> find(String name) {
        return keys.stream().filter(key -> key.name().equals(name)).findFirst();
    }

    /** The key a slip of the finger makes this one from. */
    public Optional<String> nearest(String name) {
        String plain = name.toLowerCase(Locale.ROOT);
        if (plain.length() < SHORTEST_SLIPPED) {
            return keys.stream().map(Key::name).filter(plain::equals).findFirst();
        }
        return keys.stream()
                .map(Key::name)
                .filter(known -> Slips.between(plain, known) <= MOST_SLIPS)
                .min((a, b) -> Slips.between(plain, a) - Slips.between(plain, b));
    }

    /** What a line of a settings file sets, in a few words; empty where it sets nothing that is known here. */
    public Optional<String> said(String line) {
        return SettingsDocument.parse(line.getBytes(java.nio.charset.StandardCharsets.UTF_8)).lines().stream()
                .flatMap(each -> each.key().stream())
                .flatMap(name -> find(name).stream())
                .map(key -> key.name() + ": " + key.meaning() + " (" + range(key) + ")")
                .findFirst();
    }

    private static String range(Key key) {
        if (key.kind().equals("flag")) {
            return "0 or 1";
        }
        return key.least().isPresent() && key.most().isPresent()
                ? key.least().get() + " to " + key.most().get()
                : key.kind();
    }
}
