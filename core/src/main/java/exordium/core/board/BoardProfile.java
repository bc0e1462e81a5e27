// SPDX-License-Identifier: Apache-2.0
package exordium.core.board;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonProperty;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Watts;
import exordium.core.storage.judgement.StorageNeed;
import exordium.core.storage.media.Link;
import exordium.core.storage.media.Supply;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/** Everything the program knows of a family of boards. Nothing in the code asks which board it is. */
public record BoardProfile(
        String id,
        String title,
        int width,
        List<String> memory,
        Order order,
        Power power,
        List<Port> ports,
        StartFiles startFiles,
        Firmware firmware,
        Timing timing,
        Optional<NetworkFiles> networkFiles,
        Optional<FamilySources> sources) {

    /** Where its fields are from; of one written down whole, by whoever wrote it. */
    public FamilySources from() {
        return sources.orElse(FamilySources.NONE);
    }

    private BoardProfile changed(StartFiles files, Firmware own, Timing times, Optional<FamilySources> from) {
        return new BoardProfile(id, title, width, memory, order, power, ports, files, own, times, networkFiles, from);
    }

    /** The same with its fields from there. */
    public BoardProfile with(FamilySources other) {
        return changed(startFiles, firmware, timing, Optional.of(other));
    }

    /** With more lines of its settings file of which nothing is to be said; the digest of a whole file stays its own. */
    public BoardProfile knowingStock(List<String> lines) {
        StartFiles files = startFiles;
        List<String> all = new ArrayList<>(files.stock().map(Stock::lines).orElse(List.of()));
        lines.stream().filter(each -> !all.contains(each)).forEach(all::add);
        Stock stock = new Stock(files.stock().map(Stock::sha256).orElse(""), all);
        StartFiles knowing = new StartFiles(
                files.settings(),
                files.kernelLine(),
                files.kernelLineForm(),
                files.loaders(),
                files.kernels(),
                files.deviceTrees(),
                files.anyKernel(),
                files.anyTree(),
                files.userFile(),
                files.cloudFile(),
                files.filters(),
                Optional.of(stock),
                files.fileSystem());
        return changed(knowing, firmware, timing, sources);
    }

    /** With its times from the kernel on so many times as long; from: what they were measured by. */
    public BoardProfile calibrated(double times, String by) {
        Timing own = new Timing(
                timing.powerOn(),
                timing.tryEmpty(),
                timing.tryMedium(),
                timing.kernel() * times,
                timing.userSpace() * times);
        FamilySources measured = from().with(new FieldSource(FieldSource.Kind.MEASURED, by), FamilyField.TIMING);
        return changed(startFiles, firmware, own, Optional.of(measured));
    }

    /** With what the releases of its firmware enable, where its own file says nothing of that source. */
    public BoardProfile enabledBy(Map<StartSource, LocalDate> since) {
        Map<StartSource, LocalDate> needs = new LinkedHashMap<>(since);
        needs.putAll(firmware.needs());
        if (needs.equals(firmware.needs())) {
            return this;
        }
        FamilySources told = from().with(FieldSource.told("releases on the shelf"), FamilyField.FIRMWARE_NEEDS);
        return changed(startFiles, firmware.needing(needs), timing, sources.map(each -> told));
    }

    /** Where one of them is from; file: what it is told by where nothing else is said. */
    public FieldSource source(FamilyField field, String file) {
        return from().of(field).orElse(FieldSource.told(file));
    }

    /**
     * How the start order is kept.
     *
     * @param form called dialect in files
     * @param key the firmware setting, kernel environment name or variable that holds it
     * @param names for lists and entries: the board's own word for each place, in its usual order
     * @param usual the value a board has when it is new
     */
    public record Order(
            @JsonProperty("dialect") OrderForm form,
            String key,
            Map<String, StartSource> names,
            String usual,
            Optional<Fuse> fuse) {}

    /**
     * One bit of one-time memory that allows a source; before and after are the register's values in hex.
     *
     * @param line of the settings file that has it set at a start, such as {@code KEY=1}; the order's key with 1 where none is said
     */
    public record Fuse(StartSource allows, int bit, String before, String after, Optional<String> line) {}

    /**
     * The supply a board is made for, and what it draws alone at work.
     *
     * @param usbAmps what USB devices may draw in all; usbAmpsWeak: on a supply weaker than it is made for
     * @param asksCurrent whether it gives its USB ports no more than that on a supply that does not tell its current, whatever it gives
     */
    public record Power(
            double volts,
            double amps,
            Watts baseWatts,
            double usbAmps,
            double usbAmpsWeak,
            Optional<Boolean> asksCurrent) {
        /** Whether it holds its USB ports back on this supply because that does not say what it gives. */
        public boolean heldBackBy(Supply given) {
            return asksCurrent.orElse(false) && !given.tellsItsCurrent();
        }

        @JsonIgnore
        public Supply supply() {
            return new Supply(volts, amps, "adapter");
        }

        public Watts usbAllowance(Supply given) {
            boolean full = given.power().compareTo(supply().power()) >= 0;
            return Watts.of(volts, full && !heldBackBy(given) ? usbAmps : usbAmpsWeak);
        }
    }

    /**
     * A place for a medium.
     *
     * @param device what the kernel calls a drive there; a trailing {@code *} stands for the letter by order of finding
     * @param key a firmware setting that must be 1 for carriers that do not announce themselves
     * @param speed the firmware's setting that holds the generation a PCIe port runs at, where it may be driven beyond its own
     * @param lengths M.2 codes that the usual carrier takes
     * @param soldered what sits there for good
     * @param off settings of the firmware with which nothing is seen there, such as {@code PCIE=0}
     */
    public record Port(
            String id,
            String title,
            StartSource source,
            List<String> buses,
            Link link,
            String device,
            Optional<String> key,
            Optional<String> speed,
            Optional<List<Integer>> lengths,
            Optional<List<String>> off,
            Optional<Soldered> soldered) {}

    /** Storage that is part of the board: its kind of medium and its bytes. */
    public record Soldered(String kind, ByteSize size) {}

    /**
     * What the firmware reads from the start partition. Names may hold {@code *}.
     *
     * @param loaders at least one must be there
     * @param kernels file name to width in bits
     * @param deviceTrees at least one must be there; empty where the kernel needs none
     * @param anyKernel what kernels of any family are called, and anyTree their device trees
     * @param userFile a line "name:hash" in it makes an account at the first start
     * @param cloudFile the other dialect of a first start (cloud-init documentation, NoCloud)
     * @param stock its settings file as a system for it brought it, of which nothing is to be said
     * @param fileSystem what they lie on: fat, where nothing is said, or ext
     * @param filters sections of its settings file that are known to hold for it or for some board, such as {@code all}
     */
    public record StartFiles(
            Optional<String> settings,
            String kernelLine,
            KernelLineForm kernelLineForm,
            List<String> loaders,
            Map<String, Integer> kernels,
            List<String> deviceTrees,
            Optional<String> anyKernel,
            Optional<String> anyTree,
            Optional<String> userFile,
            Optional<String> cloudFile,
            Optional<List<String>> filters,
            Optional<Stock> stock,
            Optional<String> fileSystem) {
        /** Whether they lie in the system's own file system, and not in a small one beside it. */
        public boolean onExt() {
            return fileSystem.filter("ext"::equals).isPresent();
        }

        public String kernelOfAny() {
            return anyKernel.orElse("kernel*.img");
        }

        public String treeOfAny() {
            return anyTree.orElse("*.dtb");
        }
    }

    /**
     * A settings file as it came.
     *
     * @param sha256 of the file, in hex
     * @param lines that set something, each behind its section in brackets
     */
    public record Stock(String sha256, List<String> lines) {}

    /** How the kernel line stands in its file. */
    public enum KernelLineForm {
        /** The file is the line. */
        PLAIN,
        /** After "append" (U-Boot documentation, extlinux.conf). */
        APPEND,
        /** After "options" (Boot Loader Specification, type 1). */
        OPTIONS,
        /** After "bootargs=", among other names and values (U-Boot documentation, environment; uEnv.txt by common practice). */
        ENVIRONMENT;

        /** Whether boards that read the one are likely to be of the kind that reads the other. */
        public boolean nearly(KernelLineForm other) {
            return this == other || (this == ENVIRONMENT && other == APPEND);
        }

        @com.fasterxml.jackson.annotation.JsonCreator
        public static KernelLineForm of(String text) {
            return valueOf(text.toUpperCase(java.util.Locale.ROOT));
        }

        @com.fasterxml.jackson.annotation.JsonValue
        public String code() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }
    }

    /**
     * Where the firmware is kept, and the first release in which each source works.
     *
     * @param where chip; medium, where each starting medium brings its own; card, where it lies on the card whatever is started
     * @param files of a firmware on the card: at least one must be there
     * @param slots of the chip: with two an update that is cut leaves the old one; one where nothing is said
     * @param tool path of the program by which a running system updates it
     * @param onCard how such a card is made, where the firmware lies on it
     * @param recovery names of files in a card's start partition that have the chip written anew
     * @param chipImage names of the chip's image beside one of them, and chipSignature of what signs it
     */
    public record Firmware(
            String where,
            boolean updatable,
            Map<StartSource, LocalDate> needs,
            Optional<List<String>> files,
            Optional<List<String>> recovery,
            Optional<Integer> slots,
            Optional<String> tool,
            Optional<OnCard> onCard,
            Optional<List<String>> chipImage,
            Optional<List<String>> chipSignature) {
        /** Of a family nothing more is known of. */
        public static Firmware plain(String where, boolean updatable) {
            return new Firmware(
                    where,
                    updatable,
                    Map.of(),
                    Optional.empty(),
                    Optional.empty(),
                    Optional.empty(),
                    Optional.empty(),
                    Optional.empty(),
                    Optional.empty(),
                    Optional.empty());
        }

        /** What a chip's image is called beside the program that writes it; any name of such a kind where nothing is said. */
        public List<String> chipImages() {
            return chipImage.orElse(List.of("*.bin", "*.upd", "*.rom", "*.fd", "*.img"));
        }

        /** The release since which a source works, where the one that runs is older. */
        public Optional<LocalDate> lacking(StartSource source, LocalDate running) {
            return Optional.ofNullable(needs.get(source)).filter(running::isBefore);
        }

        /** Whether its firmware is in a chip of its own, which can be written anew. */
        public boolean inChip() {
            return where.equals("chip");
        }

        /** For another family: neither releases nor tools of this one say anything of what that one's can, or are called. */
        public Firmware ofAnother() {
            return new Firmware(
                    where,
                    updatable,
                    Map.of(),
                    files,
                    Optional.empty(),
                    slots,
                    Optional.empty(),
                    onCard,
                    Optional.empty(),
                    Optional.empty());
        }

        Firmware needing(Map<StartSource, LocalDate> releases) {
            return new Firmware(
                    where, updatable, releases, files, recovery, slots, tool, onCard, chipImage, chipSignature);
        }

        public Firmware withTool(Optional<String> path) {
            return new Firmware(
                    where, updatable, needs, files, recovery, slots, path, onCard, chipImage, chipSignature);
        }
    }

    /**
     * How a card with the firmware is made of its archive.
     *
     * @param leaveOut names of files in it that do not belong on the card, whatever folder they are in
     * @param settings file that the firmware reads
     * @param memoryCap what a system gets of a larger memory until the firmware is told otherwise
     */
    public record OnCard(
            List<String> leaveOut,
            Optional<String> settings,
            Optional<Graphics> graphics,
            Optional<ByteSize> memoryCap) {
        public static final OnCard NONE = new OnCard(List.of(), Optional.empty(), Optional.empty(), Optional.empty());

        public OnCard {
            leaveOut = leaveOut == null ? List.of() : List.copyOf(leaveOut);
        }

        public boolean leaves(String path) {
            return Arrays.stream(path.split("/")).anyMatch(part -> NamePattern.isLikeAny(part, leaveOut));
        }
    }

    /** The graphics' share of memory: with up to so much the least, in MB, under this key of the settings. */
    public record Graphics(String key, int least, ByteSize upTo) {}

    /**
     * Where a start over the network looks for its files.
     *
     * @param by serial: a folder named by the serial; menu: a menu named by the hardware address, else the default one; boot-file:
     *     the file the lease names
     * @param names of the boot file or of the menus' folder
     */
    public record NetworkFiles(String by, List<String> names) {}

    public NetworkFiles network() {
        return networkFiles.orElse(new NetworkFiles("serial", List.of()));
    }

    /** Seconds; common practice, no source. */
    public record Timing(double powerOn, double tryEmpty, double tryMedium, double kernel, double userSpace) {}

    public Optional<Port> port(String port) {
        return ports.stream().filter(each -> each.id().equals(port)).findFirst();
    }

    /** Where a medium can go, and the network socket, where a root on a server comes in. */
    public List<StorageNeed.Socket> sockets() {
        return ports.stream()
                .filter(port -> port.source().holdsMedium() || port.source() == StartSource.NETWORK)
                .map(port -> new StorageNeed.Socket(
                        port.id(),
                        port.title(),
                        port.source() == StartSource.NETWORK ? List.of("network") : port.buses(),
                        port.link(),
                        port.lengths().orElse(List.of())))
                .toList();
    }

    /** What the choice of storage asks of a board with this supply and this much memory, such as "512 MB" or "8 GB". */
    public StorageNeed.Host host(Supply supply, String size) {
        double memory = ByteSize.parse(size).bytes() / 1e9;
        double start = timing.powerOn() + timing.tryMedium() + timing.kernel() + timing.userSpace();
        StorageNeed.Doubts doubts =
                new StorageNeed.Doubts(from().doubt(FamilyField.POWER), from().doubt(FamilyField.PORTS));
        return new StorageNeed.Host(power.baseWatts(), power.usbAllowance(supply), width, memory, start, doubts);
    }

    /** A stored order in the few characters a cell has room for. */
    public String orderFigure(String value) {
        if (order.fuse().isPresent()) {
            return "fuse " + order.fuse().get().bit();
        }
        List<String> words = List.of(value.split("[ ,]+"));
        return words.size() > 1 ? words.size() + " places" : value;
    }

    /** The line of the settings file that has its bit set; a family without one has none. */
    public Optional<String> bitLine() {
        return order.fuse().map(fuse -> fuse.line().orElse(order.key() + "=1"));
    }

    /** What tells it from other families, by what a person can see: sockets, supply, where its order and its firmware are kept. */
    public String tell() {
        Map<String, Long> sockets = new LinkedHashMap<>();
        for (Port port : ports) {
            if (port.source() != StartSource.NETWORK_INSTALL) {
                sockets.merge(socket(port), 1L, Long::sum);
            }
        }
        String seen = sockets.entrySet().stream()
                .map(each -> each.getValue() > 1 ? each.getValue() + " x " + each.getKey() : each.getKey())
                .collect(Collectors.joining(", "));
        String kept = order.form().tell(order.usual());
        String lives =
                switch (firmware.where()) {
                    case "chip" -> "firmware in a chip of its own";
                    case "card" -> "firmware on the card";
                    default -> "firmware on whatever it starts from";
                };
        return "Sockets: " + seen + ". Made for " + power.supply().said() + ", " + width + " bits; " + lives + "; "
                + kept + ".";
    }

    private static String socket(Port port) {
        return switch (port.source()) {
            case CARD -> "card slot";
            case USB, USB_DEVICE -> port.link().title();
            case NVME -> "M.2 on PCIe";
            case EMMC -> "storage soldered on";
            case NETWORK -> "wired network";
            default -> port.title();
        };
    }

    /** Whether holding a button at power on changes what is tried first. */
    public boolean hasButton() {
        return order.form().list();
    }

    public boolean supports(StartSource source) {
        return switch (source) {
            case STOP, RESTART, SERIAL_RECOVERY -> true;
            default -> ports.stream().anyMatch(port -> port.source() == source);
        };
    }
}
