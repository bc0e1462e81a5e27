// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.media;

import exordium.core.finding.UnreadableInput;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Stream;

/** The shipped kinds of media, generic ones of each that can be bought, and enclosures. */
public record MediaCatalogue(List<MediumKind> kinds, List<Enclosure> enclosures, List<Offer> offers) {
    public static final String SCHEMA = "/exordium/profiles/media.schema.json";
    public static final String RESOURCE = "/exordium/profiles/media.yaml";

    public MediaCatalogue {
        kinds = List.copyOf(kinds);
        enclosures = List.copyOf(enclosures);
        offers = List.copyOf(offers);
    }

    /** Something a shop has; price in euros. */
    public record Offer(String id, String name, String kind, ByteSize size, double price) {}

    /** Read once for all. */
    private static final class Shipped {
        static final MediaCatalogue ALL = new ProfileReader().shipped(RESOURCE, MediaCatalogue.class);
    }

    public static MediaCatalogue shipped() {
        return Shipped.ALL;
    }

    public Optional<Enclosure> enclosure(String id) {
        return enclosures.stream().filter(box -> box.id().equals(id)).findFirst();
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

    /**
     * Adds every .yaml of a folder that exists; what has an id of the shipped catalogue takes its place.
     *
     * @throws UnreadableInput naming the first file that breaks the schema, or an offer of a kind there is not
     */
    public MediaCatalogue withFolder(ProfileReader reader, Path folder) throws IOException {
        List<UnreadableInput> wrong = new ArrayList<>();
        MediaCatalogue both = withFolder(reader, folder, wrong::add);
        if (!wrong.isEmpty()) {
            throw wrong.get(0);
        }
        return both;
    }

    /** The same; what is wrong is told, file by file and offer by offer, and the rest counts. */
    public MediaCatalogue withFolder(ProfileReader reader, Path folder, Consumer<UnreadableInput> wrong)
            throws IOException {
        if (!Files.isDirectory(folder)) {
            return this;
        }
        Map<String, MediumKind> allKinds = new LinkedHashMap<>();
        kinds.forEach(kind -> allKinds.put(kind.id(), kind));
        Map<String, Enclosure> allEnclosures = new LinkedHashMap<>();
        enclosures.forEach(box -> allEnclosures.put(box.id(), box));
        Map<String, Offer> allOffers = new LinkedHashMap<>();
        offers.forEach(offer -> allOffers.put(offer.id(), offer));
        List<Path> files;
        try (Stream<Path> listed = Files.list(folder)) {
            files = listed.filter(file -> file.toString().endsWith(".yaml"))
                    .sorted()
                    .toList();
        }
        Map<String, Path> told = new LinkedHashMap<>();
        for (Path file : files) {
            MediaCatalogue own;
            try {
                own = reader.user(file, SCHEMA, MediaCatalogue.class);
            } catch (UnreadableInput e) {
                wrong.accept(e);
                continue;
            }
            own.kinds().forEach(kind -> allKinds.put(kind.id(), kind));
            own.enclosures().forEach(box -> allEnclosures.put(box.id(), box));
            own.offers().forEach(offer -> {
                allOffers.put(offer.id(), offer);
                told.put(offer.id(), file);
            });
        }
        for (Offer offer : List.copyOf(allOffers.values())) {
            if (!allKinds.containsKey(offer.kind())) {
                wrong.accept(new UnreadableInput(told.get(offer.id()).getFileName() + ": " + offer.id()
                        + " is of the kind " + offer.kind() + ", which there is not."));
                allOffers.remove(offer.id());
            }
        }
        return new MediaCatalogue(
                new ArrayList<>(allKinds.values()),
                new ArrayList<>(allEnclosures.values()),
                new ArrayList<>(allOffers.values()));
    }
}
