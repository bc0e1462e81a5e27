// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import java.time.LocalDate;
import java.util.Optional;

/**
 * The flash chip on a board. An update and new settings are staged, taken over by the next restart, and gone when the
 * board is switched off instead.
 */
public record FirmwareChip(
        LocalDate running, FirmwareConfig config, Optional<LocalDate> staged, Optional<FirmwareConfig> stagedConfig) {

    /** Stands for the release of a board of which nobody told it, where no release of its family is known. */
    public static final LocalDate NOT_KNOWN = LocalDate.EPOCH;

    /** Stands for the release of a chip that holds none that is whole: a write to it was cut. */
    public static final LocalDate NONE = LocalDate.of(1, 1, 1);

    /** Empty where it is not known, or there is none. */
    public static Optional<LocalDate> known(LocalDate release) {
        return Optional.of(release).filter(each -> !each.equals(NOT_KNOWN) && !each.equals(NONE));
    }

    /** A release in a sentence. */
    public static String said(LocalDate release) {
        return release.equals(NONE)
                ? "none that is whole"
                : known(release).map(LocalDate::toString).orElse("a date nobody told");
    }

    /** Why nothing can be put down for its next restart; empty where it can. */
    public Optional<Finding> takesNothing() {
        return isDead()
                ? Optional.of(Finding.stop(
                        "chip-dead",
                        "Its chip holds no release that is whole, so nothing runs that could take this over; only a recovery card"
                                + " brings it back.",
                        Basis.practice()))
                : Optional.empty();
    }

    /** Whether nothing in it can run. */
    public boolean isDead() {
        return running.equals(NONE);
    }

    public static FirmwareChip running(LocalDate version, String config) {
        return new FirmwareChip(version, new FirmwareConfig(config), Optional.empty(), Optional.empty());
    }

    public FirmwareChip stage(LocalDate version) {
        return new FirmwareChip(running, config, Optional.of(version), stagedConfig);
    }

    public FirmwareChip stage(FirmwareConfig changed) {
        return new FirmwareChip(running, config, staged, Optional.of(changed));
    }

    public FirmwareChip restart() {
        return new FirmwareChip(
                staged.orElse(running), stagedConfig.orElse(config), Optional.empty(), Optional.empty());
    }

    public FirmwareChip switchOff() {
        return new FirmwareChip(running, config, Optional.empty(), Optional.empty());
    }

    public boolean anythingStaged() {
        return staged.isPresent() || stagedConfig.isPresent();
    }

    /** The settings as they will be after a restart. */
    public FirmwareConfig nextConfig() {
        return stagedConfig.orElse(config);
    }
}
