// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.media;

import java.util.List;

/**
 * What the user has seen work with which family of boards, and what not. About 95 % of NVMe drives work with such boards, a
 * few never do: common practice, no source.
 */
public record KnownDrives(List<Known> list, Works works) {
    public static final KnownDrives NONE = new KnownDrives(List.of(), Works.NONE);

    public KnownDrives(List<Known> list) {
        this(list, Works.NONE);
    }

    /** The same with what was put down and handed on of all kinds of things. */
    public KnownDrives with(Works more) {
        return new KnownDrives(list, more);
    }

    /** Share of NVMe drives that never work. */
    public static final double SURPRISE_SHARE = 0.05;

    /** One observation; name: of the drive's model, without regard to case. */
    public record Known(String name, String profile, boolean works, String note) {}

    /** Empty where nobody has tried. */
    public java.util.Optional<Known> of(String name, String profile) {
        return list.stream()
                .filter(known ->
                        known.name().equalsIgnoreCase(name) && known.profile().equals(profile))
                .reduce((first, last) -> last);
    }
}
