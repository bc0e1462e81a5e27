// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.family;

import exordium.core.block.BlockDevice;
import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.board.NamePattern;
import exordium.core.board.StartSource;
import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.kernelline.StartMenu;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.Inspector;
import exordium.core.inspection.PartitionContent;
import exordium.core.rehearsal.contents.HeadBuffer;
import exordium.core.rehearsal.contents.RootFacts;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Describes a family by what an image or a card that starts on it holds; what no file tells is taken from the nearest family. */
public final class FamilyFromImage {
    private static final String EFI = "EFI/BOOT/BOOTAA64.EFI";
    private static final String EXTLINUX = "extlinux/extlinux.conf";
    /** A tree in its root, up to its first number: its generation. */
    private static final Pattern TREE = Pattern.compile("([^/0-9]*[0-9]+)[^/]*\\.dtb");

    private static final int DEEPEST = 3;
    private static final int MOST_NAMES = 5000;
    private static final int LARGEST_TEXT = 64 << 10;
    /** Linux kernel documentation, arm64 booting: "ARM\x64" at byte 56. */
    private static final int ARM64_AT = 56;

    private static final int ARM64 = 0x644d5241;
    /** Linux kernel documentation, arm zImage: the magic number at byte 36. */
    private static final int ZIMAGE_AT = 36;

    private static final int ZIMAGE = 0x016f2818;

    private final FileSystemReader reader;
    private final List<String> names = new ArrayList<>();
    private final List<String> read = new ArrayList<>();
    private final Optional<Integer> rootWidth;

    private FamilyFromImage(FileSystemReader reader, Optional<Integer> rootWidth) throws IOException {
        this.reader = reader;
        this.rootWidth = rootWidth;
        collect("", 1);
    }

    /**
     * A family as an image describes it.
     *
     * @param nearest the family that what no file tells is taken from
     * @param read what was read off the image, in words
     * @param taken what is as it is there, in words: to be looked at by whoever knows the board
     */
    public record Described(BoardProfile profile, String nearest, List<String> read, List<String> taken) {}

    /**
     * Reads it.
     *
     * @param like the family to begin with
     * @param generation which of several generations of boards it starts
     * @throws SeveralGenerations when it starts several, and nothing tells which
     * @throws UnreadableInput when it has no start partition that can be read, or no kernel line in it
     */
    public static Described of(
            BlockDevice device,
            BoardProfiles known,
            String id,
            String title,
            Optional<String> like,
            Optional<String> generation)
            throws IOException {
        DriveInspection inspection = Inspector.inspect(device);
        Optional<Integer> width = Optional.empty();
        FileSystemReader start = null;
        for (PartitionContent content : inspection.partitions()) {
            if (content.partition().endByte() > device.size().bytes()) {
                continue;
            }
            Optional<FileSystemReader> reader =
                    FileSystems.open(content.partition().on(device));
            if (reader.isPresent() && content.fileSystem().kind().isFat() && start == null) {
                start = reader.get();
            } else if (reader.isPresent() && content.fileSystem().kind().isExt()) {
                width = width.or(() -> widthOf(reader.get()));
            }
        }
        if (start == null) {
            throw new UnreadableInput(
                    "There is no FAT partition on it that a board could start from, so nothing can be read off it.");
        }
        return new FamilyFromImage(start, width).described(known, id, title, like, generation);
    }

    private static Optional<Integer> widthOf(FileSystemReader root) {
        try {
            return RootFacts.of(root).width();
        } catch (IOException e) {
            // A broken root says nothing of the processor; the kernel's name may.
            return Optional.empty();
        }
    }

    /** Trees and kernels of other generations are none of this one's. */
    private void keepOne(BoardProfiles known, Optional<String> like, Optional<String> wanted) throws IOException {
        Map<String, List<String>> groups = new TreeMap<>();
        for (String name : names) {
            Matcher tree = TREE.matcher(name.toLowerCase(Locale.ROOT));
            if (tree.matches()) {
                groups.computeIfAbsent(tree.group(1), each -> new ArrayList<>()).add(name);
            }
        }
        List<String> all = List.copyOf(groups.keySet());
        if (wanted.isPresent() && !all.contains(wanted.get())) {
            throw new UnknownName(
                    "It starts no generation \"" + wanted.get() + "\""
                            + (all.isEmpty()
                                    ? "; it holds no device trees that tell."
                                    : "; there " + (all.size() == 1 ? "is " : "are ") + String.join(", ", all) + "."),
                    wanted.get(),
                    all);
        }
        if (all.size() < 2) {
            return;
        }
        String one = wanted.isPresent() ? wanted.get() : likeOne(groups, known, like);
        groups.forEach((generation, trees) -> {
            if (!generation.equals(one)) {
                names.removeAll(trees);
                names.removeIf(name -> isKernelOf(name, generation, one));
            }
        });
        read.add("generation: " + one);
    }

