// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.rehearsal;

import exordium.core.firmware.FirmwareChip;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.SingleFaults;
import exordium.core.rehearsal.Trace;
import exordium.core.storage.Supply;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;

/** The bench as it is being played with: what was pulled, what sits loose, the supply, the button, what is staged. */
public final class BenchDraft {
    public static final Supply PHONE_CHARGER = SingleFaults.PHONE_CHARGER;

    /** How a medium stands on its port. */
    public enum Contact {
        IN("in"),
        LOOSE("not square"),
        OUT("out");

        private final String text;

        Contact(String text) {
            this.text = text;
        }

        public String text() {
            return text;
        }
    }

    private final RehearsalModel model;
    private final Map<String, Contact> contacts = new HashMap<>();
    private boolean weakSupply;
    private boolean buttonHeld;
    private boolean withStaged;

    public BenchDraft(RehearsalModel model) {
        this.model = model;
    }

    public Contact contact(String port) {
        return contacts.getOrDefault(port, Contact.IN);
    }

    /** In, then not square, then out, then in again. */
    public void next(String port) {
        Contact[] all = Contact.values();
        contacts.put(port, all[(contact(port).ordinal() + 1) % all.length]);
    }

    public void weakSupply(boolean weak) {
        weakSupply = weak;
    }

    public boolean weakSupply() {
        return weakSupply;
    }

    public void buttonHeld(boolean held) {
        buttonHeld = held;
    }

    public void withStaged(boolean staged) {
        withStaged = staged;
    }

    public boolean asItIs() {
        return !weakSupply
                && !buttonHeld
                && !withStaged
                && contacts.values().stream().allMatch(each -> each == Contact.IN);
    }

    public Trace trace() {
        Bench bench = model.bench().without(ports(Contact.OUT)).loose(ports(Contact.LOOSE));
        if (weakSupply) {
            bench = bench.withSupply(PHONE_CHARGER);
        }
        if (withStaged) {
            FirmwareChip chip = model.board().at().board().chip().restart();
            bench = bench.withFirmware(chip.running())
                    .withConfig(chip.config())
                    .withOrder(chip.config()
                            .value(model.board().at().profile().order().key())
                            .orElse(model.board().at().order()));
        }
        return Rehearsal.of(buttonHeld ? bench.withButtonHeld() : bench);
    }

    private Set<String> ports(Contact wanted) {
        Set<String> ports = new HashSet<>();
        contacts.forEach((port, contact) -> {
            if (contact == wanted) {
                ports.add(port);
            }
        });
        return ports;
    }
}
