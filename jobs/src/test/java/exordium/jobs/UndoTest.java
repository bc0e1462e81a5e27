// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.firststart.intents.IntentsReader;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.jobs.firststart.FirstStartJob;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A first start that is taken back. */
class UndoTest {
    @TempDir
    private Path folder;

    private static FirstStartJob.Order order(House house, Map<String, Object> wanted) throws IOException {
        return new FirstStartJob.Order(
                house.target("small.img"),
                house.bench.profiles().require("plover-4"),
                IntentsReader.of(wanted),
                Optional.empty());
    }

    /** By cmp: folders that were made, times, counts of both file systems. Twice over each other as well. */
    @Test
    void everyByteIsAgainWhatItWas() throws IOException {
        House house = House.empty(folder);
        Path drive = SmallCard.drive(house, "small.img", 70L << 20);
        Path disk = new DiskBuilder(folder).root("etc/hostname", "first\n").build("system.img");
        GeneralTools.run("dd", "status=none", "conv=notrunc", "bs=1M", "if=" + disk, "of=" + drive);
        Path before = folder.resolve("before.img");
        GeneralTools.run("cp", "--sparse=always", drive.toString(), before.toString());
        FirstStartJob job = new FirstStartJob(house.bench);
        List<FirstStartJob.Order> orders = List.of(
                order(house, Map.of("hostName", "second", "remoteLogin", true)),
                order(house, Map.of("hostName", "third")));
        for (FirstStartJob.Order order : orders) {
            job.apply(order);
        }
        assertThat(GeneralTools.exitOf("cmp", "-s", before.toString(), drive.toString()))
                .isEqualTo(1);
        job.undo(orders.get(1));
        job.undo(orders.get(0));
        assertThat(GeneralTools.exitOf("cmp", before.toString(), drive.toString()))
                .isZero();
        try (var left = Files.list(house.folder.resolve("undo"))) {
            assertThat(left).isEmpty();
        }
        house.bench.close();
    }
}
