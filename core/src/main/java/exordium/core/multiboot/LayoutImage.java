// SPDX-License-Identifier: Apache-2.0
package exordium.core.multiboot;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.board.BoardProfile;
import exordium.core.board.NamePattern;
import exordium.core.bootorder.EfiLoadOption;
import exordium.core.bootorder.EfiPathNode;
import exordium.core.bootorder.EfiVariables;
import exordium.core.filesystem.FileBody;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.ext.ExtReader;
import exordium.core.filesystem.ext.ExtWriter;
import exordium.core.filesystem.fat.FatFormat;
import exordium.core.filesystem.fat.FatWriter;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.kernelline.FirstProgram;
import exordium.core.firststart.kernelline.KernelLine;
import exordium.core.firststart.kernelline.StartMenu;
import exordium.core.layout.DiskIdentifier;
import exordium.core.layout.NewTable;
import exordium.core.layout.Partition;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.UUID;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * A drive with several systems, made as an image: a new table, one start partition with each system's files in a folder of its name and
 * one menu, roots with what names partitions brought up to date. Identifiers are new, so that nothing is a twin of what it came from.
 */
public final class LayoutImage {
    private static final int PIECE = 1 << 20;
    private static final int SECTOR = 512;
    /** Above what a firmware makes itself. */
    private static final int FIRST_ENTRY = 0x10;

    private final LayoutPlan plan;
    private final LayoutPlan.Laid laid;
    private final BoardProfile board;
    private final Identifiers identifiers;

    public LayoutImage(LayoutPlan plan, LayoutPlan.Laid laid, BoardProfile board, Identifiers identifiers) {
        this.plan = plan;
        this.laid = laid;
        this.board = board;
        this.identifiers = identifiers;
    }

    /** Of the new drive: eight hex digits for an MBR, and for a GPT one of the disk and one of each partition. */
    public record Identifiers(DiskIdentifier disk, String guid, List<String> partitions) {
        /** Where random: gives what they are made of. */
        public static Identifiers of(int parts, java.util.random.RandomGenerator random) {
            List<String> all = new ArrayList<>();
            for (int i = 0; i <= parts; i++) {
                long high = (random.nextLong() & ~0xF000L) | 0x4000L;
                long low = (random.nextLong() & 0x3FFF_FFFF_FFFF_FFFFL) | 0x8000_0000_0000_0000L;
                all.add(new UUID(high, low).toString());
            }
            String disk = String.format(Locale.ROOT, "%08x", random.nextInt(1, Integer.MAX_VALUE));
            return new Identifiers(new DiskIdentifier(disk), all.get(0), all.subList(1, all.size()));
        }

        String partUuid(boolean gpt, int number) {
            return gpt ? partitions.get(number - 1) : disk.text() + "-" + String.format(Locale.ROOT, "%02x", number);
        }
    }

    /** A system as its image has it. */
    public interface Source {
        /** Every file of its start partition, by its path. */
        Map<String, byte[]> startFiles() throws IOException;

        /** Puts its root into a file of this size, as a file system that fills it where that can be done. */
        void root(Path file, ByteSize size) throws IOException;

        /** Identifiers of its partitions as its own files name them: of the start partition, of the root. */
        List<String> partUuids() throws IOException;
    }

    public String partUuid(int number) {
        return identifiers.partUuid(laid.gpt(), number);
    }

    /** Makes it in a new file. Where sources: by the systems' names; room: a folder for roots on the way. */
    public void make(Path file, Map<String, Source> sources, Path room) throws IOException {
        try (FileDevice device = FileDevice.forWriting(file, plan.drive())) {
            table(device);
            Map<String, byte[]> files = new TreeMap<>();
            List<Entry> entries = new ArrayList<>();
            for (LayoutPlan.OneSystem system : plan.systems()) {
                Source source = sources.get(system.name());
                Map<String, byte[]> own = source.startFiles();
                Entry entry = entry(system, own);
                boolean first = entries.isEmpty();
                entries.add(entry);
                if (plan.byEntries()) {
                    Map<String, byte[]> alone = new TreeMap<>(own);
                    alone.keySet().removeIf(this::isMenu);
                    alone.putAll(menu(List.of(entry)));
                    start(device, laid.startOf(system.name()), alone);
                } else {
                    own.forEach((path, content) -> keep(files, entry, first, path, content));
                }
                root(device, laid.system(system.name()), source, room);
            }
            if (!plan.byEntries()) {
                files.putAll(menu(entries));
                start(device, laid.parts().get(0), files);
            }
            device.flush();
        }
    }

