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
 */
public record DriveDescription(
        String model,
        String bus,
        String serial,
        ByteSize bytes,
        Optional<ByteRate> writeRate,
        Optional<ByteRate> readRate,
        List<String> faults) {

    public DriveDescription {
        faults = faults == null ? List.of() : List.copyOf(faults);
    }

    public static DriveDescription plain(String model, String bus, ByteSize bytes) {
        return new DriveDescription(model, bus, "", bytes, Optional.empty(), Optional.empty(), List.of());
    }
}
