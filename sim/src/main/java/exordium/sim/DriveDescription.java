// SPDX-License-Identifier: Apache-2.0
package exordium.sim;

import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import java.util.List;
import java.util.Optional;

/**
 * What a virtual drive says of itself, kept beside its bytes as {@code FILE.drive.yaml} (docs/formats/drive.md).
 *
 * @param bus sd, usb, sata, nvme or emmc
 * @param writeRate the pace it keeps; as fast as the machine where absent
 * @param faults in the form {@link DriveFault#parse} reads
 * @param tells how it says it is
 */
public record DriveDescription(
        String model,
        String bus,
        String serial,
        ByteSize bytes,
        Optional<ByteRate> writeRate,
        Optional<ByteRate> readRate,
        List<String> faults,
        Optional<Tells> tells) {

    /**
     * How it says it is, to practise with; a drive of the machine tells that by its own means.
     *
     * @param lifeUsed share of its life; spareLeft: of its reserve of blocks
     */
    public record Tells(Optional<Double> lifeUsed, Optional<Double> spareLeft, Optional<Long> mediaErrors) {}

    /** One that says nothing of how it is. */
    public DriveDescription(
            String model,
            String bus,
            String serial,
            ByteSize bytes,
            Optional<ByteRate> writeRate,
            Optional<ByteRate> readRate,
            List<String> faults) {
        this(model, bus, serial, bytes, writeRate, readRate, faults, Optional.empty());
    }

    public DriveDescription {
        faults = faults == null ? List.of() : List.copyOf(faults);
    }

    public static DriveDescription plain(String model, String bus, ByteSize bytes) {
        return new DriveDescription(model, bus, "", bytes, Optional.empty(), Optional.empty(), List.of());
    }
}
