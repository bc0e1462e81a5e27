// SPDX-License-Identifier: Apache-2.0
package exordium.core.network;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.testing.GeneralTools;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What of a kit's files is carried out; against the options dnsmasq itself says it has. */
class ServerLinesTest {
    /** Of the kinds a kit is made of; each is held to what belongs into it below. */
    private static final Set<String> KNOWN = Set.of(
            "port",
            "interface",
            "bind-interfaces",
            "enable-tftp",
            "tftp-root",
            "tftp-no-blocksize",
            "log-dhcp",
            "conf-dir",
            "no-ping",
            "dhcp-authoritative",
            "dhcp-range",
            "dhcp-host",
            "dhcp-boot",
            "dhcp-option",
            "dhcp-option-force",
            "dhcp-ignore",
            "dhcp-match",
            "dhcp-vendorclass",
            "pxe-service",
            "pxe-prompt");

    private final NetworkPlan.Server server = NetworkPlan.Server.plain("store", "192.168.7.2", "/srv/boards");

    private Optional<String> strange(String text) {
        return new ServerLines(server).strange("dnsmasq.conf", text);
    }

    @Test
    void whatAKitIsMadeOfIsLetThrough() throws Exception {
        assertThat(strange(ServerFiles.of(server).get(ServerFiles.DHCP))).isEmpty();
        assertThat(
                        strange(
                                "# eine Bemerkung, auch \u00fcber Umlaute\n\ndhcp-host=02:00:00:00:00:01,set:clock,192.168.7.9,clock\n"))
                .isEmpty();
        assertThat(strange("pxe-service=tag:clock,11,\"Start over the network\",clock/EFI/BOOT/BOOTAA64.EFI"))
                .isEmpty();
    }

    /** Every option of dnsmasq(8), with and without a value, as it lists them itself. */
    @Test
    void noOtherOptionOfDnsmasqIsCarriedOut() {
        List<String> options = Pattern.compile("--([a-z][a-z0-9-]+)")
                .matcher(GeneralTools.run("dnsmasq", "--help"))
                .results()
                .map(each -> each.group(1))
                .distinct()
                .filter(each -> !KNOWN.contains(each))
                .toList();
        assertThat(options)
                .hasSizeGreaterThan(100)
                .contains("dhcp-script", "conf-file", "addn-hosts", "dhcp-hostsfile");
        for (String option : options) {
            for (String line : List.of(option, option + "=/tmp/evil", " " + option + " = /tmp/evil")) {
                assertThat(strange("port=0\n" + line))
                        .as(line)
                        .isPresent()
                        .get()
                        .asString()
                        .contains("line 2");
            }
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "dhcp-\"script\"=/tmp/evil",
                "dhcp-script\u0000=/tmp/evil",
                "#\rdhcp-script=/tmp/evil",
                "# \u001b[2J",
                "port=53",
                "interface=eth1",
                "interface=*",
                "conf-dir=/tmp,*.conf",
                "conf-dir=/srv/boards/dnsmasq.d",
                "tftp-root=/etc",
                "tftp-root=/srv/boards/../../etc",
                "tftp-root=/srv/boards/tftp,eth1",
                "tftp-root=/",
                "dhcp-option=tag:x,`id`",
                "dhcp-boot=$(id)",
                "DHCP-SCRIPT=/tmp/evil"
            })
    void aLineThatLeadsElsewhereIsNot(String line) {
        assertThat(strange(line)).isPresent();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "/srv/boards/roots/x;} 192.168.7.9(ro)",
                "/srv/boards/roots/../../../etc 192.168.7.9(ro)",
                "/srv/boards/roots/x\";FSAL{Name=VFS;} 192.168.7.9(ro)",
                "/srv/boards/roots/x 192.168.7.9;}(ro)"
            })
    void anExportThatSaysMoreThanAFolderIsNot(String line) {
        ServerConfig config = ServerConfig.parse(List.of(), List.of(line));
        assertThat(config.exports()).isNotEmpty().allSatisfy(each -> assertThat(new ServerLines(server).strange(each))
                .isPresent());
    }
}
