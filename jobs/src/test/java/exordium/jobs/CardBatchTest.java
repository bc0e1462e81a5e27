// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.TransferWatch;
import exordium.core.finding.Refused;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.testing.GeneralTools;
import exordium.jobs.firststart.CardBatch;
import exordium.jobs.firststart.IntentSets;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Several cards from one image, each its own board. */
class CardBatchTest extends WholeDisks {
    /** Eight cards from one image: no two share a name, an address, a disk identifier or a host key. */
    @Test
    void eightCardsAreEachTheirOwn() throws IOException {
        Path image = disk("image.img");
        StringBuilder batch = new StringBuilder("profile: plover-4\nimage: image.img\nset: exhibit, wired\ncards:\n");
        List<Path> cards = new ArrayList<>();
        for (int i = 1; i <= 8; i++) {
            Path card = folder.resolve("card" + i + ".img");
            GeneralTools.run("truncate", "-s", "64M", card.toString());
            cards.add(card);
            batch.append("  - {target: card")
                    .append(i)
                    .append(".img, confirm: card")
                    .append(i)
                    .append(".img, hostName: board-")
                    .append(i)
                    .append(", address: 192.168.4.")
                    .append(20 + i)
                    .append("/24}\n");
        }
        new IntentSets(bench.folder())
                .keep(
                        "exhibit wired",
                        IntentsReader.of(Map.of(
                                "remoteLogin", true,
                                "account", Map.of("name", "keeper", "keys", List.of(KEY)),
                                "network",
                                        Map.of(
                                                "kind",
                                                "fixed",
                                                "address",
                                                "192.168.4.9/24",
                                                "gateway",
                                                "192.168.4.1"))));
        Path file = Files.writeString(
                folder.resolve("batch.yaml"), batch.toString().replace("exhibit, wired", "exhibit wired"));
        CardBatch batches = new CardBatch(bench, targets());
        List<CardBatch.Made> made = batches.run(batches.read(file), TransferWatch.NONE);
        assertThat(made).allMatch(CardBatch.Made::good).hasSize(8);
        Set<String> names = new HashSet<>();
        Set<String> addresses = new HashSet<>();
        Set<String> ids = new HashSet<>();
        for (Path card : cards) {
            names.add(root(card, "cat /etc/hostname"));
            addresses.add(start(card, "cmdline.txt").replaceAll(".*ip=([0-9.]+):.*\n", "$1"));
            ids.add(GeneralTools.run("sfdisk", "--disk-id", card.toString()).strip());
            assertThat(start(card, "cmdline.txt"))
                    .contains(ids.stream()
                                    .filter(id -> start(card, "cmdline.txt").contains(id.substring(2)))
                                    .findFirst()
                                    .orElseThrow()
                                    .substring(2)
                            + "-02");
            assertThat(root(card, "ls /etc/ssh")).doesNotContain("ssh_host_");
            assertThat(root(card, "cat /etc/machine-id")).isEmpty();
        }
        assertThat(List.of(names.size(), addresses.size(), ids.size())).containsOnly(8);
        assertThat(ids).doesNotContain("0x5eed0001");
        assertThat(GeneralTools.run("sfdisk", "--disk-id", image.toString()).strip())
                .isEqualTo("0x5eed0001");
    }

    @Test
    void aBatchThatDoesNotHoldTogetherIsRefusedWhole() throws IOException {
        disk("image.img");
        Path card = folder.resolve("card.img");
        GeneralTools.run("truncate", "-s", "64M", card.toString());
        CardBatch batches = new CardBatch(bench, targets());
        for (String second : List.of(
                "{target: other.img, confirm: other.img, hostName: one}",
                "{target: card.img, confirm: card.img, hostName: two}",
                "{target: other.img, confirm: other.img, hostName: two, address: 192.168.4.20}")) {
            Path file = Files.writeString(
                    folder.resolve("batch.yaml"),
                    "profile: plover-4\nimage: image.img\ncards:\n  - {target: card.img, confirm: card.img, hostName: one, address: 192.168.4.20/24}\n  - "
                            + second + "\n");
            assertThatThrownBy(() -> batches.run(batches.read(file), TransferWatch.NONE))
                    .isInstanceOf(Refused.class);
        }
        Path unnamed = Files.writeString(
                folder.resolve("batch.yaml"),
                "profile: plover-4\nimage: image.img\ncards:\n  - {target: card.img, hostName: one}\n");
        assertThatThrownBy(() -> batches.read(unnamed)).hasMessageContaining("confirm");
        GeneralTools.run("cmp", "-n", "67108864", card.toString(), "/dev/zero");
    }
}
