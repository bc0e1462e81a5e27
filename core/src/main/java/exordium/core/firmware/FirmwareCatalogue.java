// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import exordium.core.board.StartSource;
import exordium.core.finding.BadArgument;
import exordium.core.profile.ProfileReader;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * The releases known, oldest first for a board.
 *
 * @param channels what else a channel is called, by those who publish or by those who talk of it
 */
public record FirmwareCatalogue(Map<Channel, List<String>> channels, List<FirmwareRelease> releases) {
    public static final String RESOURCE = "/exordium/profiles/firmware.yaml";
    public static final String SCHEMA = "/exordium/profiles/firmware.schema.json";

    public FirmwareCatalogue {
        channels = channels == null ? Map.of() : Map.copyOf(channels);
        releases = List.copyOf(releases);
    }

    /** Read once for all. */
    private static final class Shipped {
        static final FirmwareCatalogue ALL = new ProfileReader().shipped(RESOURCE, FirmwareCatalogue.class);
    }

    public static FirmwareCatalogue shipped() {
        return Shipped.ALL;
    }

    /** With more releases: of the same family and date the later one counts. */
    public FirmwareCatalogue with(List<FirmwareRelease> more) {
        List<FirmwareRelease> all = new ArrayList<>();
        for (FirmwareRelease known : releases) {
            boolean replaced = more.stream()
                    .anyMatch(each -> each.version().equals(known.version())
                            && each.boards().containsAll(known.boards()));
            if (!replaced) {
                all.add(known);
            }
        }
        all.addAll(more);
        return new FirmwareCatalogue(channels, all);
    }

    /** A channel by its name or by what else it is called; empty where nobody knows it. */
    public Optional<Channel> findChannel(String name) {
        String lower = name.strip().toLowerCase(Locale.ROOT);
        return Arrays.stream(Channel.values())
                .filter(channel -> channel.code().equals(lower)
                        || channels.getOrDefault(channel, List.of()).contains(lower))
                .findFirst();
    }

    /** The same. @throws BadArgument naming the known ones */
    public Channel channel(String name) throws BadArgument {
        Optional<Channel> found = findChannel(name);
        if (found.isPresent()) {
            return found.get();
        }
        List<String> known = new ArrayList<>();
        for (Channel channel : Channel.values()) {
            known.add(channel.code());
            known.addAll(channels.getOrDefault(channel, List.of()));
        }
        throw new BadArgument("\"" + name + "\" is no channel; there are " + String.join(", ", known) + ".", name);
    }

    /** Since which release each source works, as far as releases for a family say so. */
    public Map<StartSource, LocalDate> enabled(String profile) {
        Map<StartSource, LocalDate> since = new TreeMap<>();
        for (FirmwareRelease release : of(profile)) {
            release.enables().orElse(List.of()).forEach(source -> since.putIfAbsent(source, release.version()));
        }
        return since;
    }

    public List<FirmwareRelease> of(String profile) {
        return releases.stream()
                .filter(release -> release.isFor(profile))
                .sorted(Comparator.comparing(FirmwareRelease::version).thenComparing(FirmwareRelease::channel))
                .toList();
    }

    /** The newest release that a board in this channel takes. */
    public Optional<FirmwareRelease> newest(String profile, Channel channel) {
        return of(profile).stream()
                .filter(release -> channel.carries(release.channel()))
                .reduce((first, last) -> last);
    }

    public Optional<FirmwareRelease> find(String profile, LocalDate version) {
        return of(profile).stream()
                .filter(release -> release.version().equals(version))
                .findFirst();
    }
}
