// SPDX-License-Identifier: Apache-2.0
package exordium.core.multiboot;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.bootorder.EfiPathNode;
import exordium.core.bootorder.EfiStore;
import exordium.core.bootorder.EfiVariables;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Finding;
import exordium.core.finding.UnknownName;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.firststart.dialect.SelfGrowth;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.UUID;
import org.junit.jupiter.api.Test;

/** Where partitions go, and what cannot be. */
class LayoutPlanTest {
    private static final ProfileReader READER = new ProfileReader();
    private static final long MIB = 1L << 20;
    private static final SelfGrowth NOT = new SelfGrowth(SelfGrowth.GrowthKind.NOT, "");

    private static BoardProfile board(String id) throws IOException {
        return BoardProfiles.shipped().require(id);
    }

    private static LayoutPlan plan(String text) throws IOException {
        return READER.user("layout", text.getBytes(StandardCharsets.UTF_8), LayoutPlan.SCHEMA, LayoutPlan.class);
    }

    private static final String TWO =
            "profile: curlew-e\ndrive: 4 GB\nsystems:\n  - {name: a, image: a.img, size: 1 GiB}\n  - {name: b, image: b.img}\n";

    private static LayoutPlan.ImageFacts facts(SelfGrowth growth) {
        return new LayoutPlan.ImageFacts(
                ByteSize.of(600 * MIB), ByteSize.of(500 * MIB), ByteSize.of(40 * MIB), true, growth);
    }

    private static final Map<String, LayoutPlan.ImageFacts> BOTH = Map.of("a", facts(NOT), "b", facts(NOT));

    private static List<String> codes(LayoutPlan plan, Map<String, LayoutPlan.ImageFacts> facts) throws IOException {
        return plan.laid(board(plan.profile()), facts).findings().stream()
                .filter(Finding::stops)
                .map(Finding::code)
                .toList();
    }

    /** By hand: 4 MiB, then 256 MiB of start, 1 GiB, and the rest down to a whole 4 MiB. */
    @Test
    void partsAreAlignedAndTheLastTakesTheRest() throws IOException {
        LayoutPlan.Laid laid = plan(TWO).laid(board("curlew-e"), BOTH);
        assertThat(laid.gpt()).isFalse();
        assertThat(laid.parts()).extracting(LayoutPlan.Part::start).containsExactly(4 * MIB, 260 * MIB, 1284 * MIB);
        long end = 4_000_000_000L / (4 * MIB) * (4 * MIB);
        assertThat(laid.parts().get(2).end()).isEqualTo(end);
        assertThat(laid.findings()).isEmpty();
        LayoutPlan.Laid shared = plan(TWO + "data: 100 MB\n").laid(board("curlew-e"), BOTH);
        assertThat(shared.dataPart().orElseThrow().size()).isEqualTo(ByteSize.of(96 * MIB));
        assertThat(shared.free()).isEqualTo(ByteSize.ZERO);
    }

    @Test
    void whatCannotBeIsAStop() throws IOException {
        assertThat(codes(plan(TWO.replace("4 GB", "1.5 GB")), BOTH)).contains("layout-too-large");
        assertThat(codes(plan(TWO.replace("1 GiB", "400 MiB")), BOTH)).contains("layout-too-small");
        assertThat(codes(plan(TWO + "start: 64 MiB\n"), BOTH)).contains("layout-too-small");
        assertThat(codes(plan(TWO.replace("curlew-e", "plover-4")), BOTH)).contains("layout-no-menu");
        assertThat(codes(plan(TWO + "standard: c\n"), BOTH)).contains("layout-no-such-system");
        assertThat(codes(plan(TWO.replace("name: b", "name: a")), BOTH)).contains("layout-name-twice");
        SelfGrowth all = new SelfGrowth(SelfGrowth.GrowthKind.ITSELF, "growroot");
        assertThat(codes(plan(TWO), Map.of("a", facts(all), "b", facts(NOT)))).containsExactly("layout-wants-all");
        assertThat(codes(plan(TWO), Map.of("a", facts(NOT), "b", facts(all)))).isEmpty();
        assertThat(codes(plan(TWO + "data: 100 MB\n"), Map.of("a", facts(NOT), "b", facts(all))))
                .containsExactly("layout-wants-all");
        assertThat(codes(
                        plan(
                                TWO
                                        + "  - {name: c, image: c, size: 600 MiB}\n  - {name: d, image: d, size: 600 MiB}\ntable: mbr\n"),
                        Map.of("a", facts(NOT), "b", facts(NOT), "c", facts(NOT), "d", facts(NOT))))
                .contains("layout-too-many");
        assertThatThrownBy(() -> plan(TWO.replace("name: a", "name: ../a"))).hasMessageContaining("name");
    }

    @Test
    void uefiBoardsGetAGpt() throws IOException {
        assertThat(plan(TWO.replace("curlew-e", "dunlin-u"))
                        .laid(board("dunlin-u"), BOTH)
                        .gpt())
                .isTrue();
    }