    /** The one that the family it begins with has trees of. */
    private static String likeOne(Map<String, List<String>> groups, BoardProfiles known, Optional<String> like)
            throws IOException {
        List<String> fitting = new ArrayList<>();
        if (like.isPresent()) {
            List<String> patterns = known.require(like.get()).startFiles().deviceTrees();
            groups.forEach((generation, trees) -> {
                if (trees.stream()
                        .anyMatch(tree -> patterns.stream().anyMatch(each -> NamePattern.isLike(tree, each)))) {
                    fitting.add(generation);
                }
            });
        }
        if (fitting.size() != 1) {
            throw new SeveralGenerations(List.copyOf(groups.keySet()));
        }
        return fitting.get(0);
    }

    /** A kernel that bears the number of another generation, and not of this. */
    private static boolean isKernelOf(String name, String other, String one) {
        String plain = name.toLowerCase(Locale.ROOT);
        return plain.matches("[^/]*(kernel|image|linuz)[^/]*") && bears(plain, other) && !bears(plain, one);
    }

    private static boolean bears(String name, String generation) {
        String number = generation.replaceFirst("^.*?(\\d+)$", "$1");
        return name.matches(".*(?<!\\d)" + number + "(?!\\d).*");
    }

    private void collect(String folder, int depth) throws IOException {
        for (FileEntry entry : reader.entries("/" + folder)) {
            if (names.size() >= MOST_NAMES) {
                return;
            }
            String path = folder.isEmpty() ? entry.name() : folder + "/" + entry.name();
            if (entry.kind() == FileEntry.EntryKind.FOLDER) {
                if (depth < DEEPEST) {
                    collect(path, depth + 1);
                }
            } else {
                names.add(path);
            }
        }
    }

    private Described described(
            BoardProfiles known, String id, String title, Optional<String> like, Optional<String> generation)
            throws IOException {
        Line line = line(known);
        boolean efi = find(EFI).isPresent();
        Optional<StartMenu.Entry> entry = line.form() == BoardProfile.KernelLineForm.PLAIN
                ? Optional.empty()
                : StartMenu.parse(text(line.file()), line.form()).chosen();
        if (kernels(entry, known).isEmpty()) {
            throw new UnreadableInput("No kernel was found in its start partition, so nothing can start from it.");
        }
        if (entry.isEmpty()) {
            keepOne(known, like, generation);
        }
        Map<String, Integer> kernels = kernels(entry, known);
        List<String> trees = trees(entry);
        BoardProfile nearest = like.isPresent() ? known.require(like.get()) : nearest(known, line, efi, kernels);
        BoardProfile.StartFiles files = nearest.startFiles();
        Optional<String> settings = settings(line, known);
        List<String> loaders = loaders(line, efi, known, kernels);
        int width = kernels.values().stream().mapToInt(Integer::intValue).max().orElseThrow();
        BoardProfile profile = new BoardProfile(
                id,
                title,
                width,
                nearest.memory(),
                nearest.order(),
                nearest.power(),
                nearest.ports(),
                new BoardProfile.StartFiles(
                        settings,
                        line.file(),
                        line.form(),
                        loaders,
                        kernels,
                        trees,
                        files.anyKernel(),
                        files.anyTree(),
                        files.userFile(),
                        files.cloudFile()),
                nearest.firmware().withoutNeeds(),
                nearest.timing(),
                nearest.networkFiles());
        say(line, settings, loaders, kernels, trees);
        return new Described(
                profile,
                nearest.id(),
                List.copyOf(read),
                List.of(
                        "memory: " + String.join(", ", nearest.memory()),
                        "supply: " + nearest.power().supply().said(),
                        "ports: "
                                + String.join(
                                        ", ",
                                        nearest.ports().stream()
                                                .map(BoardProfile.Port::id)
                                                .toList()),
                        "order: " + nearest.order().form().code() + ", usually "
                                + nearest.order().usual(),
                        "firmware: " + nearest.firmware().where(),
                        "times of a start"));
    }

