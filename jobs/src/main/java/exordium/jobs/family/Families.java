// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.family;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.fasterxml.jackson.databind.node.TextNode;
import exordium.core.block.BlockDevice;
import exordium.core.block.Durable;
import exordium.core.block.FolderLock;
import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.board.FamilyCheck;
import exordium.core.board.FamilyDraft;
import exordium.core.board.FamilyField;
import exordium.core.board.FamilyFromScreen;
import exordium.core.board.FamilySources;
import exordium.core.board.FieldSource;
import exordium.core.board.StartSource;
import exordium.core.bootorder.DecodedOrder;
import exordium.core.bootorder.OrderDialect;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Finding;
import exordium.core.finding.NameTaken;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.profile.ProfileReader;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.core.rehearsal.family.FamilyFromImage;
import exordium.core.storage.media.MediaCatalogue;
import exordium.core.storage.media.MediumKind;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/** Families of boards of one's own: described, read off an image, checked and kept as readable YAML in the workspace. */
public final class Families {
    private final ProfileReader reader;
    private final BoardProfiles known;
    private final MediaCatalogue media;
    private final Path folder;

    /** Where folder: the workspace's own profiles. */
    public Families(ProfileReader reader, BoardProfiles known, MediaCatalogue media, Path folder) {
        this.reader = reader;
        this.known = known;
        this.media = media;
        this.folder = folder;
    }

    /** One described by what a person can see. */
    public BoardProfile made(FamilyDraft draft) throws UnreadableInput {
        BoardProfile profile = draft.made(known);
        requireOrder(profile);
        return profile;
    }

    /** One read off what starts on it; generation: which of several. */
    public FamilyFromImage.Described from(
            BlockDevice image, String id, String title, Optional<String> like, Optional<String> generation)
            throws IOException {
        if (!id.matches("[a-z0-9][a-z0-9-]*")) {
            throw new BadArgument("\"" + id + "\" is no name for a family: small letters, digits and dashes.", id);
        }
        FamilyFromImage.Described described = FamilyFromImage.of(image, known, id, title, like, generation);
        FamilyCheck.require(described.profile());
        return described;
    }

    /** One read off an image, with what a person says of it beside. */
    public BoardProfile from(BlockDevice image, FamilyDraft said, Optional<String> generation) throws IOException {
        BoardProfile read = from(image, said.id(), said.title().orElse(said.id()), said.like(), generation)
                .profile();
        BoardProfile profile = said.made(known, read);
        requireOrder(profile);
        return profile;
    }

    /** What is said of a family, and behind it what its start screen shows. */
    public FamilyDraft seen(FamilyDraft said, FamilyFromScreen.Seen screen) throws UnreadableInput {
        return said.seen(screen, known);
    }

    /** Of an open workspace. */
    public static Families of(Workbench bench) {
        return new Families(
                bench.reader(), bench.profiles(), bench.media(), bench.folder().resolve("profiles"));
    }

    /** All families of a file, against the schema and against each other's sense. @throws UnreadableInput with the first fault */
    public List<BoardProfile> checked(Path file) throws IOException {
        return checked(reader.user(file, BoardProfiles.SCHEMA, BoardProfiles.Listing.class));
    }

    private static List<BoardProfile> checked(BoardProfiles.Listing listing) throws IOException {
        List<BoardProfile> profiles = listing.boards();
        for (BoardProfile profile : profiles) {
            FamilyCheck.require(profile);
            requireOrder(profile);
        }
        return profiles;
    }

    private static void requireOrder(BoardProfile profile) throws BadArgument {
        DecodedOrder order = OrderDialect.of(profile).decode(profile.order().usual());
        Optional<Finding> stop =
                order.findings().stream().filter(Finding::stops).findFirst();
        if (stop.isPresent()) {
            throw new BadArgument(
                    "\"" + profile.id() + "\": its usual order cannot be: "
                            + stop.get().text(),
                    profile.order().usual());
        }
    }

    /** The start of such a board with nothing but this in the first port that takes it. */
    public Trace rehearsed(BoardProfile profile, BlockDevice image) throws IOException {
        BoardProfile.Port port = profile.ports().stream()
                .filter(each -> each.source() == StartSource.CARD)
                .findFirst()
                .or(() -> profile.ports().stream()
                        .filter(each -> each.source().holdsMedium())
                        .findFirst())
                .orElseThrow(() -> new BadArgument("It has no port for a medium to rehearse with.", profile.id()));
        MediumKind kind = media.kinds().stream()
                .filter(each -> port.buses().contains(each.bus()))
                .findFirst()
                .orElseThrow(() -> new BadArgument("No kind of medium fits its port " + port.id() + ".", port.id()));
        String order = profile.order().usual();
        return Rehearsal.of(new Bench(
                profile,
                "",
                "",
                newestNeeded(profile),
                new FirmwareConfig(profile.order().key() + "=" + order),
                order,
                profile.power().supply(),
                List.of(new Bench.Attached(
                        port.id(), "the image", kind, false, true, ContentsReader.read(image, profile.startFiles()))),
                Bench.Network.USUAL));
    }

    private static LocalDate newestNeeded(BoardProfile profile) {
        return profile.firmware().needs().values().stream()
                .max(LocalDate::compareTo)
                .orElse(LocalDate.EPOCH);
    }