    /** An entry of UEFI's list for each system, the standard one first; to be kept in a store of variables. */
    public EfiVariables entries(String loader) {
        List<Integer> order = new ArrayList<>();
        Map<Integer, EfiLoadOption> all = new TreeMap<>();
        for (LayoutPlan.OneSystem each : plan.systems()) {
            int number = FIRST_ENTRY + order.size();
            LayoutPlan.Part start = laid.startOf(each.name());
            all.put(
                    number,
                    EfiLoadOption.active(
                            each.said(),
                            EfiPathNode.partition(
                                    start.number(),
                                    start.start() / SECTOR,
                                    start.size().bytes() / SECTOR,
                                    UUID.fromString(identifiers.partitions().get(start.number() - 1))),
                            EfiPathNode.file("\\" + loader.replace('/', '\\'))));
            order.add(each.name().equals(plan.standardName()) ? 0 : order.size(), number);
        }
        return new EfiVariables(order, all);
    }

    private void start(BlockDevice device, LayoutPlan.Part part, Map<String, byte[]> files) throws IOException {
        BlockDevice start = slice(device, part);
        FatFormat.fat32(start, "START", identifiers.partUuid(laid.gpt(), part.number()));
        for (Map.Entry<String, byte[]> each : files.entrySet()) {
            FatWriter.write(start, each.getKey(), each.getValue());
        }
    }

    private void table(BlockDevice device) throws IOException {
        List<NewTable.Entry> entries = new ArrayList<>();
        for (LayoutPlan.Part part : laid.parts()) {
            entries.add(new NewTable.Entry(
                    part.start(),
                    part.size().bytes(),
                    part.holds() == LayoutPlan.Holds.START ? NewTable.Use.START : NewTable.Use.LINUX,
                    part.name(),
                    identifiers.partitions().get(part.number() - 1)));
        }
        if (laid.gpt()) {
            NewTable.gpt(device, identifiers.guid(), entries);
        } else {
            NewTable.mbr(device, identifiers.disk(), entries);
        }
    }

    private static BlockDevice slice(BlockDevice device, LayoutPlan.Part part) {
        return new Partition(part.number(), part.start(), part.size(), "", false, "").on(device);
    }

    /** Each system's files go into a folder of its name; what firmware itself looks for at the top is the first system's. */
    private void keep(Map<String, byte[]> files, Entry entry, boolean first, String path, byte[] content) {
        if (isMenu(path)) {
            return;
        }
        boolean efi = path.toLowerCase(Locale.ROOT).startsWith("efi/");
        boolean firmware = Stream.concat(
                        board.startFiles().loaders().stream(), board.firmware().files().orElse(List.of()).stream())
                .anyMatch(pattern -> NamePattern.isLike(path, pattern));
        if (first && (efi || firmware)) {
            files.put(path, content);
        }
        if (!efi) {
            files.put(entry.system().name() + "/" + path, content);
        }
    }

    /** Whether the new menu comes in its place. */
    private boolean isMenu(String path) {
        return path.equalsIgnoreCase(board.startFiles().kernelLine())
                || path.toLowerCase(Locale.ROOT).startsWith("loader/");
    }

    private record Entry(LayoutPlan.OneSystem system, StartMenu.Entry menu, KernelLine line) {}

    private Entry entry(LayoutPlan.OneSystem system, Map<String, byte[]> files) throws UnreadableInput {
        String file = board.startFiles().kernelLine();
        String text = files.entrySet().stream()
                .filter(each -> each.getKey().equalsIgnoreCase(file))
                .findFirst()
                .map(each -> new String(each.getValue(), StandardCharsets.UTF_8))
                .orElseThrow(() -> new UnreadableInput(system.image() + " has no " + file + "."));
        StartMenu.Entry entry = StartMenu.parse(text, board.startFiles().kernelLineForm())
                .chosen()
                .filter(each -> each.kernel().isPresent() && each.parameters().isPresent())
                .orElseThrow(() -> new UnreadableInput(
                        file + " of " + system.image() + " has no entry with a kernel and its line."));
        KernelLine line = KernelLine.parse(entry.parameters().get())
                .with("root", "PARTUUID=" + partUuid(laid.system(system.name()).number()));
        // A word that has the first start fill the drive would have it go over the others.
        List<String> words =
                line.words().stream().filter(word -> !FirstProgram.isOnce(word)).toList();
        return new Entry(system, entry, new KernelLine(words));
    }

