// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.rehearsal;

import exordium.core.firmware.FirmwareChip;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.faults.SingleFaults;
import exordium.core.storage.media.Supply;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
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
    /** Swaps of two ports, one after the other. */
    private final List<String[]> swaps = new ArrayList<>();

    private final Set<String> otherCarriers = new HashSet<>();
    private boolean weakSupply;
    private boolean cableOut;
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

    /** Puts what is in one port into another, and what was there back in its place. */
    public void move(String from, String to) {
        swaps.add(new String[] {from, to});
        Contact was = contact(from);
        contacts.put(from, contact(to));
        contacts.put(to, was);
    }

    /** A carrier that announces itself in place of one that does not, or the other way round. */
    public void otherCarrier(String port) {
        if (!otherCarriers.remove(port)) {
            otherCarriers.add(port);
        }
    }

    public void cableOut(boolean out) {
        cableOut = out;
    }

    public boolean cableOut() {
        return cableOut;
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
                && !cableOut
                && swaps.isEmpty()
                && otherCarriers.isEmpty()
                && !buttonHeld
                && !withStaged
                && contacts.values().stream().allMatch(each -> each == Contact.IN);
    }

    /** What is plugged in where, as it was moved about. */
    public Bench placed() {
        Bench bench = model.bench();
        for (String[] swap : swaps) {
            bench = bench.moved(swap[0], swap[1]);
        }
        for (String port : otherCarriers) {
            boolean silent =
                    bench.attached().stream().anyMatch(each -> each.port().equals(port) && each.silentCarrier());
            bench = bench.withCarrier(port, !silent);
        }
        return bench;
    }

    /** The start as the bench stands in the house, whatever was changed here. */
    public Trace asItStands() {
        return model.faults().sound();
    }

    public Trace trace() {
        Bench bench = placed().without(ports(Contact.OUT)).loose(ports(Contact.LOOSE));
        if (cableOut) {
            bench = bench.withNetwork(Bench.Network.NONE);
        }
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
