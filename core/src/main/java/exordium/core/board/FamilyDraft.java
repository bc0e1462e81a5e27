// SPDX-License-Identifier: Apache-2.0
package exordium.core.board;

import exordium.core.finding.BadArgument;
import exordium.core.finding.UnreadableInput;
import exordium.core.storage.media.Link;
import exordium.core.storage.media.Supply;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * A family described by what a person can see, beginning with the nearest one there is: what is not said is as it is there.
 *
 * @param id small letters, digits and dashes
 * @param like the family to begin with; empty for the nearest by what is said
 * @param form how its order is kept
 * @param usual the value a new board has
 * @param ports a word each, such as {@code card}, {@code usb@usb-5g} or {@code nvme@pcie2-x1}; in the order they are tried in
 * @param where its firmware lives: chip, card or medium
 * @param shown which of these a start screen shows and nobody said
 * @param loaders what it reads first, and kernels ({@code kernel.img=64}) and trees; names may hold {@code *}
 */
public record FamilyDraft(
        String id,
        Optional<String> title,
        Optional<String> like,
        Optional<Integer> width,
        List<String> memory,
        Optional<OrderForm> form,
        Optional<String> usual,
        Optional<String> supply,
        List<String> ports,
        Optional<String> where,
        List<String> loaders,
        List<String> kernels,
        List<String> trees,
        Set<FamilyField> shown) {

    /** With nothing of it off a screen: all that is said is told. */
    public FamilyDraft(
            String id,
            Optional<String> title,
            Optional<String> like,
            Optional<Integer> width,
            List<String> memory,
            Optional<OrderForm> form,
            Optional<String> usual,
            Optional<String> supply,
            List<String> ports,
            Optional<String> where,
            List<String> loaders,
            List<String> kernels,
            List<String> trees) {
        this(id, title, like, width, memory, form, usual, supply, ports, where, loaders, kernels, trees, Set.of());
    }

    /** Nothing said but its id. */
    public static FamilyDraft of(String id) {
        return new FamilyDraft(
                id,
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                List.of(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                List.of(),
                Optional.empty(),
                List.of(),
                List.of(),
                List.of());
    }

    /** The same with a title, beginning with that family. */
    public FamilyDraft like(Optional<String> called, String family) {
        return new FamilyDraft(
                id,
                called,
                Optional.of(family),
                width,
                memory,
                form,
                usual,
                supply,
                ports,
                where,
                loaders,
                kernels,
                trees,
                shown);
    }

    /**
     * The same with what its start screen shows where nothing else was said. Sources the family it begins with has no port for come
     * behind that family's ports; names of a list that no family knows are left out.
     */
    public FamilyDraft seen(FamilyFromScreen.Seen screen, BoardProfiles known) throws UnreadableInput {
        FamilyDraft told = new FamilyDraft(
                id,
                title,
                like,
                width.or(screen::width),
                memory.isEmpty() ? screen.memory() : memory,
                form.or(screen::form),
                usual.or(() -> screen.usual().map(each -> knownNames(each, screen.form(), known))),
                supply,
                ports,
                where.or(screen::where),
                loaders,
                kernels,
                trees,
                shownBy(screen));
        if (!ports.isEmpty()) {
            return told;
        }
        List<String> more = told.portsWith(screen, known);
        return more.isEmpty() ? told : told.withPorts(more, FamilyField.PORTS);
    }

    /** What the screen decides: what it shows and nobody said. */
    private Set<FamilyField> shownBy(FamilyFromScreen.Seen screen) {
        Set<FamilyField> fields = EnumSet.noneOf(FamilyField.class);
        take(fields, FamilyField.WIDTH, width.isEmpty() && screen.width().isPresent());
        take(fields, FamilyField.MEMORY, memory.isEmpty() && !screen.memory().isEmpty());
        take(fields, FamilyField.ORDER_DIALECT, form.isEmpty() && screen.form().isPresent());
        take(fields, FamilyField.ORDER_USUAL, usual.isEmpty() && screen.usual().isPresent());
        take(
                fields,
                FamilyField.FIRMWARE_WHERE,
                where.isEmpty() && screen.where().isPresent());
        return Set.copyOf(fields);
    }

    private static void take(Set<FamilyField> fields, FamilyField field, boolean taken) {
        if (taken) {
            fields.add(field);
        }
    }

    /** Where each field is from: what the family it is made from was read off, and what is said here before that. */
    private FamilySources sources(BoardProfile nearest) {
        FamilySources from = nearest.id().equals(id) ? nearest.from() : FamilySources.allAs(nearest.id());
        from = said(from, width.isPresent(), FamilyField.WIDTH);
        from = said(from, !memory.isEmpty(), FamilyField.MEMORY);
        from = said(from, form.isPresent(), FamilyField.ORDER_DIALECT);
        from = said(from, usual.isPresent(), FamilyField.ORDER_USUAL);
        from = said(from, supply.isPresent(), FamilyField.POWER_VOLTS, FamilyField.POWER_AMPS);
        from = said(from, !ports.isEmpty() && !shown.contains(FamilyField.PORTS), FamilyField.PORTS);
        from = said(from, where.isPresent(), FamilyField.FIRMWARE_WHERE);
        from = said(from, !loaders.isEmpty(), FamilyField.LOADERS);
        from = said(from, !kernels.isEmpty(), FamilyField.KERNELS);
        from = said(from, !trees.isEmpty(), FamilyField.DEVICE_TREES);
        return from;
    }

    private FamilySources said(FamilySources from, boolean is, FamilyField... fields) {
        if (!is) {
            return from;
        }
        FamilySources now = from;
        for (FamilyField field : fields) {
            now = now.with(shown.contains(field) ? FieldSource.screen() : FieldSource.told("its user"), field);
        }
        return now;
    }

    private static String knownNames(String usual, Optional<OrderForm> form, BoardProfiles known) {
        if (form.filter(OrderForm::list).isEmpty()) {
            return usual;
        }
        Set<String> names = known.all().stream()
                .map(BoardProfile::order)
                .filter(order -> order.form().list())
                .flatMap(order -> order.names().keySet().stream())
                .collect(Collectors.toSet());
        return Arrays.stream(usual.split("\\s+"))
                .filter(name -> names.contains(name) || named(name).isPresent())
                .collect(Collectors.joining(" "));
    }

    /** What a name of a list means that the family it begins with does not have: a kind and a number (U-Boot, boot_targets). */
    private static Optional<StartSource> named(String name) {
        return switch (name.replaceFirst("[0-9]+$", "")) {
            case "nvme" -> Optional.of(StartSource.NVME);
            case "usb" -> Optional.of(StartSource.USB);
            case "mmc" -> Optional.of(StartSource.CARD);
            default -> Optional.empty();
        };
    }

    private List<String> portsWith(FamilyFromScreen.Seen screen, BoardProfiles known) throws UnreadableInput {
        BoardProfile base = like.isPresent()
                ? known.require(like.get())
                : withPorts(screen.sources().stream().map(StartSource::code).toList())
                        .nearest(known);
        List<StartSource> missing = screen.sources().stream()
                .filter(source -> base.ports().stream().noneMatch(port -> port.source() == source))
                .toList();
        if (missing.isEmpty()) {
            return List.of();
        }
        List<String> words = new ArrayList<>();
        base.ports()
                .forEach(port ->
                        words.add(port.source().code() + "@" + port.link().code()));
        missing.forEach(source -> words.add(source.code()));
        return words;
    }

    FamilyDraft withPorts(List<String> words, FamilyField... fields) {
        Set<FamilyField> now = EnumSet.noneOf(FamilyField.class);
        now.addAll(shown);
        now.addAll(List.of(fields));
        return new FamilyDraft(
                id,
                title,
                like,
                width,
                memory,
                form,
                usual,
                supply,
                words,
                where,
                loaders,
                kernels,
                trees,
                Set.copyOf(now));
    }

    /** @throws UnreadableInput when something said cannot be */
    public BoardProfile made(BoardProfiles known) throws UnreadableInput {
        if (!id.matches("[a-z0-9][a-z0-9-]*")) {
            throw new BadArgument("\"" + id + "\" is no name for a family: small letters, digits and dashes.", id);
        }
        return made(known, like.isPresent() ? known.require(like.get()) : nearest(known));
    }

    /** The same from one that was read off something. */
    public BoardProfile made(BoardProfiles known, BoardProfile nearest) throws UnreadableInput {
        List<BoardProfile.Port> made = ports.isEmpty() ? nearest.ports() : ports(known, nearest);
        BoardProfile profile = new BoardProfile(
                id,
                title.orElse(id),
                width(nearest),
                memory.isEmpty() ? nearest.memory() : sizes(),
                order(known, nearest),
                power(nearest),
                made,
                files(nearest),
                firmware(nearest),
                nearest.timing(),
                nearest.networkFiles(),
                Optional.of(sources(nearest)));
        FamilyCheck.require(profile);
        return profile;
    }

    private int width(BoardProfile nearest) throws BadArgument {
        int bits = width.orElse(nearest.width());
        if (bits != 32 && bits != 64) {
            throw new BadArgument("A processor has 32 or 64 bits, not " + bits + ".", String.valueOf(bits));
        }
        return bits;
    }

    private List<String> sizes() throws BadArgument {
        List<String> sizes = new ArrayList<>();
        for (String size : memory) {
            String said = size.strip().toUpperCase(Locale.ROOT);
            if (!said.matches("[1-9][0-9]{0,5}\\s*(MB|GB)")) {
                throw new BadArgument("\"" + size + "\" is no memory such as \"512 MB\" or \"4 GB\".", size);
            }
            sizes.add(said.replaceFirst("\\s*([MG]B)", " $1"));
        }
        return sizes;
    }

    /** The first shipped one that keeps its order so and has its firmware there. */
    private BoardProfile nearest(BoardProfiles known) throws UnreadableInput {
        return known.all().stream()
                .filter(each -> !each.id().equals(id))
                .max(Comparator.comparingInt(this::likeness))
                .orElseThrow();
    }

    private int likeness(BoardProfile each) {
        int points = form.filter(each.order().form()::equals).isPresent() ? 8 : 0;
        points += where.filter(each.firmware().where()::equals).isPresent() ? 4 : 0;
        points += width.filter(bits -> bits == each.width()).isPresent() ? 2 : 0;
        return points
                + (int) ports.stream()
                        .map(word -> word.replaceFirst("@.*", ""))
                        .distinct()
                        .filter(source -> each.ports().stream()
                                .anyMatch(port -> port.source().code().equals(source)))
                        .count();
    }

    private BoardProfile.Order order(BoardProfiles known, BoardProfile nearest) throws UnreadableInput {
        BoardProfile.Order pattern = nearest.order();
        if (form.isPresent() && form.get() != pattern.form()) {
            pattern = known.all().stream()
                    .map(BoardProfile::order)
                    .filter(each -> each.form() == form.get())
                    .findFirst()
                    .orElseThrow(() -> new BadArgument(
                            "No family keeps its order as " + form.get().code() + ".",
                            form.get().code()));
        }
        Map<String, StartSource> names = new LinkedHashMap<>(pattern.names());
        if (pattern.form().list()) {
            Arrays.stream(usual.orElse("").split("\\s+"))
                    .forEach(name -> named(name).ifPresent(source -> names.putIfAbsent(name, source)));
        }
        return new BoardProfile.Order(
                pattern.form(), pattern.key(), names, usual.orElse(pattern.usual()), pattern.fuse());
    }

    private BoardProfile.Power power(BoardProfile nearest) throws BadArgument {
        if (supply.isEmpty()) {
            return nearest.power();
        }
        Supply said = Supply.parse(supply.get());
        BoardProfile.Power power = nearest.power();
        return new BoardProfile.Power(
                said.volts(),
                said.amps(),
                power.baseWatts(),
                power.usbAmps(),
                power.usbAmpsWeak(),
                power.asksCurrent());
    }

    private List<BoardProfile.Port> ports(BoardProfiles known, BoardProfile nearest) throws BadArgument {
        List<BoardProfile.Port> made = new ArrayList<>();
        Map<StartSource, Integer> many = new LinkedHashMap<>();
        for (String word : ports) {
            String[] parts = word.strip().split("@", 2);
            StartSource source = StartSource.find(parts[0])
                    .orElseThrow(() -> new BadArgument(
                            "\"" + parts[0] + "\" is no port; there are card, usb, usb-device, nvme, emmc, network and"
                                    + " network-install.",
                            parts[0]));
            BoardProfile.Port pattern = pattern(known, nearest, source, parts[0]);
            int number = many.merge(source, 1, Integer::sum);
            boolean several = source == StartSource.USB;
            made.add(new BoardProfile.Port(
                    several || number > 1 ? source.code() + number : pattern.id(),
                    several || number > 1 ? source.code().toUpperCase(Locale.ROOT) + " " + number : pattern.title(),
                    source,
                    pattern.buses(),
                    parts.length == 2 ? link(parts[1]) : pattern.link(),
                    pattern.device(),
                    pattern.key(),
                    pattern.speed(),
                    pattern.lengths(),
                    pattern.off(),
                    pattern.soldered()));
        }
        return made;
    }

    private static BoardProfile.Port pattern(BoardProfiles known, BoardProfile nearest, StartSource source, String word)
            throws BadArgument {
        List<BoardProfile.Port> all = new ArrayList<>(nearest.ports());
        known.all().forEach(each -> all.addAll(each.ports()));
        return all.stream()
                .filter(port -> port.source() == source)
                .findFirst()
                .orElseThrow(() -> new BadArgument("No family has a port for \"" + word + "\" yet.", word));
    }

    private static Link link(String code) throws BadArgument {
        try {
            return Link.of(code);
        } catch (IllegalArgumentException e) {
            throw new BadArgument(Objects.requireNonNull(e.getMessage()), code);
        }
    }

    private BoardProfile.StartFiles files(BoardProfile nearest) throws BadArgument {
        BoardProfile.StartFiles files = nearest.startFiles();
        Map<String, Integer> named = new LinkedHashMap<>();
        for (String kernel : kernels) {
            String[] parts = kernel.split("=", 2);
            if (parts.length != 2 || !Arrays.asList("32", "64").contains(parts[1].strip())) {
                throw new BadArgument("\"" + kernel + "\" is no kernel such as kernel-64.img=64.", kernel);
            }
            named.put(parts[0].strip(), Integer.valueOf(parts[1].strip()));
        }
        return new BoardProfile.StartFiles(
                files.settings(),
                files.kernelLine(),
                files.kernelLineForm(),
                loaders.isEmpty() ? files.loaders() : loaders,
                named.isEmpty() ? files.kernels() : named,
                trees.isEmpty() ? files.deviceTrees() : trees,
                files.anyKernel(),
                files.anyTree(),
                files.userFile(),
                files.cloudFile(),
                nearest.id().equals(id) ? files.filters() : Optional.empty(),
                nearest.id().equals(id) ? files.stock() : Optional.empty(),
                files.fileSystem());
    }

    private BoardProfile.Firmware firmware(BoardProfile nearest) throws BadArgument {
        BoardProfile.Firmware firmware = nearest.firmware();
        if (where.isEmpty() || where.get().equals(firmware.where())) {
            return nearest.id().equals(id) ? firmware : firmware.ofAnother();
        }
        if (!List.of("chip", "card", "medium").contains(where.get())) {
            throw new BadArgument(
                    "Firmware lives in a chip, on the card or on the medium, not in \"" + where.get() + "\".",
                    where.get());
        }
        boolean chip = where.get().equals("chip");
        return BoardProfile.Firmware.plain(where.get(), chip);
    }
}
