// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import exordium.core.board.StartSource;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.firststart.intents.Intents;
import exordium.core.firststart.settings.PcieLine;
import exordium.core.firststart.settings.SettingsDocument;
import java.util.List;
import java.util.Optional;

/** What goes into the settings file and onto the kernel line, whatever dialect the system speaks. */
final class BoardSettings {
    private static final String PARAM = PcieLine.PARAM;
    private static final String PCIE = PcieLine.PCIE;
    private static final String GENERATION = "pciex1_gen";
    /** Linux kernel documentation, fb/modedb: "video=connector:mode", D switches a digital output on without a monitor. */
    private static final String CONNECTOR = "HDMI-A-1:";

    private static final long GIGABYTE = 1_000_000_000L;

    private final Draft draft;
    private final Surroundings around;

    BoardSettings(Draft draft, Surroundings around) {
        this.draft = draft;
        this.around = around;
    }

    void put(Intents intents) {
        intents.off().forEach(code -> SwitchableParts.shipped().find(code).ifPresent(this::off));
        intents.on().forEach(code -> SwitchableParts.shipped().find(code).ifPresent(this::on));
        intents.display().ifPresent(this::display);
        intents.clock().ifPresent(this::clock);
        intents.pcie().ifPresent(this::pcie);
        intents.graphicsMemory()
                .ifPresent(size ->
                        draft.settings("memory for graphics", file -> file.with("gpu_mem", Integer.toString(size))));
        intents.startBit().ifPresent(this::startBit);
        intents.overlay().ifPresent(this::overlay);
        pcieNeeded();
        bitStays();
    }

    private static SettingsDocument line(SettingsDocument file, String line, boolean there) {
        String key = line.substring(0, line.indexOf('='));
        String value = line.substring(key.length() + 1);
        return there ? file.withLine(key, value) : file.without(key, value);
    }

    private boolean bySettings(SwitchableParts.Thing thing) {
        return draft.profile().startFiles().settings().isPresent()
                && !thing.settings().isEmpty();
    }

    private void off(SwitchableParts.Thing thing) {
        if (bySettings(thing)) {
            draft.settings(thing.title(), file -> {
                SettingsDocument now = file;
                for (String each : thing.instead()) {
                    now = line(now, each, false);
                }
                for (String each : thing.settings()) {
                    now = line(now, each, true);
                }
                return now;
            });
        } else {
            thing.services().forEach(each -> draft.kernel(now -> now.withWord("systemd.mask=" + each)));
        }
        thing.words().forEach(each -> draft.kernel(now -> now.withWord(each)));
        if (!bySettings(thing) && thing.services().isEmpty() && thing.words().isEmpty()) {
            draft.note(
                    "no-settings-file",
                    thing.title() + " is not switched off on " + draft.profile().title()
                            + ": it reads no settings file.");
        }
    }

    private void on(SwitchableParts.Thing thing) {
        if (bySettings(thing)) {
            draft.settings(thing.title(), file -> {
                SettingsDocument now = file;
                for (String each : thing.settings()) {
                    now = line(now, each, false);
                }
                return now;
            });
        }
        if (draft.hasKernelLine()) {
            thing.services().forEach(each -> draft.kernel(now -> now.withoutWord("systemd.mask=" + each)));
            thing.words().forEach(each -> draft.kernel(now -> now.withoutWord(each)));
        }
    }

    private void display(Intents.Display display) {
        display.borders()
                .ifPresent(keep ->
                        draft.settings("black borders", file -> file.with("disable_overscan", keep ? "0" : "1")));
        boolean always = display.withoutMonitor().orElse(false);
        display.withoutMonitor()
                .filter(wanted -> draft.profile().startFiles().settings().isPresent())
                .ifPresent(wanted -> draft.settings(
                        "a picture without a monitor",
                        file -> wanted
                                ? file.without("hdmi_ignore_hotplug", "1").with("hdmi_force_hotplug", "1")
                                : file.without("hdmi_force_hotplug")));
        display.mode()
                .ifPresent(mode -> draft.kernel(now -> now.with("video", CONNECTOR + mode + (always ? "D" : ""))));
        if (always && display.mode().isEmpty()) {
            draft.note(
                    "mode-not-fixed",
                    "Without a monitor nobody tells the board a mode; give one, such as 1920x1080@60.");
        }
    }

    private void clock(Intents.Clock clock) {
        draft.settings("the clock", file -> {
            SettingsDocument now = file.with("arm_freq", Integer.toString(clock.mhz()));
            return clock.overVoltage()
                    .map(step -> now.with("over_voltage", Integer.toString(step)))
                    .orElse(now);
        });
    }