    /** By hand: 4 MiB, then for each system 64 MiB of start and its root; a GPT keeps its copy in the last 33 sectors. */
    @Test
    void byEntriesEachSystemHasAStartOfItsOwn() throws IOException {
        String text = TWO.replace("curlew-e", "dunlin-u") + "start: 64 MiB\nchoose: entries\ndata: 100 MB\n";
        LayoutPlan.Laid laid = plan(text).laid(board("dunlin-u"), BOTH);
        assertThat(laid.gpt()).isTrue();
        assertThat(laid.parts())
                .extracting(LayoutPlan.Part::name)
                .containsExactly("a-start", "a", "b-start", "b", "data");
        assertThat(laid.parts()).extracting(LayoutPlan.Part::number).containsExactly(1, 2, 3, 4, 5);
        assertThat(laid.parts())
                .extracting(LayoutPlan.Part::start)
                .startsWith(4 * MIB, 68 * MIB, 1092 * MIB, 1156 * MIB);
        long end = (4_000_000_000L - 33 * 512) / (4 * MIB) * (4 * MIB);
        assertThat(laid.parts().get(4).end()).isEqualTo(end);
        assertThat(laid.startOf("b").number()).isEqualTo(3);
        assertThat(laid.system("b").number()).isEqualTo(4);
        assertThat(laid.findings()).noneMatch(Finding::stops);
        assertThat(codes(plan(text.replace("64 MiB", "32 MiB")), BOTH)).contains("layout-too-small");
        assertThat(codes(plan(TWO + "choose: entries\n"), BOTH)).contains("layout-no-entries");
        assertThat(codes(plan(TWO + "choose: menu\n"), BOTH)).isEmpty();
        assertThatThrownBy(() -> plan(TWO + "choose: dice\n")).hasMessageContaining("choose");
        LayoutPlan.Laid shared = plan(TWO).laid(board("curlew-e"), BOTH);
        assertThat(shared.startOf("a")).isEqualTo(shared.startOf("b"));
    }

    @Test
    void entriesNameThePartitionsTheyStartFrom() throws IOException {
        LayoutPlan plan = plan(TWO.replace("curlew-e", "dunlin-u") + "start: 64 MiB\nchoose: entries\nstandard: b\n");
        LayoutPlan.Laid laid = plan.laid(board("dunlin-u"), BOTH);
        LayoutImage.Identifiers identifiers =
                LayoutImage.Identifiers.of(laid.parts().size(), new Random(8));
        EfiVariables made =
                new LayoutImage(plan, laid, board("dunlin-u"), identifiers).entries("EFI/BOOT/BOOTAA64.EFI");
        assertThat(made.order()).containsExactly(0x11, 0x10);
        EfiVariables read = EfiStore.parse(EfiStore.of(made));
        assertThat(read).isEqualTo(made);
        assertThat(read.entries().get(0x11).path())
                .containsExactly(
                        EfiPathNode.partition(
                                3,
                                1092 * 2048,
                                64 * 2048,
                                UUID.fromString(identifiers.partitions().get(2))),
                        EfiPathNode.file("\\EFI\\BOOT\\BOOTAA64.EFI"));
    }

    @Test
    void whatPeopleCallASetBecomesItsName() throws IOException {
        assertThat(StartSets.nameOf(" Night watch, 2nd ")).isEqualTo("night-watch-2nd");
        assertThat(StartSets.nameOf("trial")).isEqualTo("trial");
        for (String none : List.of("", " \t", "---", "x".repeat(41))) {
            assertThatThrownBy(() -> StartSets.nameOf(none)).isInstanceOf(BadArgument.class);
        }
    }

    @Test
    void setsAreKeptByNameAndGoIntoTheSettings() throws IOException {
        StartSets.StartSet set = new StartSets.StartSet(
                "trial",
                Optional.empty(),
                Optional.of("0xf416"),
                Map.of("usb1", "stick"),
                List.of("card"),
                Map.of("PCIE_PROBE", "1"),
                Optional.empty());
        StartSets sets = StartSets.NONE.with(set);
        assertThat(sets.require("trial")).isEqualTo(set);
        assertThat(sets.with(set).sets()).hasSize(1);
        assertThatThrownBy(() -> sets.require("moon"))
                .isInstanceOf(UnknownName.class)
                .hasMessageContaining("trial");
        FirmwareConfig config = set.in(new FirmwareConfig("BOOT_ORDER=0xf41\nOTHER=2"), board("plover-5"));
        assertThat(config.lines()).contains("BOOT_ORDER=0xf416", "PCIE_PROBE=1", "OTHER=2");
        assertThatThrownBy(() -> StartSets.NONE.with(new StartSets.StartSet(
                        "x",
                        Optional.empty(),
                        Optional.empty(),
                        Map.of("card", "a"),
                        List.of("card"),
                        Map.of(),
                        Optional.empty())))
                .isInstanceOf(BadArgument.class);
    }
}
