// SPDX-License-Identifier: Apache-2.0
package exordium.core.multiboot;

import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonProperty;
import exordium.core.board.BoardProfile;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.firststart.dialect.SelfGrowth;
import exordium.core.layout.NewTable;
import exordium.core.quantity.ByteSize;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Several systems on one drive, as somebody wants them (docs/formats/layout.md): one start partition for all, a root for each, and room
 * for shared data.
 *
 * @param drive bytes of the drive it is for
 * @param standard the system that starts when nobody chooses; the first where absent
 * @param timeout seconds the menu waits
 * @param choose by one menu where absent
 */
@JsonInclude(JsonInclude.Include.NON_EMPTY)
public record LayoutPlan(
        String profile,
        ByteSize drive,
        Optional<String> table,
        Optional<ByteSize> start,
        List<OneSystem> systems,
        Optional<ByteSize> data,
        Optional<String> standard,
        Optional<Integer> timeout,
        Optional<Choose> choose) {
    public static final String SCHEMA = "/exordium/profiles/layout.schema.json";
    /** Of every partition's start; what flash and its translation like. Common practice, no source. */
    private static final long ALIGNED = 4L << 20;

    private static final ByteSize USUAL_START = ByteSize.of(256L << 20);
    /** FAT32 has at least 65,525 clusters (FAT specification), of at least a sector, with room for its tables. */
    private static final ByteSize LEAST_START = ByteSize.of(36L << 20);
    /** An MBR counts 2^32 sectors (UEFI specification 2.10, 5.2.1). */
    private static final long MOST_OF_MBR = (1L << 32) * 512;

    private static final int USUAL_TIMEOUT = 5;
    private static final Basis IMAGES = Basis.computed("the images");

    public LayoutPlan {
        systems = systems == null ? List.of() : List.copyOf(systems);
    }

    /** How one of them is chosen at a start. */
    public enum Choose {
        /** One start partition with one menu. */
        @JsonProperty("menu")
        MENU("one menu for all"),
        /** Each has a start partition of its own, and an entry of UEFI's own list. */
        @JsonProperty("entries")
        ENTRIES("an entry for each in the firmware's list");

        private final String said;

        Choose(String said) {
            this.said = said;
        }

        public String said() {
            return said;
        }
    }

    /**
     * One of them.
     *
     * @param image file it comes from
     * @param size of its root; what the image has where absent, and for the last one what is left
     */
    @JsonInclude(JsonInclude.Include.NON_EMPTY)
    public record OneSystem(String name, String image, Optional<ByteSize> size, Optional<String> title) {
        public String said() {
            return title.orElse(name);
        }
    }

    /**
     * What an image holds, as far as a layout goes.
     *
     * @param root bytes of its root's partition, and least: what its files need
     * @param startFiles bytes in its start partition
     * @param starts whether a board of the family starts from it
     */
    public record ImageFacts(ByteSize root, ByteSize least, ByteSize startFiles, boolean starts, SelfGrowth growth) {}

    /** What a partition holds. */
    public enum Holds {
        START,
        SYSTEM,
        DATA
    }

    /** One partition of the drive, to scale; start from the drive's first byte. */
    public record Part(int number, Holds holds, String name, long start, ByteSize size, ByteSize least) {
        public long end() {
            return start + size.bytes();
        }
    }

    /** The drive as it would be. */
    public record Laid(boolean gpt, List<Part> parts, ByteSize free, List<Finding> findings) {
        public Part system(String name) {
            return parts.stream()
                    .filter(each -> each.holds() == Holds.SYSTEM && each.name().equals(name))
                    .findFirst()
                    .orElseThrow();
        }

        /** The partition a system starts from: its own, or the one for all. */
        public Part startOf(String name) {
            return parts.stream()
                    .filter(each -> each.holds() == Holds.START && each.name().equals(startName(name)))
                    .findFirst()
                    .orElse(parts.get(0));
        }

        public Optional<Part> dataPart() {
            return parts.stream().filter(each -> each.holds() == Holds.DATA).findFirst();
        }
    }

    private static String startName(String system) {
        return system + "-start";
    }

    public boolean byEntries() {
        return choose.filter(Choose.ENTRIES::equals).isPresent();
    }

    public String standardName() {
        return standard.orElse(systems.isEmpty() ? "" : systems.get(0).name());
    }

    public int menuSeconds() {
        return timeout.orElse(USUAL_TIMEOUT);
    }

    /** The same with another system in front. */
    public LayoutPlan startingWith(String name) {
        return new LayoutPlan(profile, drive, table, start, systems, data, Optional.of(name), timeout, choose);
    }

    private boolean gpt() {
        int parts = (byEntries() ? systems.size() : 1) + systems.size() + (data.isPresent() ? 1 : 0);
        return table.map("gpt"::equals).orElse(parts > NewTable.MOST_IN_MBR || drive.bytes() > MOST_OF_MBR);
    }

    private static long up(long bytes) {
        return (bytes + ALIGNED - 1) / ALIGNED * ALIGNED;
    }

    /** Where facts: of each system's image, by the system's name. */
    public Laid laid(BoardProfile board, Map<String, ImageFacts> facts) {
        List<Finding> findings = new ArrayList<>();
        judge(board, facts, findings);
        boolean gpt = gpt() || board.order().form().entries();
        // A GPT keeps its copy in the last 33 sectors (UEFI specification 2.10, 5.3.1).
        long end = (drive.bytes() - (gpt ? 33 * 512 : 0)) / ALIGNED * ALIGNED;
        List<Part> parts = new ArrayList<>();
        long at = ALIGNED;
        if (!byEntries()) {
            at = start(
                    parts,
                    "start",
                    at,
                    ByteSize.of(facts.values().stream()
                            .mapToLong(each -> each.startFiles().bytes())
                            .sum()));
        }
        long dataBytes = data.map(each -> up(each.bytes())).orElse(0L);
        for (int i = 0; i < systems.size(); i++) {
            OneSystem each = systems.get(i);
            ImageFacts image = facts.get(each.name());
            if (byEntries()) {
                at = start(parts, startName(each.name()), at, image.startFiles());
            }
            long left = end - at - dataBytes;
            boolean takesRest = i == systems.size() - 1 && each.size().isEmpty();
            long wanted = takesRest
                    ? Math.max(left, image.root().bytes())
                    : up(each.size().orElse(image.root()).bytes());
            parts.add(new Part(parts.size() + 1, Holds.SYSTEM, each.name(), at, ByteSize.of(wanted), image.least()));
            at += wanted;
        }
        if (data.isPresent()) {
            parts.add(new Part(parts.size() + 1, Holds.DATA, "data", at, ByteSize.of(dataBytes), ByteSize.ZERO));
            at += dataBytes;
        }
        fits(parts, at, end, gpt, findings);
        return new Laid(gpt, List.copyOf(parts), ByteSize.of(Math.max(0, end - at)), Finding.worstFirst(findings));
    }

    /** Adds a start partition. @return where it ends */
    private long start(List<Part> parts, String name, long at, ByteSize files) {
        ByteSize size = ByteSize.of(up(start.orElse(USUAL_START).bytes()));
        ByteSize least = files.compareTo(LEAST_START) > 0 ? files : LEAST_START;
        parts.add(new Part(parts.size() + 1, Holds.START, name, at, size, least));
        return at + size.bytes();
    }

    private void fits(List<Part> parts, long at, long end, boolean gpt, List<Finding> findings) {
        if (at > end) {
            findings.add(Finding.stop(
                    "layout-too-large",
                    "It needs " + ByteSize.of(at).said() + " and the drive has " + drive.said() + ".",
                    Basis.computed("the sizes")));
        }
        if (!gpt && drive.bytes() > MOST_OF_MBR) {
            findings.add(Finding.stop(
                    "layout-beyond-mbr",
                    "An MBR reaches " + ByteSize.of(MOST_OF_MBR).said() + "; take a GPT.",
                    Basis.standard("UEFI specification, 5.2.1")));
        }
        if (!gpt && parts.size() > NewTable.MOST_IN_MBR) {
            findings.add(Finding.stop(
                    "layout-too-many",
                    parts.size() + " partitions do not fit an MBR, which takes four; take a GPT.",
                    Basis.standard("UEFI specification, 5.2.1: four records in an MBR")));
        }
        for (Part part : parts) {
            if (part.size().compareTo(part.least()) < 0) {
                findings.add(Finding.stop(
                        "layout-too-small",
                        part.name() + " is to have " + part.size().said() + "; what goes into it needs "
                                + part.least().said() + ".",
                        IMAGES));
            }
        }
    }

    private void judge(BoardProfile board, Map<String, ImageFacts> facts, List<Finding> findings) {
        if (byEntries() && !board.order().form().entries()) {
            findings.add(Finding.stop(
                    "layout-no-entries",
                    "A " + board.id()
                            + " keeps no list of entries and looks at the first start partition only: take one menu for all.",
                    Basis.computed("the board's profile")));
        }
        if (board.startFiles().kernelLineForm() == BoardProfile.KernelLineForm.PLAIN) {
            findings.add(Finding.stop(
                    "layout-no-menu",
                    "A " + board.id()
                            + " reads the files of its first start partition and has no menu: give each system a drive of its"
                            + " own, and make start sets of them.",
                    Basis.computed("the board's profile")));
        }
        Set<String> names = new HashSet<>();
        for (int i = 0; i < systems.size(); i++) {
            OneSystem each = systems.get(i);
            ImageFacts image = facts.get(each.name());
            if (!names.add(each.name())) {
                findings.add(Finding.stop(
                        "layout-name-twice",
                        "Two systems are called " + each.name() + ".",
                        Basis.computed("the plan")));
            }
            if (!image.starts()) {
                findings.add(Finding.stop(
                        "layout-other-board", each.image() + " has no start files for a " + board.id() + ".", IMAGES));
            }
            boolean behind = i == systems.size() - 1 && data.isEmpty();
            if (image.growth().kind() == SelfGrowth.GrowthKind.ITSELF && !behind) {
                findings.add(Finding.stop(
                        "layout-wants-all",
                        each.said() + " fills the drive at its first start ("
                                + image.growth().mark()
                                + ") and would go over what stands behind it: put it last, with no shared data.",
                        IMAGES));
            }
        }
        if (systems.stream().noneMatch(each -> each.name().equals(standardName()))) {
            findings.add(Finding.stop(
                    "layout-no-such-system",
                    "There is no system " + standardName() + " to start when nobody chooses.",
                    Basis.computed("the plan")));
        }
    }
}
