// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import exordium.core.profile.ProfileReader;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** The releases known, oldest first for a board. */
public record FirmwareCatalogue(List<FirmwareRelease> releases) {
    public static final String RESOURCE = "/exordium/profiles/firmware.yaml";

    public static FirmwareCatalogue shipped(ProfileReader reader) {
        return reader.shipped(RESOURCE, FirmwareCatalogue.class);
    }

    public List<FirmwareRelease> of(String profile) {
        return releases.stream()
                .filter(release -> release.isFor(profile))
                .sorted(Comparator.comparing(FirmwareRelease::version))
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
