// SPDX-License-Identifier: Apache-2.0
package exordium.core.multiboot;

import com.fasterxml.jackson.annotation.JsonInclude;
import exordium.core.board.BoardProfile;
import exordium.core.finding.BadArgument;
import exordium.core.finding.UnknownName;
import exordium.core.firmware.FirmwareConfig;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * The start sets of a board: named combinations of media, order and settings (docs/formats/start-sets.md).
 *
 * @param fallback what to go back to, while one is tried once
 */
@JsonInclude(JsonInclude.Include.NON_EMPTY)
public record StartSets(List<StartSet> sets, Optional<Fallback> fallback) {
    public static final String SCHEMA = "/exordium/profiles/start-sets.schema.json";
    private static final int LONGEST_NAME = 40;
    public static final StartSets NONE = new StartSets(List.of(), Optional.empty());

    public StartSets {
        sets = sets == null ? List.of() : List.copyOf(sets);
        fallback = fallback == null ? Optional.empty() : fallback;
    }

    /**
     * One of them.
     *
     * @param order value as the board stores it; as it is where absent
     * @param plug media by the ports they go into
     * @param unplug ports that must be empty
     * @param settings of the firmware that go with it
     * @param button whether the board's button is held while power comes on
     */
    @JsonInclude(JsonInclude.Include.NON_EMPTY)
    public record StartSet(
            String name,
            Optional<String> title,
            Optional<String> order,
            Map<String, String> plug,
            List<String> unplug,
            Map<String, String> settings,
            Optional<Boolean> button) {
        public StartSet {
            plug = plug == null ? Map.of() : new TreeMap<>(plug);
            unplug = unplug == null ? List.of() : List.copyOf(unplug);
            settings = settings == null ? Map.of() : new TreeMap<>(settings);
        }

        public String said() {
            return title.orElse(name);
        }

        public boolean holdsButton() {
            return button.orElse(false);
        }

        /** The firmware's settings with this set chosen. */
        public FirmwareConfig in(FirmwareConfig before, BoardProfile profile) {
            FirmwareConfig config = before;
            for (Map.Entry<String, String> each : settings.entrySet()) {
                config = config.with(each.getKey(), each.getValue());
            }
            return order.isPresent() ? config.with(profile.order().key(), order.get()) : config;
        }
    }

    /** The name of a set that people call so. @throws BadArgument when nothing of it can stand in a name */
    public static String nameOf(String title) throws BadArgument {
        String name = title.strip()
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^a-z0-9]+", "-")
                .replaceAll("^-|-$", "");
        if (name.isEmpty() || name.length() > LONGEST_NAME) {
            throw new BadArgument(
                    "A set's name has up to " + LONGEST_NAME
                            + " letters and digits, such as \"everyday\" or \"trial 2\".",
                    title);
        }
        return name;
    }

    /** While a set is tried: its name, and the firmware's settings from before. */
    public record Fallback(String set, String config) {}

    /** @throws UnknownName naming those there are */
    public StartSet require(String name) throws UnknownName {
        List<String> known = sets.stream().map(StartSet::name).toList();
        return sets.stream()
                .filter(each -> each.name().equals(name))
                .findFirst()
                .orElseThrow(() -> new UnknownName(
                        "There is no start set " + name
                                + (known.isEmpty()
                                        ? "; make one with \"sets new\"."
                                        : "; there are " + String.join(", ", known) + "."),
                        name,
                        known));
    }

    /** With one more, or one in the place of that of its name. @throws BadArgument when a port is both filled and empty */
    public StartSets with(StartSet set) throws BadArgument {
        for (String port : set.unplug()) {
            if (set.plug().containsKey(port)) {
                throw new BadArgument("Port " + port + " cannot hold a medium and be empty.", port);
            }
        }
        List<StartSet> all = new ArrayList<>(sets);
        all.removeIf(each -> each.name().equals(set.name()));
        all.add(set);
        return new StartSets(all, fallback);
    }

    public StartSets without(String name) {
        return new StartSets(
                sets.stream().filter(each -> !each.name().equals(name)).toList(), fallback);
    }

    public StartSets with(Optional<Fallback> other) {
        return new StartSets(sets, other);
    }
}