    /** The texts of the menu, by their paths. */
    private Map<String, byte[]> menu(List<Entry> entries) {
        Map<String, byte[]> files = new TreeMap<>();
        boolean single = board.startFiles().kernelLineForm() == BoardProfile.KernelLineForm.OPTIONS;
        String standard = entries.size() == 1 ? entries.get(0).system().name() : plan.standardName();
        StringBuilder all = new StringBuilder("default " + standard + "\nmenu title Which system?\nprompt 0\ntimeout "
                + plan.menuSeconds() * 10 + "\n");
        for (Entry each : entries) {
            String name = each.system().name();
            if (single) {
                String text = "title " + each.system().said() + "\nlinux "
                        + below(name, each.menu().kernel()) + "\n"
                        + line("initrd", below(name, each.menu().initramfs()))
                        + line("devicetree", below(name, each.menu().tree()))
                        + "options " + each.line().text() + "\n";
                files.put("loader/entries/" + name + ".conf", text.getBytes(StandardCharsets.UTF_8));
            } else {
                all.append("\nlabel ")
                        .append(name)
                        .append("\n  menu label ")
                        .append(each.system().said())
                        .append('\n');
                all.append(line("  kernel", below(name, each.menu().kernel())));
                all.append(line("  initrd", below(name, each.menu().initramfs())));
                all.append(line("  fdt", below(name, each.menu().tree())));
                all.append("  append ").append(each.line().text()).append('\n');
            }
        }
        if (single) {
            String text = "default " + standard + ".conf\ntimeout " + plan.menuSeconds() + "\n";
            files.put("loader/loader.conf", text.getBytes(StandardCharsets.UTF_8));
        } else {
            files.put(board.startFiles().kernelLine(), all.toString().getBytes(StandardCharsets.UTF_8));
        }
        return files;
    }

    private static String line(String word, String value) {
        return value.isEmpty() ? "" : word + " " + value + "\n";
    }

    /** Where a system's file is: in the folder of its name where others share the partition. */
    private String below(String folder, Optional<String> name) {
        return name.map(each -> (plan.byEntries() ? "/" : "/" + folder + "/")
                        + each.strip().replaceFirst("^/+", ""))
                .orElse("");
    }

    private void root(BlockDevice device, LayoutPlan.Part part, Source source, Path room) throws IOException {
        Path file = room.resolve(part.name() + ".root");
        source.root(file, part.size());
        List<String> before = source.partUuids();
        try (FileDevice root = FileDevice.forWriting(file, part.size())) {
            fstab(root, part, before);
            copy(root, slice(device, part));
        }
        java.nio.file.Files.delete(file);
    }

    /** Its lines go by the new identifiers; shared data gets one. */
    private void fstab(BlockDevice root, LayoutPlan.Part part, List<String> before) throws IOException {
        FileSystemReader reader = FileSystems.open(root).orElseThrow();
        Optional<FileBody> body = reader.body("/etc/fstab").filter(each -> !each.link());
        if (body.isEmpty() || !(reader instanceof ExtReader)) {
            return;
        }
        String text = body.get().text();
        String now =
                renamed(text, before.get(0), partUuid(laid.startOf(part.name()).number()));
        now = renamed(now, before.get(1), partUuid(part.number()));
        if (laid.dataPart().isPresent()) {
            now += (now.endsWith("\n") ? "" : "\n") + "PARTUUID="
                    + partUuid(laid.dataPart().get().number()) + " /data ext4 defaults,nofail 0 2\n";
        }
        if (!now.equals(text)) {
            ExtWriter.of(root).write("/etc/fstab", body.get().with(now.getBytes(StandardCharsets.UTF_8)));
        }
    }

    private static String renamed(String text, String before, String after) {
        return before.isEmpty() ? text : text.replaceAll("(?i)(PARTUUID=\"?)" + Pattern.quote(before), "$1" + after);
    }

    /** What is not zero; the rest of a new file is. */
    private static void copy(BlockDevice from, BlockDevice to) throws IOException {
        byte[] zero = new byte[PIECE];
        for (long at = 0; at < from.size().bytes(); at += PIECE) {
            byte[] piece = from.bytes(at, (int) Math.min(PIECE, from.size().bytes() - at));
            if (!java.util.Arrays.equals(piece, 0, piece.length, zero, 0, piece.length)) {
                to.write(at, ByteBuffer.wrap(piece));
            }
        }
    }
}
