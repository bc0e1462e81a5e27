// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.firmware.FirmwareConfig;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.BoardDeed;
import exordium.jobs.run.JobRunner;
import exordium.jobs.run.Opening;
import java.io.BufferedReader;
import java.io.IOException;
import java.nio.file.Path;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Two processes, killed again and again, and this one, as the window does, change one board at once: whatever came back as done is
 * in the board's file, whatever did not was refused in a sentence, and the file can be read all the time.
 */
class ManyHandsTest {
    private static final String BOARD = "ticket-desk";
    private static final int CHANGES = Integer.getInteger("exordium.handChanges", 36);
    private static final int A_LIFE = 12;

    @TempDir
    Path folder;

    private final List<String> done = Collections.synchronizedList(new ArrayList<>());
    private final List<String> refused = Collections.synchronizedList(new ArrayList<>());

    /** One more line in what the board is to start with, whatever the others put there. */
    private static void change(Workbench bench, String key) throws IOException {
        new BoardDeed(bench, bench.board(BOARD)).run(JobRunner.DeedKind.reading("hand", Step.ORDER, "setting"), now -> {
            FirmwareConfig next = now.at().board().chip().nextConfig();
            return now.outcome(now.deeds().stage(next.with(key, "1")), "", "");
        });
    }

    /** A hand in a process of its own: folder, name and the number to begin with; lives until it is killed. */
    public static void main(String[] words) throws IOException {
        Workbench bench = Opening.at(Path.of(words[0]), House.CLOCK, ZoneOffset.UTC);
        for (int i = Integer.parseInt(words[2]); ; i++) {
            String key = words[1] + "_" + i;
            try {
                change(bench, key);
                System.out.println("done " + key);
            } catch (Refused e) {
                System.out.println("refused " + e.getMessage());
            }
        }
    }

    /** Lives through so many changes, one process after the other, each killed in the middle of its next. */
    private Void lives(Path house, String name, long seed) throws IOException {
        Random random = new Random(seed);
        int made = 0;
        for (int from = 0; made < CHANGES / 3; from += 1000) {
            int until = 1 + random.nextInt(A_LIFE);
            Process hand = new ProcessBuilder(
                            Path.of(System.getProperty("java.home"), "bin", "java")
                                    .toString(),
                            "-XX:TieredStopAtLevel=1",
                            "-cp",
                            System.getProperty("java.class.path"),
                            ManyHandsTest.class.getName(),
                            house.toString(),
                            name,
                            String.valueOf(from))
                    .redirectError(ProcessBuilder.Redirect.INHERIT)
                    .start();
            try (BufferedReader out = hand.inputReader()) {
                int life = 0;
                for (String line = out.readLine(); line != null; line = out.readLine()) {
                    (line.startsWith("done ") ? done : refused).add(line.substring(line.indexOf(' ') + 1));
                    if (++life == until) {
                        hand.toHandle().destroyForcibly();
                    }
                }
                assertThat(life).isGreaterThanOrEqualTo(until);
                made += life;
            }
        }
        return null;
    }

    private Void window(Workbench bench) throws IOException {
        for (int i = 0; i < CHANGES / 3; i++) {
            try {
                change(bench, "window_" + i);
                done.add("window_" + i);
            } catch (Refused e) {
                refused.add(e.getMessage());
            }
            assertThat(bench.board(BOARD).board().profile()).isNotEmpty();
        }
        return null;
    }

    @Test
    void whatWasDoneIsThereAndTheRestWasRefused() throws Exception {
        House house = House.demo(folder);
        long seed = Long.getLong("exordium.seed", 30);
        ExecutorService hands = Executors.newFixedThreadPool(3);
        try {
            List<Future<Void>> all = List.of(
                    hands.submit(() -> lives(house.bench.folder(), "first", seed)),
                    hands.submit(() -> lives(house.bench.folder(), "second", seed + 1)),
                    hands.submit(() -> window(house.bench)));
            for (Future<Void> each : all) {
                each.get();
            }
        } finally {
            hands.shutdownNow();
        }
        FirmwareConfig after = house.bench.board(BOARD).board().chip().nextConfig();
        assertThat(done).as("seed " + seed).hasSizeGreaterThanOrEqualTo(CHANGES / 3 * 2);
        assertThat(done).as("seed " + seed).allMatch(key -> after.value(key).isPresent());
        assertThat(refused).as("seed " + seed).allMatch(sentence -> sentence.endsWith("."));
        Opening.of(house.workspace, ZoneOffset.UTC);
        assertThat(house.workspace.operations().running()).isEmpty();
        assertThat(folder.resolve("house/boards").toFile().list())
                .as("what is half-made is swept")
                .noneMatch(name -> name.endsWith(".new"));
    }
}
