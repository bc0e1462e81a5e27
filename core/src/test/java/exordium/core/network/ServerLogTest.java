// SPDX-License-Identifier: Apache-2.0
package exordium.core.network;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.board.BoardProfiles;
import exordium.core.profile.ProfileReader;
import exordium.core.rehearsal.contents.Cause;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Lines of dnsmasq 2.90 and NFS-Ganesha 4.3 as they stood in real logs (RealNetworkTest has whole ones); those of rpc.mountd from memory. */
class ServerLogTest {
    private static final String LEASE =
            """
            Nov 27 05:26:12 dnsmasq-dhcp[49]: 1152581451 DHCPDISCOVER(eth0) 02:47:50:00:00:0a
            Nov 27 05:26:12 dnsmasq-dhcp[49]: 1152581451 DHCPOFFER(eth0) 192.168.40.11 02:47:50:00:00:0a
            Nov 27 05:26:12 dnsmasq-dhcp[49]: 1152581451 DHCPREQUEST(eth0) 192.168.40.11 02:47:50:00:00:0a
            Nov 27 05:26:12 dnsmasq-dhcp[49]: 1152581451 DHCPACK(eth0) 192.168.40.11 02:47:50:00:00:0a film-loop
            """;
    private static final String ABSENT =
            "Nov 27 05:26:12 dnsmasq-tftp[49]: file /srv/boards/tftp/%s not found for 192.168.40.11\n";

    private static BoardProfiles profiles;
    private static NetworkPlan plan;

    @BeforeAll
    static void read() throws Exception {
        ProfileReader reader = new ProfileReader();
        profiles = BoardProfiles.shipped();
        String text =
                """
                server: {name: server, address: 192.168.40.2, folder: /srv/boards}
                clients:
                  - {id: film-loop, profile: plover-5, serial: "00000000d90b6c02", mac: "02:47:50:00:00:0a", image: a.img}
                  - {id: door, profile: curlew-e, serial: "1", mac: "02:47:50:00:00:05", image: b.img}
                """;
        plan = reader.user("plan", text.getBytes(StandardCharsets.UTF_8), NetworkPlan.SCHEMA, NetworkPlan.class)
                .settled();
    }

    private static List<ServerLog.Line> lines(String log) {
        return ServerLog.read(log, plan, id -> profiles.find(id).orElseThrow());
    }

    private static ServerLog.Line first(String log) {
        return lines(log).get(0);
    }

    private static String sent(String... names) {
        StringBuilder all = new StringBuilder(LEASE);
        for (String name : names) {
            all.append(
                    "Nov 27 05:26:12 dnsmasq-tftp[49]: sent /srv/boards/tftp/d90b6c02/" + name + " to 192.168.40.11\n");
        }
        return all.toString();
    }

    @Test
    void saysHowFarABoardCame() {
        assertThat(first(""))
                .returns(BoardAsk.Reached.NOTHING, ServerLog.Line::reached)
                .returns(Cause.NETWORK_NO_LINK, ServerLog.Line::cause);
        assertThat(first("dnsmasq-dhcp[1]: DHCPDISCOVER(eth0) 02:47:50:00:00:0a no address available"))
                .returns(Cause.NETWORK_NO_LEASE, ServerLog.Line::cause);
        assertThat(first(LEASE))
                .returns(BoardAsk.Reached.LEASE, ServerLog.Line::reached)
                .returns(Cause.NETWORK_NO_FILES, ServerLog.Line::cause);
        assertThat(first(LEASE + String.format(ABSENT, "00000000d90b6c02/start.elf")))
                .returns(Cause.NETWORK_NO_DIRECTORY, ServerLog.Line::cause)
                .satisfies(line -> assertThat(line.text()).contains("it asks below 00000000d90b6c02"));
        assertThat(first(sent("config.txt", "start.elf") + String.format(ABSENT, "d90b6c02/kernel-64.img")))
                .returns(BoardAsk.Reached.FILES, ServerLog.Line::reached)
                .returns(Cause.NETWORK_NO_FILES, ServerLog.Line::cause)
                .satisfies(line -> assertThat(line.text()).contains("kernel-64.img"));
        String all = sent("config.txt", "start.elf", "kernel-64.img", "plover-5-b.dtb", "cmdline.txt");
        assertThat(first(all))
                .returns(BoardAsk.Reached.KERNEL, ServerLog.Line::reached)
                .returns(Cause.ROOT_NOT_FOUND, ServerLog.Line::cause);
        assertThat(
                        first(
                                all
                                        + "rpc.mountd[8]: refused mount request from 192.168.40.11 for /srv/boards/roots/film-loop (/): not exported"))
                .returns(Cause.NETWORK_NO_EXPORT, ServerLog.Line::cause);
        assertThat(
                        first(
                                all
                                        + "rpc.mountd[8]: authenticated mount request from 192.168.40.11:881 for /srv/boards/roots/film-loop (/srv)"))
                .returns(BoardAsk.Reached.ROOT, ServerLog.Line::reached)
                .returns(Cause.NONE, ServerLog.Line::cause);
    }

