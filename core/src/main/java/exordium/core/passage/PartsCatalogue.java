// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import exordium.core.finding.UnreadableInput;
import exordium.core.profile.ProfileReader;
import exordium.core.storage.media.Enclosure;
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

/** The shipped parts and the user's own beside them (docs/formats/parts.md). */
public record PartsCatalogue(List<Part> parts) {
    public static final String SCHEMA = "/exordium/profiles/parts.schema.json";
    public static final String RESOURCE = "/exordium/profiles/parts.yaml";
    /** What an enclosure is called among parts. */
    public static final String ENCLOSURE = "enclosure";

    /** And what an M.2 drive sits on at a board's PCIe. */
    public static final String CARRIER = "carrier";

    public PartsCatalogue {
        parts = List.copyOf(parts);
    }

    /** Read once for all. */
    private static final class Shipped {
        static final PartsCatalogue ALL = new ProfileReader().shipped(RESOURCE, PartsCatalogue.class);
    }

    public static PartsCatalogue shipped() {
        return Shipped.ALL;
    }

    /** The price of the cheapest part of a kind; 0 where there is none. */
    public double priceOf(String kind) {
        return parts.stream()
                .filter(part -> part.kind().equals(kind))
                .mapToDouble(Part::price)
                .min()
                .orElse(0);
    }

    /** With the enclosures of the media's catalogue. */
    public PartsCatalogue with(List<Enclosure> enclosures) {
        List<Part> all = new ArrayList<>(parts);
        enclosures.forEach(
                box -> all.add(new Part(box.id(), ENCLOSURE, box.title(), box.price(), false, Optional.empty())));
        return new PartsCatalogue(all);
    }

    /** With every .yaml of a folder that exists; what has an id of a shipped part takes its place. What is wrong is told, file by file. */
    public PartsCatalogue withFolder(ProfileReader reader, Path folder, Consumer<UnreadableInput> wrong)
            throws IOException {
        if (!Files.isDirectory(folder)) {
            return this;
        }
        Map<String, Part> all = new LinkedHashMap<>();
        parts.forEach(part -> all.put(part.id(), part));
        List<Path> files;
        try (Stream<Path> listed = Files.list(folder)) {
            files = listed.filter(file -> file.toString().endsWith(".yaml"))
                    .sorted()
                    .toList();
        }
        for (Path file : files) {
            try {
                reader.user(file, SCHEMA, PartsCatalogue.class).parts().forEach(part -> all.put(part.id(), part));
            } catch (UnreadableInput e) {
                wrong.accept(e);
            }
        }
        return new PartsCatalogue(List.copyOf(all.values()));
    }
}