    /** The line that has the one-time bit set at a start: in, or out again. */
    private void startBit(boolean in) {
        Optional<String> bit = draft.profile().bitLine();
        if (bit.isEmpty()) {
            draft.add(Finding.stop(
                    "value-not-for-this-board",
                    draft.profile().title() + " has no bit of one-time memory that decides about its start.",
                    Basis.computed("the family's order")));
            return;
        }
        draft.settings("the line of the bit", file -> line(file, bit.get(), in));
    }

    /** For as long as the line stands there. */
    private void bitStays() {
        Optional<String> bit = draft.profile().bitLine();
        boolean there = bit.isPresent()
                && draft.settings()
                        .filter(file -> {
                            String key = bit.get().substring(0, bit.get().indexOf('='));
                            return file.sets(key, bit.get().substring(key.length() + 1));
                        })
                        .isPresent();
        if (there) {
            draft.caution(
                    "fuse-line-stays",
                    "While " + bit.get()
                            + " stands in the settings, this card sets the bit of every board of the family it is put"
                            + " into, for ever. Read the register after the first start, then take the line out again.");
        }
    }

    private boolean hasPcie() {
        return draft.profile().ports().stream().anyMatch(port -> port.source() == StartSource.NVME);
    }

    private void pcie(Intents.Pcie pcie) {
        if (!hasPcie()) {
            draft.add(Finding.stop(
                    "value-not-for-this-board",
                    draft.profile().title() + " has no PCIe port that could be switched on.",
                    Basis.computed("the family's ports")));
            return;
        }
        draft.settings("PCIe", file -> {
            SettingsDocument now = pcie.on() ? file.without(PARAM, PCIE + "=off") : file;
            for (String each : List.of("1", "2", "3")) {
                now = pcie.generation()
                                        .map(String::valueOf)
                                        .filter(each::equals)
                                        .isPresent()
                                && pcie.on()
                        ? now
                        : now.without(PARAM, GENERATION + "=" + each);
            }
            if (!pcie.on()) {
                return now.without(PARAM, PCIE).withLine(PARAM, PCIE + "=off");
            }
            now = now.sets(PARAM, PCIE + "=on") ? now : now.withLine(PARAM, PCIE);
            return pcie.generation().isPresent()
                    ? now.withLine(PARAM, GENERATION + "=" + pcie.generation().get())
                    : now;
        });
        if (pcie.on() && around.nvme() && !around.silentCarrier()) {
            draft.note(
                    "pcie-line-not-needed",
                    "The carrier of this board announces itself: PCIe comes on without the line, which does no harm.");
        }
        if (!pcie.on() && around.nvme()) {
            draft.caution(
                    "pcie-off", "A drive sits on the PCIe of this board; with it switched off nothing is seen there.");
        }
    }

    /** A drive in a carrier that does not announce itself is seen only with PCIe switched on by a line. */
    private void pcieNeeded() {
        boolean on = draft.settings().filter(PcieLine::isIn).isPresent();
        if (hasPcie() && around.nvme() && around.silentCarrier() && !on) {
            draft.add(PcieLine.missing());
        }
    }

    private void overlay(Intents.Overlay overlay) {
        overlay.root().ifPresent(on -> {
            draft.kernel(now -> on ? now.with("overlayroot", "tmpfs") : now.without("overlayroot"));
            if (on) {
                overlayChecks();
            }
        });
        overlay.start().ifPresent(readOnly -> {
            if (draft.root("the start partition mounted read-only")) {
                Fstab.startPartition(draft, readOnly);
            }
        });
    }

    private void overlayChecks() {
        boolean able = draft.in("/usr/share/initramfs-tools/scripts/init-bottom/")
                .anyMatch(name -> name.endsWith("/overlayroot"));
        if (!able) {
            draft.caution(
                    "overlay-not-there",
                    "Nothing on this medium reads overlayroot= yet: install the package overlayroot at the first login;"
                            + " until then the root stays as it is.");
        }
        boolean small =
                around.memory().filter(size -> size.bytes() < 2 * GIGABYTE).isPresent();
        if (small) {
            draft.caution(
                    "overlay-little-memory",
                    "With the overlay on everything written goes to memory; this board has less than 2 GB.");
        }
        draft.note(
                "overlay-no-updates",
                "While the overlay is on, upgrades and firmware updates are lost at the restart, and logs with them.");
    }
}