    private void say(
            Line line,
            Optional<String> settings,
            List<String> loaders,
            Map<String, Integer> kernels,
            List<String> trees) {
        read.add("kernel line: " + line.file() + ", " + line.form().code());
        settings.ifPresent(file -> read.add("settings: " + file));
        read.add("loaders: " + String.join(", ", loaders));
        kernels.forEach((file, bits) -> read.add("kernel: " + file + ", " + bits + " bits"));
        if (!trees.isEmpty()) {
            read.add("device trees: " + String.join(", ", trees));
        }
    }

    /** Where the kernel line stands, and how. */
    private record Line(String file, BoardProfile.KernelLineForm form) {}

    private Line line(BoardProfiles known) throws IOException {
        Optional<String> extlinux = find(EXTLINUX);
        if (extlinux.isPresent()) {
            return new Line(extlinux.get(), BoardProfile.KernelLineForm.APPEND);
        }
        Optional<String> entries = names.stream()
                .filter(name -> name.toLowerCase(Locale.ROOT).matches("loader/entries/[^/]+\\.conf"))
                .min(Comparator.naturalOrder());
        if (entries.isPresent()) {
            return new Line(entries.get(), BoardProfile.KernelLineForm.OPTIONS);
        }
        List<String> candidates = new ArrayList<>();
        for (BoardProfile each : known.all()) {
            find(each.startFiles().kernelLine()).ifPresent(candidates::add);
        }
        names.stream()
                .filter(name -> !name.contains("/") && name.endsWith(".txt"))
                .forEach(candidates::add);
        for (String name : candidates) {
            String first = text(name).lines().findFirst().orElse("");
            if (first.matches("(.*\\s)?root=\\S+.*")) {
                return new Line(name, BoardProfile.KernelLineForm.PLAIN);
            }
        }
        throw new UnreadableInput("No kernel line was found in its start partition: no file whose first line names a"
                + " root, no " + EXTLINUX + " and no entry in loader/entries.");
    }

    private Optional<String> settings(Line line, BoardProfiles known) throws IOException {
        for (BoardProfile each : known.all()) {
            Optional<String> there = each.startFiles().settings().flatMap(this::find);
            if (there.isPresent()) {
                return there;
            }
        }
        if (line.form() != BoardProfile.KernelLineForm.PLAIN) {
            return Optional.empty();
        }
        for (String name : names) {
            if (!name.contains("/") && name.endsWith(".txt") && !name.equals(line.file()) && isSettings(text(name))) {
                return Optional.of(name);
            }
        }
        return Optional.empty();
    }

    private static boolean isSettings(String text) {
        List<String> lines = text.lines()
                .map(String::strip)
                .filter(each -> !each.isEmpty() && !each.startsWith("#"))
                .toList();
        long said = lines.stream()
                .filter(each -> each.matches("\\[[^\\]]*\\]|[A-Za-z0-9_]+=.*"))
                .count();
        return !lines.isEmpty() && said * 10 >= lines.size() * 8L;
    }

    private List<String> loaders(Line line, boolean efi, BoardProfiles known, Map<String, Integer> kernels) {
        if (efi) {
            return List.of(EFI);
        }
        if (line.form() == BoardProfile.KernelLineForm.APPEND) {
            return List.of(line.file());
        }
        List<String> usual = known.all().stream()
                .flatMap(each -> each.startFiles().loaders().stream())
                .filter(pattern -> pattern.contains("*") && has(pattern))
                .distinct()
                .toList();
        if (!usual.isEmpty()) {
            return usual;
        }
        List<String> binaries = names.stream()
                .filter(name -> !name.contains("/")
                        && !kernels.containsKey(name)
                        && name.toLowerCase(Locale.ROOT).matches(".*\\.(elf|bin|efi)"))
                .sorted()
                .toList();
        return binaries.isEmpty() ? List.of(line.file()) : binaries;
    }

