// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.family;

import exordium.core.block.BlockDevice;
import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.board.FamilyField;
import exordium.core.board.FamilySources;
import exordium.core.board.FieldSource;
import exordium.core.board.StartSource;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.kernelline.StartMenu;
import exordium.core.firststart.settings.SettingsDocument;
import exordium.core.firststart.settings.StockForms;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.Inspector;
import exordium.core.rehearsal.contents.RootFacts;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * Describes a family by what an image or a card that starts on it holds. What no file tells is as in the nearest family, and is marked
 * as not looked at; what that family's own files and tools are called is not taken over at all.
 */
public final class FamilyFromImage {
    private static final String EFI = "EFI/BOOT/BOOTAA64.EFI";
    private static final String EXTLINUX = "extlinux/extlinux.conf";
    private static final Pattern LOADER_TEXT =
            Pattern.compile("(boot/)?(uenv|[a-z]*env)\\.txt|(boot/)?boot\\.(cmd|scr)");
    private final StartTree tree;
    private final List<String> read = new ArrayList<>();
    private final Optional<Integer> rootWidth;
    private FamilySources sources = FamilySources.NONE;

    private FamilyFromImage(StartTree tree) {
        this.tree = tree;
        this.rootWidth = tree.root().flatMap(FamilyFromImage::widthOf);
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
        StartTree tree = StartTree.of(device, inspection);
        return new FamilyFromImage(tree).described(known, id, title, like, generation);
    }

    private static Optional<Integer> widthOf(FileSystemReader root) {
        try {
            return RootFacts.of(root).width();
        } catch (IOException e) {
            // A broken root says nothing of the processor; the kernel's name may.
            return Optional.empty();
        }
    }

