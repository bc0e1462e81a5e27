// SPDX-License-Identifier: Apache-2.0
package exordium.core.network;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.board.BoardProfiles;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.media.MediaCatalogue;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Addresses, room, power and what is wrong with a plan. */
class NetworkPlanTest {
    private static final ProfileReader READER = new ProfileReader();
    private static final String ONE =
            "  - {id: %s, profile: plover-4, serial: \"%s\", mac: \"02:47:50:00:00:%02x\", image: a.img%s}\n";

    private static NetworkPlan plan(String server, String... clients) throws IOException {
        String text = "server: {name: s, address: 192.168.40.2, folder: /srv/b" + server + "}\nclients:\n"
                + String.join("", clients);
        return READER.user("plan.yaml", text.getBytes(StandardCharsets.UTF_8), NetworkPlan.SCHEMA, NetworkPlan.class)
                .settled();
    }

    private static String client(String id, int number, String more) {
        return String.format(ONE, id, "0000c4a8" + number, number, more);
    }

    private static List<String> codes(NetworkPlan plan) throws IOException {
        BoardProfiles profiles = BoardProfiles.shipped();
        return PlanCheck.of(
                        plan,
                        profiles::find,
                        Map.of(),
                        Map.of(),
                        plan.server().medium().flatMap(kind -> MediaCatalogue.shipped()
                                .kind(kind)))
                .stream()
                .filter(each -> each.stops() || each.severity() == exordium.core.finding.Severity.CAUTION)
                .map(Finding::code)
                .toList();
    }

    @Test
    void addressesAreTheFirstThatAreFreeAndStay() throws IOException {
        NetworkPlan plan = plan(
                ", router: 192.168.40.11",
                client("a", 1, ""),
                client("b", 2, ", address: 192.168.40.12"),
                client("c", 3, ""));
        assertThat(plan.clients())
                .extracting(each -> each.address().orElseThrow())
                .containsExactly("192.168.40.13", "192.168.40.12", "192.168.40.14");
        assertThat(plan.without("a").settled().client("c").orElseThrow().address())
                .contains("192.168.40.14");
        assertThatThrownBy(() -> plan(", prefix: 29", client("a", 1, ""))).hasMessageContaining("no address left");
    }

    @ParameterizedTest
    @CsvSource({"00000000D90B6C02,d90b6c02", "0,0", "00001,1", "ABC,abc"})
    void foldersAreSerialsWithoutLeadingZeros(String serial, String folder) throws IOException {
        NetworkPlan plan = plan("", String.format(ONE, "a", serial, 1, ""));
        assertThat(plan.clients().get(0).plainSerial()).isEqualTo(folder);
    }

    @Test
    void whatCannotWorkIsAStop() throws IOException {
        assertThat(codes(plan("", client("a", 1, "")))).isEmpty();
        assertThat(codes(plan("", client("a", 1, ", address: 192.168.40.2")))).contains("address-twice");
        assertThat(codes(plan("", client("a", 1, ", address: 192.168.41.9")))).contains("address-outside-network");
        assertThat(codes(plan("", client("a", 1, ", address: 192.168.40.255")))).contains("address-outside-network");
        assertThat(codes(plan("", client("a", 1, ""), client("a", 2, "")))).contains("board-twice");
        assertThat(codes(plan("", client("a", 1, ""), client("b", 1, ""))))
                .contains("hardware-address-twice", "serial-twice");
        assertThat(codes(plan("", client("a", 1, ""), client("b", 2, ", hostName: A"))))
                .contains("host-name-twice");
        assertThat(codes(plan("", String.format(ONE, "a", "0000", 1, "")))).contains("serial-unknown");
        assertThat(codes(plan("", client("a", 1, "").replace("plover-4", "plover-3"))))
                .contains("no-network-start");
        assertThat(codes(plan("", client("a", 1, "").replace("plover-4", "gull-9"))))
                .contains("family-unknown");
        assertThat(codes(plan(", medium: card-quick", client("a", 1, "")))).contains("server-on-card");
        assertThat(codes(plan(", router: 10.0.0.1", client("a", 1, "")))).contains("router-outside-network");
        assertThat(codes(plan(", powerOverEthernet: 10", client("a", 1, ""), client("b", 2, ""))))
                .contains("switch-power");
        assertThat(codes(plan(", powerOverEthernet: 13", client("a", 1, ""), client("b", 2, ""))))
                .isEmpty();
    }