    /** As readable YAML, in the form that is read again. */
    public String yaml(BoardProfile profile) {
        return reader.writeForPeople(new BoardProfiles.Listing(List.of(profile)));
    }

    /** Keeps it among the workspace's own. @throws NameTaken when there is one of that name and it is not to be replaced */
    public Path keep(BoardProfile profile, boolean replacing) throws IOException {
        Path file = folder.resolve(profile.id() + ".yaml");
        boolean taken = known.all().stream().anyMatch(each -> each.id().equals(profile.id()));
        if (!replacing && (taken || Files.exists(file))) {
            throw new NameTaken(
                    "There is a family \"" + profile.id() + "\" already; give this one another name, or say that it"
                            + " replaces that one.",
                    profile.id());
        }
        Files.createDirectories(folder);
        String text = yaml(profile);
        checked(reader.user(
                profile.id() + ".yaml",
                text.getBytes(StandardCharsets.UTF_8),
                BoardProfiles.SCHEMA,
                BoardProfiles.Listing.class));
        return FolderLock.holding(folder, () -> {
            Durable.replace(file, text);
            return file;
        });
    }

    /**
     * Says fields of one of the workspace's own families, each at its place in the file.
     *
     * @param said field to value, as it would stand in the file
     * @throws UnreadableInput on a family that is shipped, a field there is none of, or a value that cannot be
     */
    public BoardProfile told(String id, Map<String, String> said, FieldSource source) throws IOException {
        known.require(id);
        if (!own().contains(id)) {
            throw new BadArgument(
                    "\"" + id
                            + "\" is a family that comes with the program; describe one of your own like it, and say that of"
                            + " yours: profile new NAME --like " + id + ".",
                    id);
        }
        return FolderLock.holding(folder, () -> {
            Path file = fileOf(id);
            BoardProfiles.Listing listing = reader.user(file, BoardProfiles.SCHEMA, BoardProfiles.Listing.class);
            List<BoardProfile> changed = new ArrayList<>();
            for (BoardProfile each : listing.boards()) {
                changed.add(each.id().equals(id) ? with(each, said, source) : each);
            }
            BoardProfiles.Listing after = new BoardProfiles.Listing(changed);
            Durable.replace(file, reader.writeForPeople(after));
            return changed.stream()
                    .filter(each -> each.id().equals(id))
                    .findFirst()
                    .orElseThrow();
        });
    }

    private BoardProfile with(BoardProfile family, Map<String, String> said, FieldSource source) throws IOException {
        FamilySources sources = family.from();
        ObjectNode tree = (ObjectNode) reader.tree(yaml(family)).path("boards").get(0);
        for (Map.Entry<String, String> each : said.entrySet()) {
            FamilyField field = FamilyField.require(each.getKey());
            String[] path = field.code().split("\\.");
            ObjectNode at = path.length == 1 ? tree : tree.withObject("/" + path[0]);
            at.set(path[path.length - 1], value(field, each.getValue()));
            sources = sources.with(source, field);
        }
        ObjectNode whole = JsonNodeFactory.instance.objectNode();
        tree.remove("sources");
        whole.putArray("boards").add(tree);
        byte[] text = whole.toString().getBytes(StandardCharsets.UTF_8);
        BoardProfile changed = reader.user(
                        "What is said of " + family.id(), text, BoardProfiles.SCHEMA, BoardProfiles.Listing.class)
                .boards()
                .get(0)
                .with(sources);
        FamilyCheck.require(changed);
        requireOrder(changed);
        return changed;
    }

    /** A list may be said with commas; all else as it stands in the file. */
    private JsonNode value(FamilyField field, String text) throws IOException {
        JsonNode read = reader.tree(text);
        boolean list = field.holdsList() && !read.isArray();
        if (!list) {
            // What looks like a number may be a name, such as a register.
            return field.holdsText() ? TextNode.valueOf(text.strip()) : read;
        }
        ArrayNode many = JsonNodeFactory.instance.arrayNode();
        Arrays.stream(text.split(","))
                .map(String::strip)
                .filter(each -> !each.isEmpty())
                .forEach(many::add);
        return many;
    }

    private Path fileOf(String id) throws IOException {
        Path usual = folder.resolve(id + ".yaml");
        if (Files.exists(usual) && idsIn(usual).contains(id)) {
            return usual;
        }
        try (Stream<Path> files = Files.list(folder)) {
            return files.filter(each ->
                            each.toString().endsWith(".yaml") && idsIn(each).contains(id))
                    .findFirst()
                    .orElseThrow(() -> new BadArgument("There is no file with \"" + id + "\" in it.", id));
        }
    }

    /** The ids of the workspace's own; a file that cannot be read has none, and was named where the profiles were read. */
    public Set<String> own() throws IOException {
        Set<String> ids = new HashSet<>();
        if (Files.isDirectory(folder)) {
            try (Stream<Path> files = Files.list(folder)) {
                files.filter(each -> each.toString().endsWith(".yaml")).forEach(file -> ids.addAll(idsIn(file)));
            }
        }
        return ids;
    }

    private List<String> idsIn(Path file) {
        try {
            return reader.user(file, BoardProfiles.SCHEMA, BoardProfiles.Listing.class).boards().stream()
                    .map(BoardProfile::id)
                    .toList();
        } catch (IOException e) {
            return List.of();
        }
    }
}
