// SPDX-License-Identifier: Apache-2.0
package exordium.core.health;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import exordium.core.finding.OverBound;
import exordium.core.finding.UnreadableInput;
import exordium.core.profile.JsonWords;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What {@code smartctl --json --all} prints of a drive. NVMe: the SMART log of the NVM Express base specification (percentage used,
 * available spare, media errors, data units of 1000 x 512 bytes, critical warning). ATA: attributes by their numbers; which is
 * which is common practice, no source, since makers differ.
 */
public final class SmartReport {
    private static final int MOST = 1 << 20;
    private static final long DATA_UNIT = 512_000;
    private static final int REALLOCATED = 5;
    private static final int PENDING = 197;
    private static final int UNCORRECTABLE = 198;
    private static final int REPORTED = 187;
    /** Attributes whose value falls from 100 to 0 with the life of the flash, the surest first. */
    private static final List<Integer> LIFE_LEFT = List.of(231, 202, 233, 169, 177, 173);

    /** What an attribute counts that says how much was written, by a part of its name. */
    private static final Map<String, Long> WRITTEN_UNITS =
            Map.of("lbas_written", 512L, "writes_32mib", 32L << 20, "writes_gib", 1L << 30);

    private final JsonNode report;
    private final List<String> signs = new ArrayList<>();

    private SmartReport(JsonNode report) {
        this.report = report;
    }

    /** From a file. */
    public static HealthReading read(Path file, Instant at) throws IOException {
        if (!Files.isRegularFile(file)) {
            throw new UnreadableInput("There is no file " + file + ".");
        }
        try (InputStream in = Files.newInputStream(file)) {
            return read(in.readNBytes(MOST + 1), at);
        }
    }

    /** @throws UnreadableInput when it is no such report, or tells nothing of a drive */
    public static HealthReading read(byte[] json, Instant at) throws UnreadableInput {
        if (json.length > MOST) {
            throw new OverBound("A report of a drive has at most 1 MiB.", MOST);
        }
        JsonNode tree;
        try {
            tree = new ObjectMapper().readTree(json);
        } catch (JsonProcessingException e) {
            throw new UnreadableInput("This is no report of a drive: " + JsonWords.of(e) + ".", e);
        } catch (IOException e) {
            throw new UnreadableInput("This is no report of a drive.", e);
        }
        if (tree == null || !tree.isObject()) {
            throw new UnreadableInput("This is no report of a drive.");
        }
        return new SmartReport(tree).reading(at);
    }

    private HealthReading reading(Instant at) throws UnreadableInput {
        JsonNode nvme = report.path("nvme_smart_health_information_log");
        JsonNode table = report.path("ata_smart_attributes").path("table");
        boolean failing = report.path("smart_status").path("passed").isBoolean()
                && !report.path("smart_status").path("passed").asBoolean();
        if (failing) {
            signs.add("It says of itself that it fails.");
        }
        Optional<Double> life = percent(report.path("endurance_used").path("current_percent"));
        Optional<Double> spare = percent(report.path("spare_available").path("current_percent"));
        Optional<Long> errors = Optional.empty();
        Optional<ByteSize> written = Optional.empty();
        if (nvme.isObject()) {
            life = life.or(() -> percent(nvme.path("percentage_used")));
            spare = spare.or(() -> percent(nvme.path("available_spare")));
            errors = count(nvme.path("media_errors"));
            written = count(nvme.path("data_units_written")).flatMap(units -> bytes(units, DATA_UNIT));
            failing |= warned(nvme.path("critical_warning").asInt());
        } else if (table.isArray()) {
            life = life.or(() -> lifeOf(table));
            errors = Optional.of(raw(table, UNCORRECTABLE).orElse(0L)
                    + raw(table, REPORTED).orElse(0L)
                    + raw(table, PENDING).orElse(0L));
            raw(table, REALLOCATED)
                    .filter(many -> many > 0)
                    .ifPresent(many -> signs.add("It has put " + many + " blocks out of use."));
            written = writtenOf(table);
        } else if (!report.has("smart_status")) {
            throw new UnreadableInput("The report tells nothing of how the drive is.");
        }
        return new HealthReading(at, "smartctl", life, spare, errors, written, failing, false, 0, 0, signs);
    }

    /** Bits of the critical warning: 0 reserve low, 1 too hot, 2 reliability degraded, 3 read-only, 4 backup of volatile memory. */
    private boolean warned(int bits) {
        if ((bits & 1) != 0) {
            signs.add("Its reserve of blocks is below what its maker allows.");
        }
        if ((bits & 2) != 0) {
            signs.add("It is or was too hot.");
        }
        if ((bits & 4) != 0) {
            signs.add("It says that it cannot be relied on any more.");
        }
        if ((bits & 8) != 0) {
            signs.add("It has gone read-only.");
        }
        return (bits & (1 | 4 | 8)) != 0;
    }

    private static Optional<Double> lifeOf(JsonNode table) {
        for (int id : LIFE_LEFT) {
            for (JsonNode row : table) {
                int value = row.path("value").asInt(-1);
                if (row.path("id").asInt() == id && value >= 0 && value <= 100) {
                    return Optional.of(1 - value / 100.0);
                }
            }
        }
        return Optional.empty();
    }

    private static Optional<Long> raw(JsonNode table, int id) {
        for (JsonNode row : table) {
            if (row.path("id").asInt() == id) {
                // Some keep the worst in the upper half.
                return count(row.path("raw").path("value")).map(value -> value & 0xFFFFFFFFL);
            }
        }
        return Optional.empty();
    }

    private static Optional<ByteSize> writtenOf(JsonNode table) {
        for (JsonNode row : table) {
            String name = row.path("name").asText("").toLowerCase(java.util.Locale.ROOT);
            for (Map.Entry<String, Long> unit : WRITTEN_UNITS.entrySet()) {
                if (name.contains(unit.getKey())) {
                    return count(row.path("raw").path("value")).flatMap(many -> bytes(many, unit.getValue()));
                }
            }
        }
        return Optional.empty();
    }

    private static Optional<ByteSize> bytes(long units, long unit) {
        return units <= Long.MAX_VALUE / unit ? Optional.of(ByteSize.of(units * unit)) : Optional.empty();
    }

    private static Optional<Double> percent(JsonNode node) {
        return node.isNumber() && node.asInt() >= 0 && node.asInt() <= 255
                ? Optional.of(node.asInt() / 100.0)
                : Optional.empty();
    }

    private static Optional<Long> count(JsonNode node) {
        return node.isIntegralNumber() && node.canConvertToLong() && node.asLong() >= 0
                ? Optional.of(node.asLong())
                : Optional.empty();
    }
}