    @Test
    void roomCountsASharedRootOnce() throws IOException {
        NetworkPlan plan = plan(
                "",
                client("a", 1, ", root: memory"),
                client("b", 2, ", root: memory"),
                client("c", 3, ", root: state, growth: 1 GB"),
                client("d", 4, ", growth: 3 GB"));
        ByteSize used = ByteSize.ofGigabytes(2);
        Map<String, ByteSize> roots = Map.of("a", used, "b", used, "c", used, "d", used);
        // memory once 2, state once 2 and 1 of its own, own 2 and 3.
        assertThat(PlanCheck.space(plan, roots).roots()).isEqualTo(ByteSize.ofGigabytes(10));
        List<Finding> findings = PlanCheck.of(
                new NetworkPlan(
                        new NetworkPlan.Server(
                                "s",
                                "192.168.40.2",
                                24,
                                Optional.empty(),
                                "eth0",
                                "/srv/b",
                                false,
                                Optional.empty(),
                                Optional.of(ByteSize.ofGigabytes(9)),
                                Optional.empty(),
                                Optional.empty(),
                                Optional.empty()),
                        Optional.empty(),
                        Optional.empty(),
                        plan.clients()),
                BoardProfiles.shipped()::find,
                roots,
                Map.of(),
                Optional.empty());
        assertThat(findings.get(0).code()).isEqualTo("server-full");
        assertThat(findings.get(0).text()).contains("10.0 GB", "9.00 GB");
    }

    @ParameterizedTest
    @CsvSource({
        "'server: {name: s, address: 300.1.1.1, folder: /srv/b}'",
        "'server: {name: s, address: 192.168.1.2, folder: /srv/../etc}'",
        "'server: {name: s, address: 192.168.1.2, folder: \"/srv/b; rm x\"}'",
        "'server: {name: s, address: 192.168.1.2, folder: /srv/b, device: \"eth0 x\"}'",
        "'server: {name: s, address: 192.168.1.2, folder: /srv/b, moon: 1}'",
        "'clients: []'"
    })
    void hostilePlansAreRefused(String text) {
        assertThatThrownBy(() -> READER.user(
                                "plan.yaml",
                                text.getBytes(StandardCharsets.UTF_8),
                                NetworkPlan.SCHEMA,
                                NetworkPlan.class)
                        .settled())
                .isInstanceOf(UnreadableInput.class);
    }

    /** exports(5) and dnsmasq(8), read as far as boards are concerned. */
    @Test
    void serverFilesAreReadAsTheServersDo() {
        ServerConfig config = ServerConfig.parse(
                List.of(
                        "enable-tftp\ntftp-root=/t/\n# dhcp-host=02:00:00:00:00:09,10.0.0.9\ndhcp-range=10.0.0.0,static",
                        "dhcp-host=02:00:00:00:00:0A,set:x,10.0.0.5,name\ndhcp-boot=tag:x,x/boot.efi"),
                List.of("/a 10.0.0.5(ro,sync) 10.0.0.6(rw)\n# /c *(rw)\n/b *(rw)"));
        assertThat(config.files()).contains("/t");
        assertThat(config.hosts()).containsOnlyKeys("02:00:00:00:00:0a");
        assertThat(config.hosts().get("02:00:00:00:00:0a"))
                .isEqualTo(new ServerConfig.Host(Optional.of("10.0.0.5"), Optional.of("x/boot.efi")));
        assertThat(config.mounts("10.0.0.5", "/a/deep")).isTrue();
        assertThat(config.mounts("10.0.0.7", "/a")).isFalse();
        assertThat(config.mounts("10.0.0.7", "/b")).isTrue();
        assertThat(config.mounts("10.0.0.5", "/aa")).isFalse();
        assertThat(config.exportsFor("10.0.0.6"))
                .extracting(ServerConfig.Export::writable)
                .contains(true);
    }
}
