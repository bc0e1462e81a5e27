// SPDX-License-Identifier: Apache-2.0
package exordium.core.network;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.filesystem.FileBody;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.dialect.FirstStartFiles;
import exordium.core.firststart.dialect.MediumFiles;
import exordium.core.firststart.kernelline.IpWord;
import exordium.core.firststart.kernelline.KernelLine;
import java.io.IOException;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What of an image becomes other files for a board: kernel line, menu, fstab, identity. The form of ip= is the kernel documentation's. */
class ClientFilesTest {
    private static BoardProfiles profiles;
    private static NetworkPlan.Server server;

    @BeforeAll
    static void read() {
        profiles = BoardProfiles.shipped();
        server = NetworkPlan.Server.plain("server", "192.168.40.2", "/srv/boards");
    }

    private static NetworkPlan.Client client(String profile, NetworkPlan.Root root, Map<String, Object> intents) {
        return new NetworkPlan.Client(
                "tide-clock",
                profile,
                "00000000C4A81D12",
                "02-47-50-00-00-0A",
                Optional.of("192.168.40.12"),
                "shelf/marsh 2026.img.xz",
                Optional.of("clock"),
                Optional.of(root),
                Optional.empty(),
                Optional.empty(),
                intents.isEmpty() ? Optional.empty() : Optional.of(intents));
    }

    /** A medium with these files; names with a slash in front are in the root. */
    private static FirstStartFiles found(BoardProfile board, Map<String, String> files) {
        Map<String, FileBody> bodies = new HashMap<>();
        files.forEach((path, text) -> bodies.put(path, FileBody.of(text)));
        Set<String> names = new HashSet<>(files.keySet());
        return new FirstStartFiles(
                new MediumFiles(bodies, names, board.startFiles().kernelLine(), Optional.of("not here")),
                Optional.of("5eed0001-02"),
                List.of("5eed0001-01", "5eed0001-02"),
                Optional.of("5eed0001"),
                Optional.empty());
    }

    private static ClientFiles of(
            String profile, NetworkPlan.Root root, Map<String, String> files, Map<String, Object> intents)
            throws IOException {
        BoardProfile board = profiles.require(profile);
        return ClientFiles.of(server, client(profile, root, intents), board, found(board, files));
    }

    private static String text(Map<String, Optional<FileBody>> files, String path) {
        return files.get(path).orElseThrow().text();
    }

    private static final Map<String, String> PLAIN = Map.of(
            "cmdline.txt",
            "console=tty1 root=PARTUUID=5eed0001-02 rootfstype=ext4 rootwait ro quiet init=/usr/lib/grow-root.sh resize",
            "/etc/fstab",
            "proc /proc proc defaults 0 0\n# a remark\nPARTUUID=5eed0001-01  /boot/firmware  vfat  defaults  0  2\n"
                    + "PARTUUID=5eed0001-02 / ext4 defaults 0 1\n/dev/sda1 /data ext4 defaults 0 2\n/swapfile none swap sw 0 0\n",
            "/etc/hostname",
            "marsh\n",
            "/etc/machine-id",
            "0123456789abcdef0123456789abcdef\n",
            "/etc/ssh/ssh_host_ed25519_key",
            "secret",
            "/usr/sbin/sshd",
            "program");

    @Test
    void aRootOfItsOwn() throws IOException {
        ClientFiles files = of("plover-4", NetworkPlan.Root.OWN, PLAIN, Map.of());
        assertThat(files.folder()).isEqualTo("c4a81d12");
        KernelLine line = KernelLine.parse(files.kernelLine());
        assertThat(line.words()).startsWith("console=tty1", "quiet");
        assertThat(line.value("root")).contains("/dev/nfs");
        assertThat(line.value("nfsroot")).contains("192.168.40.2:/srv/boards/roots/tide-clock,vers=3,proto=tcp");
        assertThat(IpWord.parse(line.value("ip").orElseThrow()).faults()).isEmpty();
        assertThat(line.text())
                .doesNotContain("rootwait", "rootfstype", "PARTUUID", "resize", "grow-root")
                .endsWith(" rw");
        assertThat(text(files.start(), "c4a81d12/cmdline.txt")).isEqualTo(files.kernelLine() + "\n");
        String fstab = text(files.root(), "etc/fstab");
        assertThat(fstab.lines().filter(each -> each.startsWith("# on its medium: ")))
                .hasSize(3);
        assertThat(fstab)
                .contains("proc /proc proc defaults 0 0\n", "# a remark\n", "/swapfile none swap")
                .contains("192.168.40.2:/srv/boards/tftp/c4a81d12 /boot/firmware nfs");
        assertThat(text(files.root(), "etc/hostname")).isEqualToIgnoringNewLines("clock");
        assertThat(text(files.root(), "etc/machine-id")).isEmpty();
        assertThat(files.root().get("etc/ssh/ssh_host_ed25519_key")).isEmpty();
        assertThat(files.findings()).extracting(Finding::code).contains("fstab-local");
    }

