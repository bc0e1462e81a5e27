// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.board.BoardProfile.KernelLineForm;
import exordium.core.board.BoardProfile.StartFiles;
import exordium.core.board.BoardProfiles;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.profile.ProfileReader;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class FirstStartTest {
    private final StartFiles files = files();

    private static StartFiles files() {
        try {
            return BoardProfiles.shipped(new ProfileReader())
                    .require("plover-4")
                    .startFiles();
        } catch (UnreadableInput e) {
            throw new AssertionError(e);
        }
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private static FirstStartPlan.Found found(List<String> names, String line) {
        return new FirstStartPlan.Found(names, Optional.of(bytes(line)), Optional.empty(), Optional.of("7c41e0b2-02"));
    }

    private static List<String> codes(List<Finding> findings) {
        return findings.stream().map(Finding::code).toList();
    }

    @Test
    void remoteLoginIsAnEmptyFileOfExactlyThatName() throws IOException {
        FirstStartPlan plan = FirstStartPlan.of(
                new Intents(true, Optional.empty(), false), found(List.of("config.txt"), "root=PARTUUID=x"), files);
        assertThat(plan.edits()).containsExactly(new FileEdit("ssh", Optional.empty(), ""));
        assertThat(codes(plan.findings())).contains("default-login");
    }

    @Test
    void whatIsThereAlreadyIsNotMadeAgain() throws IOException {
        assertThat(FirstStartPlan.of(
                                new Intents(true, Optional.empty(), false),
                                found(List.of("SSH"), "root=PARTUUID=x"),
                                files)
                        .edits())
                .isEmpty();
    }

    @Test
    void theHiddenEndingIsNoticed() throws IOException {
        assertThat(codes(FirstStartPlan.of(Intents.NONE, found(List.of("ssh.txt"), "root=PARTUUID=x"), files)
                        .findings()))
                .contains("login-file-misnamed");
    }

    /** Linux kernel documentation, nfsroot: ip=client:server:gateway:netmask:host:device:autoconf, before root=. */
    @Test
    void aFixedAddressGoesBeforeTheRoot() throws IOException {
        FirstStartPlan plan = FirstStartPlan.of(
                new Intents(false, Optional.of("169.254.20.7"), false),
                found(List.of(), "console=tty1 root=PARTUUID=x rootwait\n"),
                files);
        assertThat(plan.edits().get(0).after())
                .isEqualTo("console=tty1 ip=169.254.20.7:::255.255.0.0::eth0:off root=PARTUUID=x rootwait\n");
    }

    @Test
    void aRootNamedByItsPlaceBecomesAnIdentifier() throws IOException {
        FirstStartPlan plan = FirstStartPlan.of(
                new Intents(false, Optional.empty(), true),
                found(List.of(), "console=tty1 root=/dev/mmcblk0p2 rootwait\n"),
                files);
        assertThat(plan.edits().get(0).after()).isEqualTo("console=tty1 root=PARTUUID=7c41e0b2-02 rootwait\n");
        assertThat(codes(plan.findings())).contains("root-by-place");
    }

    @ParameterizedTest
    @ValueSource(strings = {"169.254", "300.1.1.1", "1.2.3.4.5", "here", "1.2.3.4 root=/dev/sda"})
    void whatIsNoAddressIsNamed(String text) {
        Intents intents = new Intents(false, Optional.of(text), false);
        assertThatThrownBy(() -> FirstStartPlan.of(intents, found(List.of(), "root=x"), files))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("\"" + text + "\"");
    }

    /** RFC 3927, 2.1: the first and the last 256 addresses are reserved. */
    @ParameterizedTest
    @CsvSource({
        "169.254.0.9, address-reserved",
        "169.254.255.1, address-reserved",
        "169.254.1.0, address-link-local",
        "192.168.4.20, address-fixed"
    })
    void linkLocalAddressesKeepToTheirRange(String address, String code) throws IOException {
        Intents intents = new Intents(false, Optional.of(address), false);
        assertThat(codes(FirstStartPlan.of(intents, found(List.of(), "root=PARTUUID=x"), files)
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
                "name=\u201Cx\u201D|curly-quotes",
                "serial=0xAB|upper-case-hex",
                "serial=0xab|",
                "over_voltage=2|raised-clock",
                "program_usb_start_fuse=1|fuse-line-left",
                "[all|section-open",
                "nonsense|no-value",
            })
    void whatBreaksASettingsFileIsFound(String line, String code) {
        List<String> codes = codes(SettingsCheck.settings(bytes(line + "\n")));
        if (code == null) {
            assertThat(codes).isEmpty();
        } else {
            assertThat(codes).containsExactly(code);
        }
    }

    @Test
    void carriageReturnsAndRepeatedKeysAreFound() {
        assertThat(codes(SettingsCheck.settings(bytes("a=1\r\nb=2\r\n")))).containsExactly("crlf");
        assertThat(codes(SettingsCheck.settings(bytes("a=1\na=2\n")))).containsExactly("key-twice");
        assertThat(codes(SettingsCheck.settings(bytes("[one]\na=1\n[two]\na=2\n"))))
                .isEmpty();
        assertThat(codes(SettingsCheck.settings(bytes("dtoverlay=a\ndtoverlay=b\n"))))
                .isEmpty();
    }

    @Test
    void aKernelLineIsOneLineAndNamesARoot() {
        assertThat(codes(SettingsCheck.kernelLine(bytes("root=PARTUUID=x rootwait\n"), KernelLineForm.PLAIN)))
                .isEmpty();
        assertThat(codes(SettingsCheck.kernelLine(bytes("console=tty1\nroot=x\n"), KernelLineForm.PLAIN)))
                .contains("kernel-line-break", "kernel-line-no-root");
        assertThat(codes(SettingsCheck.kernelLine(bytes("\n"), KernelLineForm.PLAIN)))
                .contains("kernel-line-missing");
        assertThat(codes(SettingsCheck.kernelLine(bytes("root=/dev/nfs nfsroot=a:/b"), KernelLineForm.PLAIN)))
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
