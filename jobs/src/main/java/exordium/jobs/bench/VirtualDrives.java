// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.finding.BadArgument;
import exordium.core.finding.UnreadableInput;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.sim.DriveDescription;
import exordium.sim.VirtualDrive;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/** Virtual drives as files: made, and found in a folder. */
public final class VirtualDrives {
    private static final Set<String> BUSES = Set.of("sd", "usb", "sata", "nvme", "emmc");
    private static final int SECTOR = 512;
    private static final double SLOWEST = 1;
    private static final double FASTEST = 1e12;

    private final ProfileReader reader;

    public VirtualDrives(ProfileReader reader) {
        this.reader = reader;
    }

    /** One of them. */
    public record Listed(String id, Path path, String bus, ByteSize size) {}

    /**
     * What one is to be like.
     *
     * @param writeRate the pace it keeps; as fast as the machine where absent
     * @param faults what it is to do wrong (docs/formats/drive.md)
     * @param lifeUsed share of its life that it tells to have used
     */
    public record Wanted(
            String bus,
            ByteSize size,
            Optional<ByteRate> writeRate,
            Optional<ByteRate> readRate,
            List<String> faults,
            Optional<Double> lifeUsed) {
        /** One that says nothing of how it is. */
        public Wanted(
                String bus,
                ByteSize size,
                Optional<ByteRate> writeRate,
                Optional<ByteRate> readRate,
                List<String> faults) {
            this(bus, size, writeRate, readRate, faults, Optional.empty());
        }
    }

    /** @throws UnreadableInput when there is no such bus, or it would hold nothing; no file is made then */
    public void make(Path file, Wanted wanted) throws IOException {
        if (!BUSES.contains(wanted.bus())) {
            throw new BadArgument(
                    "\"" + wanted.bus() + "\" is no bus; there are sd, usb, sata, nvme and emmc.", wanted.bus());
        }
        if (wanted.size().bytes() < SECTOR) {
            throw new UnreadableInput("A drive has at least one sector of 512 bytes.");
        }
        requireRate(wanted.writeRate());
        requireRate(wanted.readRate());
        VirtualDrive.create(
                reader,
                file,
                new DriveDescription(
                        "virtual drive",
                        wanted.bus(),
                        "",
                        wanted.size(),
                        wanted.writeRate(),
                        wanted.readRate(),
                        wanted.faults(),
                        wanted.lifeUsed()
                                .map(used -> new DriveDescription.Tells(
                                        Optional.of(used), Optional.empty(), Optional.empty()))));
    }

    private static void requireRate(Optional<ByteRate> rate) throws UnreadableInput {
        if (rate.filter(each -> each.bytesPerSecond() < SLOWEST || each.bytesPerSecond() > FASTEST)
                .isPresent()) {
            throw new UnreadableInput("A drive moves at least 1 byte a second, and at most 1 TB; "
                    + rate.get().bytesPerSecond() + " is no rate of one.");
        }
    }

    /** Those in a folder, by name; none where there is no such folder. */
    public List<Listed> in(Path folder) throws IOException {
        if (!Files.isDirectory(folder)) {
            return List.of();
        }
        List<Listed> found = new ArrayList<>();
        try (Stream<Path> files = Files.list(folder)) {
            for (Path file : files.filter(VirtualDrive::isOne).sorted().toList()) {
                DriveDescription description = VirtualDrive.describe(reader, file);
                found.add(new Listed(String.valueOf(file.getFileName()), file, description.bus(), description.bytes()));
            }
        }
        return found;
    }
}
