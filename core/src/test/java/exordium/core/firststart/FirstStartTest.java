// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfile.KernelLineForm;
import exordium.core.board.BoardProfiles;
import exordium.core.filesystem.FileBody;
import exordium.core.filesystem.FileSystemKind;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.dialect.FileEdit;
import exordium.core.firststart.dialect.FirstStartFiles;
import exordium.core.firststart.dialect.FirstStartPlan;
import exordium.core.firststart.dialect.MediumFiles;
import exordium.core.firststart.dialect.Surroundings;
import exordium.core.firststart.intents.Intents;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.firststart.kernelline.KernelLine;
import exordium.core.firststart.lint.SettingsCheck;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class FirstStartTest {
    private final BoardProfile board = board();

    private static BoardProfile board() {
        try {
            return BoardProfiles.shipped().require("plover-4");
        } catch (UnreadableInput e) {
            throw new AssertionError(e);
        }
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private static FirstStartFiles found(List<String> names, String line) {
        return found(Map.of("cmdline.txt", FileBody.of(line)), names, List.of());
    }

    private static FirstStartFiles found(Map<String, FileBody> bodies, List<String> names, List<String> partUuids) {
        return new FirstStartFiles(
                MediumFiles.ofStart(bodies, names, "cmdline.txt"),
                Optional.of("7c41e0b2-02"),
                partUuids,
                Optional.of("7c41e0b2"),
                Optional.of(
                        new FirstStartFiles.Last(FileSystemKind.EXT4, ByteSize.of(64 << 20), ByteSize.of(64 << 20))));
    }

    private static Intents wanted(String name, Object value) {
        return IntentsReader.of(Map.of(name, value));
    }

    private static List<String> codes(List<Finding> findings) {
        return findings.stream().map(Finding::code).toList();
    }

    @Test
    void remoteLoginIsAnEmptyFileOfExactlyThatName() throws IOException {
        FirstStartPlan plan =
                FirstStartPlan.of(wanted("remoteLogin", true), found(List.of("config.txt"), "root=PARTUUID=x"), board);
        assertThat(plan.edits()).containsExactly(new FileEdit("ssh", Optional.empty(), Optional.of(FileBody.of(""))));
        assertThat(codes(plan.findings())).contains("default-login");
    }

    @Test
    void whatIsThereAlreadyIsNotMadeAgain() throws IOException {
        assertThat(FirstStartPlan.of(wanted("remoteLogin", true), found(List.of("SSH"), "root=PARTUUID=x"), board)
                        .edits())
                .isEmpty();
    }

    /** What else is in the start partition is looked through as well, and held against the medium it is on. */
    @Test
    void aRootThatIsNotOnThisMediumAndAPasswordInClearAreNoticed() throws IOException {
        FirstStartFiles found = found(
                Map.of(
                        "cmdline.txt", FileBody.of("console=tty1 root=PARTUUID=11111111-02\n"),
                        "userconf.txt", FileBody.of("keeper:seagull22\n"),
                        "user-data", FileBody.of("#cloud-config\nhostname: tide_clock\n")),
                List.of(),
                List.of("7c41e0b2-01", "7c41e0b2-02"));
        assertThat(codes(FirstStartPlan.of(Intents.NONE, found, board).findings()))
                .containsExactlyInAnyOrder("root-not-on-medium", "password-in-clear", "host-name-malformed");
        assertThat(codes(FirstStartPlan.of(
                                wanted("rootByIdentifier", true), found(List.of(), "root=PARTUUID=7C41E0B2-02"), board)
                        .findings()))
                .doesNotContain("root-not-on-medium");
    }

    @Test
    void theHiddenEndingIsNoticed() throws IOException {
        assertThat(codes(FirstStartPlan.of(Intents.NONE, found(List.of("ssh.txt"), "root=PARTUUID=x"), board)
                        .findings()))
                .contains("marker-with-extension");
    }

    @Test
    void aMarkerThatHoldsSomethingIsToldAndLeft() throws IOException {
        FirstStartFiles found = found(Map.of("ssh", FileBody.of("x")), List.of(), List.of());
        FirstStartPlan plan = FirstStartPlan.of(wanted("remoteLogin", true), found, board);
        assertThat(codes(plan.findings())).contains("marker-not-empty");
        assertThat(plan.edits()).isEmpty();
    }

    /** A carrier that does not announce itself needs its line; with the line, or another carrier, nothing is said. */
    @Test
    void aDriveBehindASilentCarrierNeedsItsLine() throws IOException {
        BoardProfile five = BoardProfiles.shipped().require("plover-5");
        FirstStartFiles found = found(
                Map.of("config.txt", FileBody.of("enable_uart=1\n"), "cmdline.txt", FileBody.of("root=PARTUUID=x\n")),
                List.of(),
                List.of());
        Surroundings silent = new Surroundings(Optional.empty(), "", true, true, List.of(), 0);
        Surroundings announcing = new Surroundings(Optional.empty(), "", true, false, List.of(), 0);
        assertThat(codes(FirstStartPlan.of(Intents.NONE, found, five, silent, Optional.empty())
                        .findings()))
                .contains("pcie-line-missing");
        assertThat(codes(FirstStartPlan.of(Intents.NONE, found, five, announcing, Optional.empty())
                        .findings()))
                .doesNotContain("pcie-line-missing");
        FirstStartPlan on =
                FirstStartPlan.of(wanted("pcie", Map.of("on", true)), found, five, silent, Optional.empty());
        assertThat(codes(on.findings())).doesNotContain("pcie-line-missing");
        assertThat(on.after(found).files().body("config.txt").orElseThrow().text())
                .isEqualTo("enable_uart=1\ndtparam=pciex1\n");
        assertThat(codes(FirstStartPlan.of(wanted("pcie", Map.of("on", true)), found, board)
                        .findings()))
                .contains("value-not-for-this-board");
    }

    @Test
    void aNameOrAnAddressOfAnotherBoardIsAStop() throws IOException {
        Surroundings around = new Surroundings(
                Optional.empty(),
                "",
                false,
                false,
                List.of(new Surroundings.Neighbour("Film loop", Optional.of("FILM"), Optional.of("192.168.4.20"))),
                0);
        Intents wanted = IntentsReader.of(Map.of("hostName", "film", "fixedAddress", "192.168.4.20"));
        assertThat(codes(FirstStartPlan.of(wanted, found(List.of(), "root=PARTUUID=x"), board, around, Optional.empty())
                        .findings()))
                .contains("address-clash", "name-clash");
    }

    /** Linux kernel documentation, nfsroot: ip=client:server:gateway:netmask:host:device:autoconf, before root=. */
    @Test
    void aFixedAddressGoesBeforeTheRoot() throws IOException {
        FirstStartPlan plan = FirstStartPlan.of(
                wanted("fixedAddress", "169.254.20.7"),
                found(List.of(), "console=tty1 root=PARTUUID=x rootwait\n"),
                board);
        assertThat(plan.edits().get(0).after().orElseThrow().text())
                .isEqualTo("console=tty1 ip=169.254.20.7:::255.255.0.0::eth0:off root=PARTUUID=x rootwait\n");
    }

    @Test
    void aRootNamedByItsPlaceBecomesAnIdentifier() throws IOException {
        FirstStartPlan plan = FirstStartPlan.of(
                wanted("rootByIdentifier", true),
                found(List.of(), "console=tty1 root=/dev/mmcblk0p2 rootwait\n"),
                board);
        assertThat(plan.edits().get(0).after().orElseThrow().text())
                .isEqualTo("console=tty1 root=PARTUUID=7c41e0b2-02 rootwait\n");
        assertThat(codes(plan.findings())).contains("root-by-place");
    }

    @ParameterizedTest
    @ValueSource(strings = {"169.254", "300.1.1.1", "1.2.3.4.5", "here", "1.2.3.4 root=/dev/sda"})
    void whatIsNoAddressIsNamed(String text) {
        ObjectNode fields = JsonNodeFactory.instance.objectNode().put("fixedAddress", text);
        assertThatThrownBy(() -> IntentsReader.read(fields))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("\"" + text + "\"");
    }

    /** RFC 3927, 2.1: the first and the last 256 addresses are reserved. */
    @ParameterizedTest
    @CsvSource({
        "169.254.0.9, link-local-out-of-range",
        "169.254.255.1, link-local-out-of-range",
        "169.254.1.0, address-link-local",
        "192.168.4.20, address-fixed"
    })
    void linkLocalAddressesKeepToTheirRange(String address, String code) throws IOException {
        Intents intents = wanted("fixedAddress", address);
        assertThat(codes(FirstStartPlan.of(intents, found(List.of(), "root=PARTUUID=x"), board)
                        .findings()))
                .contains(code);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "arm_64bit=1|",
                "[all]|",
                "# note|",
                "\uFEFFarm_64bit=1|byte-order-mark",
                "kernel=\u201Cx\u201D|curly-quotes",
                "kernel=0xAB|upper-case-hex",
                "kernel=0xab|",
                "over_voltage=2|clock-raised-without-cooling",
                "program_usb_start_fuse=1|one-time-line-left",
                "[all|section-open",
                "nonsense|key-without-value",
            })
    void whatBreaksASettingsFileIsFound(String line, String code) {
        List<String> codes = codes(SettingsCheck.settings(bytes(line + "\n"), board));
        if (code == null) {
            assertThat(codes).isEmpty();
        } else {
            assertThat(codes).containsExactly(code);
        }
    }

    @Test
    void carriageReturnsAndRepeatedKeysAreFound() {
        assertThat(codes(SettingsCheck.settings(bytes("gpu_mem=16\r\nenable_uart=1\r\n"), board)))
                .containsExactly("crlf");
        assertThat(codes(SettingsCheck.settings(bytes("gpu_mem=16\ngpu_mem=32\n"), board)))
                .containsExactly("key-twice");
        assertThat(codes(SettingsCheck.settings(bytes("[plover-4]\ngpu_mem=16\n[plover-5]\ngpu_mem=32\n"), board)))
                .isEmpty();
        assertThat(codes(SettingsCheck.settings(bytes("dtoverlay=a\ndtoverlay=b\n"), board)))
                .isEmpty();
    }

    @Test
    void aKernelLineIsOneLineAndNamesARoot() {
        assertThat(codes(SettingsCheck.kernelLine(
                        bytes("console=tty1 root=PARTUUID=x rootwait\n"), KernelLineForm.PLAIN)))
                .isEmpty();
        assertThat(codes(SettingsCheck.kernelLine(bytes("console=tty1\nroot=x\n"), KernelLineForm.PLAIN)))
                .contains("kernel-line-break", "root-missing");
        assertThat(codes(SettingsCheck.kernelLine(bytes("\n"), KernelLineForm.PLAIN)))
                .contains("kernel-line-empty");
        assertThat(codes(SettingsCheck.kernelLine(
                        bytes("console=tty1 root=/dev/nfs nfsroot=a:/b"), KernelLineForm.PLAIN)))
                .containsExactly("kernel-line-no-address");
        assertThat(codes(SettingsCheck.kernelLine(
                        bytes("console=tty1 ip=dhcp root=/dev/nfs nfsroot=a:/b"), KernelLineForm.PLAIN)))
                .isEmpty();
    }

    /** The forms of U-Boot's extlinux.conf and of the Boot Loader Specification, type 1. */
    @Test
    void kernelLinesInMenusAreReadAndChangedInPlace() {
        String menu = "default a\nlabel a\n  kernel /k\n  append root=/dev/mmcblk1p2 quiet\n";
        KernelLine line = KernelLine.in(menu, KernelLineForm.APPEND).orElseThrow();
        assertThat(line.value("root")).contains("/dev/mmcblk1p2");
        assertThat(line.with("root", "UUID=1").putInto(menu, KernelLineForm.APPEND))
                .isEqualTo("default a\nlabel a\n  kernel /k\n  append root=UUID=1 quiet\n");
        assertThat(KernelLine.in("title x\noptions root=LABEL=root\n", KernelLineForm.OPTIONS)
                        .orElseThrow()
                        .words())
                .containsExactly("root=LABEL=root");
        assertThat(KernelLine.in("title x\n", KernelLineForm.OPTIONS)).isEmpty();
    }

    @Test
    void theLastOfRepeatedWordsCounts() {
        assertThat(KernelLine.parse("root=a root=b").value("root")).contains("b");
    }
}
