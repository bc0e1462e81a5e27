// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import static exordium.core.testing.Benches.attached;
import static exordium.core.testing.Benches.bench;
import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.finding.Finding;
import exordium.core.rehearsal.contents.Cause;
import exordium.core.testing.DiskBuilder;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is the cause when several sources failed; order, firmware and menus. */
class DecidedCausesTest extends DecidedCases {
    private static List<String> codes(Trace trace) {
        return trace.findings().stream().map(Finding::code).toList();
    }

    // Which cause, when several sources failed

    @Test
    void theFaultNearestToStartingIsTheCauseWhateverWasTriedFirst() throws IOException {
        Path noFiles = disk().without("start.elf").without("config.txt").build("nofiles.img");
        Bench.Attached bare = attached(BOARD, "card", "card-quick", blank("blank.img"));
        Bench.Attached near = attached(BOARD, "usb1", "stick", noFiles);
        assertThat(Rehearsal.of(bench(BOARD, "0xf41", bare, near)).cause()).isEqualTo(Cause.NO_START_FILES);
        assertThat(Rehearsal.of(bench(BOARD, "0xf14", bare, near)).cause()).isEqualTo(Cause.NO_START_FILES);
    }

    @Test
    void aMediumWithAFaultOfItsOwnComesBeforeWhatTheOrderSays() throws IOException {
        Bench.Attached bare = attached(BOARD, "card", "card-quick", blank("blank.img"));
        assertThat(Rehearsal.of(bench(BOARD, "0xe1", bare)).cause()).isEqualTo(Cause.NO_PARTITION_TABLE);
        assertThat(Rehearsal.of(bench(BOARD, "0xe1")).cause()).isEqualTo(Cause.STOPPED_BY_ORDER);
        assertThat(Rehearsal.of(bench(BOARD, "0x1")).cause()).isEqualTo(Cause.NO_SOURCE_LEFT);
    }

    @Test
    void aMediumsFaultComesBeforeAFuseThatIsThenAFinding() throws IOException {
        Path usb = new DiskBuilder(folder)
                .without("kernel-64.img")
                .start("kernel-32.img", "k")
                .start("plover-3-b.dtb", "t")
                .build("usb.img");
        Trace trace = Rehearsal.of(bench(
                "plover-3",
                "1020000a",
                attached("plover-3", "card", "card-quick", blank("blank.img")),
                attached("plover-3", "usb1", "stick", usb)));
        assertThat(trace.cause()).isEqualTo(Cause.NO_PARTITION_TABLE);
        assertThat(codes(trace)).contains("start-fuse-not-set");
    }

    @Test
    void theClosingSentenceNamesCauseAndMend() throws IOException {
        Trace trace = Rehearsal.of(bench(BOARD, "0xf1", attached(BOARD, "card", "card-quick", blank("blank.img"))));
        assertThat(trace.findings().get(0).text())
                .contains("no partition table")
                .contains("Write an image");
    }

    // Order

    @ParameterizedTest
    @CsvSource({"0xF41", "rubbish", "f41", "''"})
    void anOrderThatCannotBeReadIsTheUsualOne(String value) throws IOException {
        Trace trace = Rehearsal.of(bench(BOARD, value, attached(BOARD, "card", "card-quick", good)));
        assertThat(trace.outcome()).isEqualTo(Trace.Outcome.RUNNING);
        assertThat(trace.findings()).noneMatch(Finding::stops);
    }

    @Test
    void aDigitOrANameNoPortHasIsPassedOver() throws IOException {
        assertThat(Rehearsal.of(bench(BOARD, "0xf1a", attached(BOARD, "card", "card-quick", good)))
                        .runs())
                .isTrue();
        assertThat(Rehearsal.of(bench("plover-4", "0xf16", attached("plover-4", "card", "card-quick", good)))
                        .runs())
                .isTrue();
    }

    // Firmware's place, recovery card