    private Map<String, Integer> kernels(Optional<StartMenu.Entry> entry, BoardProfiles known) throws IOException {
        Map<String, Integer> found = new LinkedHashMap<>();
        Optional<String> named = entry.flatMap(StartMenu.Entry::kernel)
                .map(FamilyFromImage::plain)
                .flatMap(this::find);
        if (named.isPresent()) {
            found.put(last(named.get()), widthOf(named.get(), known));
            return found;
        }
        for (String name : names) {
            boolean called = known.all().stream()
                    .flatMap(each -> each.startFiles().kernels().keySet().stream())
                    .anyMatch(pattern -> NamePattern.isLike(name, pattern));
            if (!name.contains("/") && (called || byContent(name).isPresent())) {
                found.put(name, widthOf(name, known));
            }
        }
        return found;
    }

    private int widthOf(String name, BoardProfiles known) throws IOException {
        Optional<Integer> content = byContent(name);
        if (content.isPresent()) {
            return content.get();
        }
        Optional<Integer> called = known.all().stream()
                .flatMap(each -> each.startFiles().kernels().entrySet().stream())
                .filter(each -> NamePattern.isLike(last(name), each.getKey()))
                .map(Map.Entry::getValue)
                .findFirst();
        return called.or(() -> rootWidth).orElse(64);
    }

    /** By the first bytes of a kernel that is not packed. */
    private Optional<Integer> byContent(String name) throws IOException {
        byte[] start = head(name, ARM64_AT + 4);
        if (start.length < ARM64_AT + 4) {
            return Optional.empty();
        }
        ByteBuffer bytes = ByteBuffer.wrap(start).order(ByteOrder.LITTLE_ENDIAN);
        if (bytes.getInt(ARM64_AT) == ARM64) {
            return Optional.of(64);
        }
        return bytes.getInt(ZIMAGE_AT) == ZIMAGE ? Optional.of(32) : Optional.empty();
    }

    private byte[] head(String name, int most) throws IOException {
        HeadBuffer head = new HeadBuffer(most);
        reader.copy("/" + name, head);
        return head.bytes();
    }

    /** Those a menu names; else all there are, by what their names have in common. */
    private List<String> trees(Optional<StartMenu.Entry> entry) {
        Optional<String> named =
                entry.flatMap(StartMenu.Entry::tree).map(FamilyFromImage::plain).flatMap(this::find);
        if (named.isPresent()) {
            return List.of(last(named.get()));
        }
        if (entry.isPresent()) {
            return List.of();
        }
        List<String> all = names.stream()
                .filter(name ->
                        !name.contains("/") && name.toLowerCase(Locale.ROOT).endsWith(".dtb"))
                .sorted()
                .toList();
        if (all.size() < 2) {
            return all;
        }
        String common = all.get(0);
        for (String name : all) {
            while (!name.startsWith(common)) {
                common = common.substring(0, common.length() - 1);
            }
        }
        return common.length() >= 3 ? List.of(common + "*.dtb") : all;
    }

    private BoardProfile nearest(BoardProfiles known, Line line, boolean efi, Map<String, Integer> kernels) {
        return known.all().stream()
                .max(Comparator.comparingInt(each -> likeness(each, line, efi, kernels)))
                .orElseThrow();
    }

    private int likeness(BoardProfile each, Line line, boolean efi, Map<String, Integer> kernels) {
        BoardProfile.StartFiles files = each.startFiles();
        int points = files.kernelLineForm() == line.form() ? 8 : 0;
        points += efi == each.order().form().entries() ? 4 : 0;
        points += files.deviceTrees().stream().anyMatch(this::has) ? 4 : 0;
        points += kernels.containsValue(each.width()) ? 3 : 0;
        points += files.settings().flatMap(this::find).isPresent() ? 2 : 0;
        points += files.loaders().stream().anyMatch(this::has) ? 2 : 0;
        points += each.ports().stream().anyMatch(port -> port.source() == StartSource.CARD) ? 1 : 0;
        return points;
    }

    private static String plain(String path) {
        return path.strip().replace('\\', '/').replaceFirst("^/+", "");
    }

    private static String last(String path) {
        return path.substring(path.lastIndexOf('/') + 1);
    }

    private Optional<String> find(String path) {
        return names.stream().filter(name -> name.equalsIgnoreCase(path)).findFirst();
    }

    private boolean has(String pattern) {
        return names.stream().anyMatch(name -> NamePattern.isLike(name, pattern));
    }

    private String text(String name) throws IOException {
        return new String(head(name, LARGEST_TEXT), StandardCharsets.UTF_8);
    }
}