    private Described described(
            BoardProfiles known, String id, String title, Optional<String> like, Optional<String> generation)
            throws IOException {
        boolean efi = tree.find(EFI).isPresent();
        Optional<Line> line = line(known);
        if (line.isEmpty() && !efi) {
            throw new UnreadableInput(
                    "No kernel line was found in its start partition: no file whose first line names a" + " root, no "
                            + EXTLINUX + ", no entry in loader/entries and no text for a loader.");
        }
        Optional<StartMenu.Entry> entry = line.isEmpty() || line.get().form() == BoardProfile.KernelLineForm.PLAIN
                ? Optional.empty()
                : StartMenu.parse(tree.text(line.get().file()), line.get().form())
                        .chosen();
        StartKernels files = new StartKernels(tree, known, rootWidth);
        if (files.kernels(entry).isEmpty() && line.isPresent()) {
            throw new UnreadableInput("No kernel was found in its start partition, so nothing can start from it.");
        }
        if (entry.flatMap(StartMenu.Entry::kernel).isEmpty()) {
            new Generations(tree).keepOne(known, like, generation).ifPresent(one -> read.add("generation: " + one));
        }
        Map<String, Integer> kernels = files.kernels(entry);
        List<String> trees = files.trees(entry);
        BoardProfile nearest = like.isPresent() ? known.require(like.get()) : nearest(id, known, line, efi, kernels);
        sources = FamilySources.allAs(nearest.id());
        BoardProfile.StartFiles start = startFiles(known, nearest, line, efi, kernels, trees);
        int width = kernels.values().stream()
                .mapToInt(Integer::intValue)
                .max()
                .orElseGet(() -> rootWidth.orElse(nearest.width()));
        if (!kernels.isEmpty()) {
            from(String.join(", ", kernels.keySet()), FamilyField.WIDTH);
        }
        BoardProfile profile = new BoardProfile(
                id,
                title,
                width,
                nearest.memory(),
                nearest.order(),
                nearest.power(),
                nearest.ports(),
                start,
                firmware(nearest),
                nearest.timing(),
                nearest.networkFiles(),
                Optional.of(sources));
        line.ifPresentOrElse(
                each -> say(each, start, kernels, trees),
                () -> read.add("loaders: " + EFI + ", as UEFI firmware starts it from any medium"));
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

    private void from(String file, FamilyField... fields) {
        sources = sources.with(FieldSource.image(file), fields);
    }

    private BoardProfile.StartFiles startFiles(
            BoardProfiles known,
            BoardProfile nearest,
            Optional<Line> line,
            boolean efi,
            Map<String, Integer> kernels,
            List<String> trees)
            throws IOException {
        BoardProfile.StartFiles as = nearest.startFiles();
        Optional<String> settings = line.isPresent() ? settings(line.get(), known) : Optional.empty();
        List<String> loaders = line.isPresent() ? loaders(line.get(), efi, known, kernels) : List.of(EFI);
        from(String.join(", ", loaders), FamilyField.LOADERS);
        settings.ifPresent(file -> from(file, FamilyField.SETTINGS));
        line.ifPresent(each -> from(each.file(), FamilyField.KERNEL_LINE, FamilyField.KERNEL_LINE_FORM));
        if (!kernels.isEmpty()) {
            from(String.join(", ", kernels.keySet()), FamilyField.KERNELS);
        }
        if (!trees.isEmpty()) {
            from(String.join(", ", trees), FamilyField.DEVICE_TREES);
        }
        List<String> filters = settings.isPresent() ? filters(settings.get()) : List.of();
        if (!filters.isEmpty()) {
            from(settings.orElseThrow(), FamilyField.FILTERS);
            read.add("filters: " + String.join(", ", filters));
        }
        return new BoardProfile.StartFiles(
                settings,
                line.map(Line::file).orElse(as.kernelLine()),
                line.map(Line::form).orElse(as.kernelLineForm()),
                loaders,
                kernels.isEmpty() ? as.kernels() : kernels,
                trees,
                as.anyKernel(),
                as.anyTree(),
                as.userFile(),
                as.cloudFile(),
                filters.isEmpty() ? Optional.empty() : Optional.of(filters),
                settings.isPresent() ? Optional.of(StockForms.of(tree.bytes(settings.get()))) : Optional.empty(),
                tree.onExt() ? Optional.of("ext") : Optional.empty());
    }

    /** What stands in brackets in a settings file that came with a system for the board. */
    private List<String> filters(String settings) throws IOException {
        return SettingsDocument.parse(tree.text(settings).getBytes(StandardCharsets.UTF_8)).lines().stream()
                .filter(SettingsDocument.Line::heading)
                .map(SettingsDocument.Line::section)
                .filter(name -> !name.startsWith("["))
                .map(name -> name.toLowerCase(Locale.ROOT))
                .distinct()
                .toList();
    }

    /** Of the tools a system brings, the one that updates; none is known where it brings none. */
    private BoardProfile.Firmware firmware(BoardProfile nearest) {
        List<RootTools.Tool> tools = tree.root().map(RootTools::in).orElse(List.of());
        tools.forEach(tool -> read.add("tool: " + tool.path() + ", " + tool.told()));
        Optional<RootTools.Tool> updates = tools.stream()
                .filter(each -> each.purpose() == RootTools.Purpose.UPDATES)
                .findFirst();
        updates.ifPresent(tool -> from(tool.path(), FamilyField.FIRMWARE_TOOL));
        return nearest.firmware().ofAnother().withTool(updates.map(RootTools.Tool::path));
    }

    private void say(Line line, BoardProfile.StartFiles start, Map<String, Integer> kernels, List<String> trees) {
        read.add("kernel line: " + line.file() + ", " + line.form().code());
        start.settings().ifPresent(file -> read.add("settings: " + file));
        read.add("loaders: " + String.join(", ", start.loaders()));
        kernels.forEach((file, bits) -> read.add("kernel: " + file + ", " + bits + " bits"));
        if (!trees.isEmpty()) {
            read.add("device trees: " + String.join(", ", trees));
        }
    }

    /** Where the kernel line stands, and how. */
    private record Line(String file, BoardProfile.KernelLineForm form) {}

    private Optional<Line> line(BoardProfiles known) throws IOException {
        Optional<String> extlinux = tree.find(EXTLINUX);
        if (extlinux.isPresent()) {
            return Optional.of(new Line(extlinux.get(), BoardProfile.KernelLineForm.APPEND));
        }
        Optional<String> entries = tree.names()
                .filter(name -> name.toLowerCase(Locale.ROOT).matches("(boot/)?loader/entries/[^/]+\\.conf"))
                .min(Comparator.naturalOrder());
        if (entries.isPresent()) {
            return Optional.of(new Line(entries.get(), BoardProfile.KernelLineForm.OPTIONS));
        }
        List<String> texts = tree.names()
                .filter(name ->
                        LOADER_TEXT.matcher(name.toLowerCase(Locale.ROOT)).matches())
                .sorted(Comparator.comparing(FamilyFromImage::editable).reversed())
                .toList();
        for (String name : texts) {
            boolean whole = StartMenu.parse(tree.text(name), BoardProfile.KernelLineForm.ENVIRONMENT)
                    .chosen()
                    .flatMap(StartMenu.Entry::parameters)
                    .filter(each -> each.contains("root="))
                    .isPresent();
            if (whole) {
                return Optional.of(new Line(name, BoardProfile.KernelLineForm.ENVIRONMENT));
            }
        }
        List<String> candidates = new ArrayList<>();
        for (BoardProfile each : known.all()) {
            tree.find(each.startFiles().kernelLine()).ifPresent(candidates::add);
        }
        tree.atTop().filter(name -> name.endsWith(".txt")).forEach(candidates::add);
        for (String name : candidates) {
            String first = tree.text(name).lines().findFirst().orElse("");
            if (first.matches("(.*\\s)?root=\\S+.*")) {
                return Optional.of(new Line(name, BoardProfile.KernelLineForm.PLAIN));
            }
        }
        return Optional.empty();
    }

    /** A packed script bears a checksum over its text, and is not to be changed by hand. */
    private static boolean editable(String name) {
        return !name.toLowerCase(Locale.ROOT).endsWith(".scr");
    }

    private Optional<String> settings(Line line, BoardProfiles known) throws IOException {
        for (BoardProfile each : known.all()) {
            Optional<String> there = each.startFiles().settings().flatMap(tree::find);
            if (there.isPresent()) {
                return there;
            }
        }
        if (line.form() != BoardProfile.KernelLineForm.PLAIN) {
            return Optional.empty();
        }
        for (String name : tree.atTop().toList()) {
            if (name.endsWith(".txt") && !name.equals(line.file()) && isSettings(tree.text(name))) {
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
        boolean byText = line.form() == BoardProfile.KernelLineForm.APPEND
                || line.form() == BoardProfile.KernelLineForm.ENVIRONMENT;
        if (byText) {
            return List.of(line.file());
        }
        List<String> usual = known.all().stream()
                .flatMap(each -> each.startFiles().loaders().stream())
                .filter(pattern -> pattern.contains("*") && tree.has(pattern))
                .distinct()
                .toList();
        if (!usual.isEmpty()) {
            return usual;
        }
        List<String> binaries = tree.atTop()
                .filter(name -> !kernels.containsKey(name)
                        && name.toLowerCase(Locale.ROOT).matches(".*\\.(elf|bin|efi)"))
                .sorted()
                .toList();
        return binaries.isEmpty() ? List.of(line.file()) : binaries;
    }

    private BoardProfile nearest(
            String id, BoardProfiles known, Optional<Line> line, boolean efi, Map<String, Integer> kernels) {
        return known.all().stream()
                .filter(each -> !each.id().equals(id))
                .max(Comparator.comparingInt(each -> likeness(each, line, efi, kernels)))
                .orElseThrow();
    }

    private int likeness(BoardProfile each, Optional<Line> line, boolean efi, Map<String, Integer> kernels) {
        BoardProfile.StartFiles files = each.startFiles();
        int points =
                line.filter(said -> said.form().nearly(files.kernelLineForm())).isPresent() ? 8 : 0;
        points += efi == each.order().form().entries() ? 4 : 0;
        points += files.deviceTrees().stream().anyMatch(tree::has) ? 4 : 0;
        points += kernels.containsValue(each.width()) ? 3 : 0;
        points += files.settings().flatMap(tree::find).isPresent() ? 2 : 0;
        points += files.loaders().stream().anyMatch(tree::has) ? 2 : 0;
        points += each.ports().stream().anyMatch(port -> port.source() == StartSource.CARD) ? 1 : 0;
        return points;
    }
}