    @Test
    void aFamilyWithItsFirmwareOnTheCardDoesNothingWithoutIt() throws IOException {
        Trace trace = Rehearsal.of(bench("dunlin-u", "0003", attached("dunlin-u", "usb1", "stick", good)));
        assertThat(trace.cause()).isEqualTo(Cause.FIRMWARE_MISSING);
        assertThat(trace.outcome()).isEqualTo(Trace.Outcome.HALTED);
    }

    @Test
    void aRecoveryCardWritesTheChipWhateverTheOrderSays() throws IOException {
        Path recovery =
                disk().start("recovery.bin", "r").start("chip.upd", "image").build("recovery.img");
        Trace trace = Rehearsal.of(bench(
                BOARD,
                "0xf6",
                attached(BOARD, "card", "card-quick", recovery),
                attached(BOARD, "nvme", "ssd-nvme", good)));
        assertThat(trace.cause()).isEqualTo(Cause.RECOVERY_WRITTEN);
        assertThat(trace.outcome()).isEqualTo(Trace.Outcome.HALTED);
        assertThat(trace.startedFrom()).contains("card");
    }

    @Test
    void theWritingProgramAloneDoesNothing() throws IOException {
        Path alone = disk().start("recovery.bin", "r")
                .without("start.elf")
                .without("config.txt")
                .without("kernel-64.img")
                .build("alone.img");
        Trace trace = Rehearsal.of(bench("plover-4", "0xf1", attached("plover-4", "card", "card-quick", alone)));
        assertThat(trace.cause()).isEqualTo(Cause.NO_START_FILES);
        assertThat(trace.startedFrom()).isEmpty();
    }

    // What a medium does that is no system to run

    /** Real kernels panic on it: "Requested init ... failed (error -2)". */
    @Test
    void aFirstProgramThatIsNotThereIsNoSystem() throws IOException {
        Path gone = disk().start(
                        "cmdline.txt", "console=tty1 root=PARTUUID=7c41e0b2-02 rootwait init=/usr/lib/first/gone\n")
                .build("gone.img");
        assertThat(Rehearsal.of(bench(BOARD, "0xf1", attached(BOARD, "card", "card-quick", gone)))
                        .cause())
                .isEqualTo(Cause.ROOT_UNREADABLE);
    }

    @Test
    void aFlasherCardInstallsAndSaysWhatItWrites() throws IOException {
        Path flasher = disk().start("curlew-e-b.dtb", "tree")
                .start("kernel-32.img", "kernel")
                .start(
                        "extlinux/extlinux.conf",
                        "default a\nlabel a\n kernel /kernel-32.img\n fdt /curlew-e-b.dtb\n append root=PARTUUID=7c41e0b2-02"
                                + " init=/usr/sbin/flash-emmc\n")
                .root("usr/sbin/flash-emmc", "#!/bin/sh\ndd if=/dev/mmcblk0 of=/dev/mmcblk1\n")
                .root("sbin/init", "\u007fELF\u0001")
                .build("flasher.img");
        Trace trace = Rehearsal.of(bench("curlew-e", "mmc0", attached("curlew-e", "card", "card-quick", flasher)));
        assertThat(trace.outcome()).isEqualTo(Trace.Outcome.INSTALLING);
        assertThat(trace.startedFrom()).contains("card");
        assertThat(trace.cause()).isEqualTo(Cause.NONE);
        assertThat(trace.findings())
                .anyMatch(each -> each.text().contains("mmcblk1") && each.text().contains("Take it out"));
    }

    // Menus

    @Test
    void theDefaultLabelOfAMenuIsTakenAndAnAbsentFilePassesItOver() throws IOException {
        String menu =
                "default b\nlabel a\n kernel /gone.img\n append root=PARTUUID=gone\nlabel b\n kernel /kernel-32.img\n"
                        + " fdt /curlew-e-b.dtb\n append root=PARTUUID=7c41e0b2-02\n";
        assertThat(Rehearsal.of(curlew(menu)).runs()).isTrue();
        assertThat(Rehearsal.of(curlew(menu.replace("default b", "default a"))).cause())
                .isEqualTo(Cause.NO_START_FILES);
        assertThat(Rehearsal.of(curlew(menu.replace("default b\n", ""))).cause())
                .isEqualTo(Cause.NO_START_FILES);
    }
}
