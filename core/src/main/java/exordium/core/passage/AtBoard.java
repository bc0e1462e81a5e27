// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import exordium.core.firmware.FirmwareConfig;
import java.time.LocalDate;
import java.util.Optional;

/**
 * How a board stands at one moment of a passage.
 *
 * @param on whether it is switched on; open whether its box is
 * @param rewritten whether a recovery card wrote its chip anew on the way
 * @param looked whether somebody looked what it runs from since it was last changed
 */
public record AtBoard(
        boolean on,
        boolean open,
        boolean overlay,
        LocalDate firmware,
        Optional<LocalDate> stagedFirmware,
        FirmwareConfig config,
        Optional<FirmwareConfig> stagedConfig,
        boolean rewritten,
        boolean looked) {

    public boolean staged() {
        return stagedFirmware.isPresent() || stagedConfig.isPresent();
    }

    /** Its settings as they will be after the next restart. */
    public FirmwareConfig nextConfig() {
        return stagedConfig.orElse(config);
    }

    /** Switched off: what was staged is lost. */
    AtBoard off() {
        return new AtBoard(
                false, open, overlay, firmware, Optional.empty(), config, Optional.empty(), rewritten, false);
    }

    /** Switched on or restarted, in a closed box: what was staged counts. */
    AtBoard started() {
        return new AtBoard(
                true,
                false,
                overlay,
                stagedFirmware.orElse(firmware),
                Optional.empty(),
                nextConfig(),
                Optional.empty(),
                rewritten,
                false);
    }

    /** The chip was written anew by a recovery card. */
    AtBoard recovered(LocalDate release, FirmwareConfig factory) {
        return new AtBoard(true, false, overlay, release, Optional.empty(), factory, Optional.empty(), true, false);
    }

    AtBoard staging(LocalDate release) {
        return new AtBoard(on, open, overlay, firmware, Optional.of(release), config, stagedConfig, rewritten, looked);
    }

    AtBoard staging(FirmwareConfig settings) {
        return new AtBoard(
                on, open, overlay, firmware, stagedFirmware, config, Optional.of(settings), rewritten, looked);
    }

    AtBoard handled(boolean opened) {
        return new AtBoard(
                on, open || opened, overlay, firmware, stagedFirmware, config, stagedConfig, rewritten, false);
    }

    AtBoard readOnly() {
        return new AtBoard(on, open, true, firmware, stagedFirmware, config, stagedConfig, rewritten, looked);
    }

    AtBoard seen() {
        return new AtBoard(on, open, overlay, firmware, stagedFirmware, config, stagedConfig, rewritten, true);
    }
}
