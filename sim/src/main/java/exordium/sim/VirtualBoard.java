// SPDX-License-Identifier: Apache-2.0
package exordium.sim;

import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareChip;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.profile.ProfileReader;
import exordium.core.storage.Supply;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A board as it stands on the bench, kept in a file of its own (docs/formats/board.md). Immutable; each deed gives the
 * board as it is afterwards, and {@link #save} puts it down in one move.
 *
 * @param overlay whether the system's read-only overlay is on
 */
public record VirtualBoard(
        String profile,
        String memory,
        String serial,
        String mac,
        Supply supply,
        LocalDate firmware,
        String config,
        Optional<LocalDate> stagedFirmware,
        Optional<String> stagedConfig,
        boolean overlay,
        List<Plug> attached) {

    /** A drive on a port. Carrier is "announcing" or "silent"; drive is a file of the workspace's drives folder. */
    public record Plug(String port, String drive, String kind, String carrier, boolean seated) {
        public boolean silent() {
            return "silent".equals(carrier);
        }
    }

    public static VirtualBoard load(ProfileReader profiles, Path file) throws IOException {
        if (!Files.exists(file)) {
            throw new UnreadableInput("There is no board file " + file.getFileName() + ".");
        }
        return profiles.own(file, VirtualBoard.class);
    }

    public void save(ProfileReader profiles, Path file) throws IOException {
        Files.createDirectories(file.toAbsolutePath().getParent());
        Path working = file.resolveSibling(file.getFileName() + ".new");
        Files.writeString(working, profiles.write(this));
        Files.move(working, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }

    public FirmwareChip chip() {
        return new FirmwareChip(
                firmware, new FirmwareConfig(config), stagedFirmware, stagedConfig.map(FirmwareConfig::new));
    }

    public VirtualBoard with(FirmwareChip chip) {
        return new VirtualBoard(
                profile,
                memory,
                serial,
                mac,
                supply,
                chip.running(),
                chip.config().text(),
                chip.staged(),
                chip.stagedConfig().map(FirmwareConfig::text),
                overlay,
                attached);
    }

    public VirtualBoard restart() {
        return with(chip().restart());
    }

    public VirtualBoard switchOff() {
        return with(chip().switchOff());
    }

    /** Puts a drive on a port, in place of whatever was there. */
    public VirtualBoard attach(Plug plug) {
        List<Plug> plugs = new ArrayList<>(attached);
        plugs.removeIf(each -> each.port().equals(plug.port()) || each.drive().equals(plug.drive()));
        plugs.add(plug);
        return withAttached(plugs);
    }

    public VirtualBoard detach(String drive) {
        return withAttached(
                attached.stream().filter(each -> !each.drive().equals(drive)).toList());
    }

    private VirtualBoard withAttached(List<Plug> plugs) {
        return new VirtualBoard(
                profile,
                memory,
                serial,
                mac,
                supply,
                firmware,
                config,
                stagedFirmware,
                stagedConfig,
                overlay,
                List.copyOf(plugs));
    }
}