    @Test
    void aSharedRootInMemory() throws IOException {
        ClientFiles files = of("plover-4", NetworkPlan.Root.MEMORY, PLAIN, Map.of());
        KernelLine line = KernelLine.parse(files.kernelLine());
        assertThat(line.words()).contains("ro", "systemd.hostname=clock").doesNotContain("rw");
        assertThat(line.value("systemd.machine_id").orElseThrow()).matches("[0-9a-f]{32}");
        assertThat(line.value("nfsroot").orElseThrow()).contains("/roots/shared-memory-marsh-2026,");
        assertThat(files.root().get("etc/hostname")).isEmpty();
        assertThat(text(files.root(), "etc/fstab"))
                .contains("tmpfs /var/log tmpfs")
                .doesNotContain(" nfs ");
        assertThat(text(files.root(), "etc/ssh/sshd_config.d/50-host-key.conf")).isEqualTo("HostKey /run/host-key\n");
        assertThat(files.findings()).extracting(Finding::code).contains("written-in-memory");
        // What is in it is the same for another board of the image.
        NetworkPlan.Client other = new NetworkPlan.Client(
                "other",
                "plover-4",
                "1",
                "02:47:50:00:00:0b",
                Optional.of("192.168.40.13"),
                "shelf/marsh 2026.img.xz",
                Optional.empty(),
                Optional.of(NetworkPlan.Root.MEMORY),
                Optional.empty(),
                Optional.empty(),
                Optional.empty());
        BoardProfile board = profiles.require("plover-4");
        ClientFiles others = ClientFiles.of(server, other, board, found(board, PLAIN));
        assertThat(others.root()).isEqualTo(files.root());
        assertThat(KernelLine.parse(others.kernelLine()).value("systemd.machine_id"))
                .isNotEqualTo(line.value("systemd.machine_id"));
    }

    @Test
    void aSharedRootWithAStateOfItsOwn() throws IOException {
        ClientFiles files = of("plover-4", NetworkPlan.Root.STATE, PLAIN, Map.of());
        assertThat(text(files.root(), "etc/systemd/system/var.mount"))
                .contains("What=192.168.40.2:/srv/boards/state/%H\n", "Where=/var\n");
        assertThat(files.root()
                        .get("etc/systemd/system/local-fs.target.requires/var.mount")
                        .orElseThrow()
                        .link())
                .isTrue();
        assertThat(text(files.root(), "etc/ssh/sshd_config.d/50-host-key.conf"))
                .isEqualTo("HostKey /var/lib/host-key\n");
    }

    @Test
    void aMenuGoesByTheHardwareAddress() throws IOException {
        ClientFiles files = of(
                "curlew-e",
                NetworkPlan.Root.OWN,
                Map.of(
                        "extlinux/extlinux.conf",
                        "default b\nlabel a\n  kernel /a.img\n  append root=/dev/a\nlabel b\n  linux kernel-32.img\n"
                                + "  initrd /rd.img\n  fdt /curlew-e-b.dtb\n  append root=/dev/mmcblk0p2 quiet\n"),
                Map.of());
        assertThat(files.folder()).isEqualTo("tide-clock");
        assertThat(text(files.start(), "pxelinux.cfg/01-02-47-50-00-00-0a"))
                .isEqualTo("default network\nprompt 0\ntimeout 10\nlabel network\n  kernel /tide-clock/kernel-32.img\n"
                        + "  initrd /tide-clock/rd.img\n  fdt /tide-clock/curlew-e-b.dtb\n  append "
                        + files.kernelLine()
                        + "\n");
        assertThat(files.kernelLine()).startsWith("quiet ip=");
        assertThat(files.start().get("tide-clock/extlinux/extlinux.conf")).isEmpty();
    }

    @Test
    void anEntryOfAFileKeepsItsOtherLines() throws IOException {
        ClientFiles files = of(
                "dunlin-u",
                NetworkPlan.Root.OWN,
                Map.of(
                        "loader/entries/dunlin.conf",
                        "title dunlin\nlinux /kernel-64.img\noptions root=/dev/sda2 quiet\n"),
                Map.of());
        assertThat(text(files.start(), "tide-clock/loader/entries/dunlin.conf"))
                .startsWith("title dunlin\nlinux /kernel-64.img\noptions quiet ip=")
                .contains("root=/dev/nfs");
    }

    @Test
    void aFirstStartIsPreparedWithIt() throws IOException {
        ClientFiles files = of("plover-4", NetworkPlan.Root.OWN, PLAIN, Map.of("remoteLogin", true, "grow", true));
        assertThat(files.start().get("c4a81d12/ssh")).isPresent();
        assertThatThrownBy(() -> of("plover-4", NetworkPlan.Root.OWN, PLAIN, Map.of("moon", true)))
                .isInstanceOf(UnreadableInput.class);
    }

    @Test
    void anImageWithNoLineIsNamed() {
        assertThatThrownBy(() -> of("plover-4", NetworkPlan.Root.OWN, Map.of("config.txt", ""), Map.of()))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("cmdline.txt");
    }

    @ParameterizedTest
    @CsvSource({"marsh.img.xz,shared-state-marsh", "a/B c.zip,shared-state-b-c", "x.iso,shared-state-x"})
    void aSharedRootIsNamedByItsImage(String image, String name) {
        NetworkPlan.Client client = new NetworkPlan.Client(
                "a",
                "plover-4",
                "1",
                "02:47:50:00:00:0b",
                Optional.empty(),
                image,
                Optional.empty(),
                Optional.of(NetworkPlan.Root.STATE),
                Optional.empty(),
                Optional.empty(),
                Optional.empty());
        assertThat(ClientFiles.rootName(client)).isEqualTo(name);
        assertThat(ClientFiles.rootFolder(client)).isEqualTo("roots/" + name);
    }
}
