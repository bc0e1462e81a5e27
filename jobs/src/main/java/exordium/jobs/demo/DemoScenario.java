// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.demo;

import exordium.core.firmware.Channel;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.judgement.Setting;
import exordium.core.storage.media.Supply;
import exordium.core.writing.Ending;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;

/** The demo's data file as records. Days count back from today. */
public record DemoScenario(
        String name,
        List<DemoMedium> media,
        List<DemoBoard> boards,
        List<DemoWrite> writes,
        List<DemoCopy> copies,
        List<DemoEntry> history) {
    static final String RESOURCE = "/exordium/demo/scenario.yaml";

    /** Where readDays: it is a real one that is away, and was read so many days ago. */
    record DemoMedium(
            String id,
            String name,
            String kind,
            String serial,
            ByteSize size,
            Optional<String> contents,
            Optional<Integer> readDays,
            ByteRate writeRate,
            ByteRate readRate,
            ByteSize ratedWrites,
            ByteSize written,
            String place) {}

    /** Where toldDays: it is a board by hand, of which something was told so many days ago. */
    record DemoBoard(
            String id,
            String name,
            String place,
            String profile,
            String memory,
            String serial,
            String mac,
            Supply supply,
            Optional<Channel> channel,
            boolean lightlyUsed,
            Optional<Boolean> slotReachable,
            Optional<Setting> setting,
            ByteSize dailyWrites,
            LocalDate firmware,
            String config,
            boolean overlay,
            Optional<String> drive,
            Optional<String> port,
            Optional<String> carrier,
            Optional<Integer> toldDays) {}

    record DemoWrite(int days, String board, String medium, String image, Ending ending) {}

    /** Where said: what a note on the medium said at that time; such copies are of chunks, and the newest of a board as well. */
    record DemoCopy(int days, String board, String medium, Optional<String> said) {}

    record DemoEntry(int days, String board, String step, String kind, String text) {}
}