    @Test
    void readsTheOtherNfsServerByItsWorkers() {
        String asks =
                "x : nfs-ganesha-13[svc_4] mnt_Mnt :NFS3 :DEBUG :REQUEST PROCESSING: Calling MNT_MNT path=/srv/boards/roots/film-loop\n"
                        + "x : nfs-ganesha-13[svc_5] mnt_Mnt :NFS3 :DEBUG :REQUEST PROCESSING: Calling MNT_MNT path=/srv/other\n";
        assertThat(
                        first(
                                LEASE + asks
                                        + "x : nfs-ganesha-13[svc_4] mnt_Mnt :NFS3 :INFO :MOUNT: Export entry /srv does not allow access for client ::ffff:192.168.40.11"))
                .returns(Cause.NETWORK_NO_EXPORT, ServerLog.Line::cause)
                .satisfies(line -> assertThat(line.text()).contains("/srv/boards/roots/film-loop"));
        assertThat(
                        first(
                                LEASE + asks
                                        + "x : nfs-ganesha-13[svc_4] mnt_Mnt :NFS3 :DEBUG :MOUNT: Entry supports 1 different flavours handle=0x43 for client ::ffff:192.168.40.11"))
                .returns(BoardAsk.Reached.ROOT, ServerLog.Line::reached);
    }

    @Test
    void strangersAreNamedWithWhomTheyResemble() {
        List<ServerLog.Line> all = lines("dnsmasq-dhcp: DHCPDISCOVER(eth0) 02:47:50:00:00:0b no address available\n"
                + "dnsmasq-dhcp: DHCPDISCOVER(eth0) aa:bb:cc:dd:ee:ff no address available\n");
        assertThat(all).hasSize(4);
        assertThat(all.get(2).text()).contains("film-loop is nearly the same");
        assertThat(all.get(3).text()).contains("No board of the plan").doesNotContain("nearly");
    }

    /** Rubbish is passed over, and a menu that is there for all counts. */
    @Test
    void takesWhatItKnowsOfAnyText() {
        String menu = "dnsmasq-dhcp: DHCPACK(eth0) 192.168.40.12 02:47:50:00:00:05 door\n"
                + "dnsmasq-tftp: file /srv/boards/tftp/pxelinux.cfg/01-02-47-50-00-00-05 not found for 192.168.40.12\n"
                + "dnsmasq-tftp: sent /srv/boards/tftp/pxelinux.cfg/default to 192.168.40.12\n"
                + "dnsmasq-tftp: sent /srv/boards/tftp/door/kernel-32.img to 192.168.40.12\n";
        assertThat(lines("\u0000\uFFFF DHCPACK( sent to\n" + menu).get(1))
                .returns(BoardAsk.Reached.KERNEL, ServerLog.Line::reached)
                .satisfies(line -> assertThat(line.files()).contains("door/kernel-32.img"));
    }
}
