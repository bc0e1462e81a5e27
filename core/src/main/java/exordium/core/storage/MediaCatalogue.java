// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage;

import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteSize;
import java.util.List;
import java.util.Optional;

/** The shipped kinds of media, generic ones of each that can be bought, and enclosures. */
public record MediaCatalogue(List<MediumKind> kinds, List<Enclosure> enclosures, List<Offer> offers) {
    public static final String RESOURCE = "/exordium/profiles/media.yaml";

    /** Something a shop has; price in euros. */
    public record Offer(String id, String name, String kind, ByteSize size, double price) {}

    public static MediaCatalogue shipped(ProfileReader reader) {
        return reader.shipped(RESOURCE, MediaCatalogue.class);
    }

    public Optional<MediumKind> kind(String id) {
        return kinds.stream()
                .filter(kind -> kind.id().equals(id) || kind.also().contains(id))
                .findFirst();
    }

    public List<MediumKind.Medium> offered() {
        return offers.stream()
                .map(offer -> new MediumKind.Medium(
                        offer.id(),
                        offer.name(),
                        kind(offer.kind()).orElseThrow(),
                        offer.size(),
                        Optional.empty(),
                        ByteSize.ZERO,
                        offer.price()))
                .toList();
    }
}
