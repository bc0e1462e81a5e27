// SPDX-License-Identifier: Apache-2.0
package exordium.core.network;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.board.BoardProfiles;
import exordium.core.rehearsal.contents.Cause;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What a board asks for and where it ends, with a server of a few files in memory; real servers are in RealNetworkTest. */
class BoardAskTest {
    private static final BoardProfiles PROFILES = BoardProfiles.shipped();
    private static final String LINE = "root=/dev/nfs nfsroot=10.0.0.1:/r,vers=3 rw";

    private final Map<String, String> files = new HashMap<>();
    private final Map<String, String> root = new HashMap<>();
    private final List<String> asked = new ArrayList<>();
    private Optional<BoardAsk.Lease> lease = Optional.of(new BoardAsk.Lease("10.0.0.9", Optional.empty()));

    @BeforeEach
    void aServerThatHasEverything() {
        files.put("c4/config.txt", "");
        files.put("c4/start4.elf", "loader");
        files.put("c4/kernel-64.img", "kernel");
        files.put("c4/plover-4-b.dtb", "tree");
        files.put("c4/cmdline.txt", LINE);
        root.put("/sbin/init", "program");
        root.put("/etc/fstab", "proc /proc proc defaults 0 0\n");
    }

    private BoardAsk.Come come(String profile) throws IOException {
        NetworkPlan.Client client = new NetworkPlan.Client(
                "screen",
                profile,
                "00C4",
                "02:00:00:00:00:01",
                Optional.empty(),
                "a.img",
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty());
        return BoardAsk.of(PROFILES.require(profile), client, files.keySet(), new BoardAsk.Answers() {
            @Override
            public Optional<BoardAsk.Lease> lease(String mac) {
                return lease;
            }

            @Override
            public Optional<byte[]> fetch(String path) {
                asked.add(path);
                return Optional.ofNullable(files.get(path)).map(each -> each.getBytes(StandardCharsets.UTF_8));
            }

            @Override
            public boolean mounts(String path) {
                return path.equals("/r");
            }

            @Override
            public Optional<byte[]> look(String mounted, String path) {
                return Optional.ofNullable(root.get(path)).map(each -> each.getBytes(StandardCharsets.UTF_8));
            }

            @Override
            public List<String> said() {
                return List.of();
            }
        });
    }

    @Test
    void asksInTheOrderOfAFirmware() throws IOException {
        BoardAsk.Come come = come("plover-4");
        assertThat(come.cause()).isEqualTo(Cause.NONE);
        assertThat(come.reached()).isEqualTo(BoardAsk.Reached.ROOT);
        assertThat(asked)
                .containsExactly(
                        "c4/config.txt", "c4/start4.elf", "c4/kernel-64.img", "c4/plover-4-b.dtb", "c4/cmdline.txt");
        assertThat(come.fetched().bytes()).isEqualTo("loaderkerneltree".length() + LINE.length());
        assertThat(come.steps()).allMatch(BoardAsk.Step::good);
    }

    @Test
    void withoutALeaseNothingIsAskedFor() throws IOException {
        lease = Optional.empty();
        assertThat(come("plover-4").cause()).isEqualTo(Cause.NETWORK_NO_LEASE);
        assertThat(asked).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({
        "c4/start4.elf, NETWORK_NO_FILES", "c4/kernel-64.img, NETWORK_NO_FILES",
        "c4/plover-4-b.dtb, NETWORK_NO_FILES", "c4/cmdline.txt, KERNEL_LINE_BROKEN"
    })
    void whatIsMissingEndsIt(String missing, Cause cause) throws IOException {
        files.remove(missing);
        assertThat(come("plover-4").cause()).isEqualTo(cause);
    }

    @ParameterizedTest
    @CsvSource({
        "root=PARTUUID=5eed0001-02, ROOT_NOT_FOUND",
        "root=/dev/nfs, KERNEL_LINE_BROKEN",
        "quiet, KERNEL_LINE_BROKEN",
        "root=/dev/nfs nfsroot=10.0.0.1:/other, NETWORK_NO_EXPORT"
    })
    void theLineDecidesAboutTheRoot(String line, Cause cause) throws IOException {
        files.put("c4/cmdline.txt", line);
        assertThat(come("plover-4").cause()).isEqualTo(cause);
    }

    /** Decided cases of a start: a local mount that is gone halts unless it says nofail; swap and the line for / do not. */
    @ParameterizedTest
    @CsvSource({
        "/dev/sda1 /data ext4 defaults 0 2, FSTAB_MISSING_DEVICE", "LABEL=data /data ext4, FSTAB_MISSING_DEVICE",
        "/dev/sda1 /data ext4 nofail 0 2, NONE", "/dev/sda2 none swap sw 0 0, NONE",
        "PARTUUID=1-2 / ext4 defaults 0 1, NONE", "# /dev/sda1 /data ext4 defaults 0 2, NONE"
    })
    void whatFstabMountsCounts(String line, Cause cause) throws IOException {
        root.put("/etc/fstab", line + "\n");
        assertThat(come("plover-4").cause()).isEqualTo(cause);
    }

    @Test
    void othersKernelsAreToldApartFromNone() throws IOException {
        files.remove("c4/kernel-64.img");
        files.put("c4/kernel-32.img", "narrow");
        assertThat(come("plover-5").cause()).isEqualTo(Cause.KERNEL_FOR_OTHER_BOARD);
    }

    @Test
    void aMenuForAllIsTheSecondThatIsAskedFor() throws IOException {
        files.put("pxelinux.cfg/default", "label a\n  kernel /c/kernel-32.img\n  append " + LINE + "\n");
        files.put("c/kernel-32.img", "kernel");
        assertThat(come("curlew-e").cause()).isEqualTo(Cause.NONE);
        assertThat(asked)
                .containsExactly("pxelinux.cfg/01-02-00-00-00-00-01", "pxelinux.cfg/default", "c/kernel-32.img");
        files.remove("c/kernel-32.img");
        assertThat(come("curlew-e").cause()).isEqualTo(Cause.NETWORK_NO_FILES);
    }

    @Test
    void aBootFileIsTheOneOfTheLease() throws IOException {
        assertThat(come("dunlin-u").cause()).isEqualTo(Cause.NETWORK_NO_FILES);
        lease = Optional.of(new BoardAsk.Lease("10.0.0.9", Optional.of("screen/EFI/BOOT/BOOTAA64.EFI")));
        files.put("screen/EFI/BOOT/BOOTAA64.EFI", "loader");
        files.put("screen/loader/entries/dunlin.conf", "linux /kernel-64.img\noptions " + LINE + "\n");
        files.put("screen/kernel-64.img", "kernel");
        assertThat(come("dunlin-u").cause()).isEqualTo(Cause.NONE);
        root.clear();
        assertThat(come("dunlin-u").cause()).isEqualTo(Cause.ROOT_UNREADABLE);
    }
}
