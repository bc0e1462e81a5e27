// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart;

import exordium.core.board.BoardProfile;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** The edits of the start partition that bring about what is wanted. */
public record FirstStartPlan(List<FileEdit> edits, List<Finding> findings) {
    /** The empty file that switches remote login on; exactly this name, nothing after it. Common practice, no source. */
    public static final String REMOTE_LOGIN = "ssh";

    private static final String PART_UUID = "PARTUUID=";
    /**
     * What the plan is made from.
     *
     * @param rootPartUuid identifies the root partition on the same medium, and partUuids all of its partitions
     * @param userFile makes an account at the first start, and cloudFile is the other dialect of it
     */
    public record Found(
            List<String> topFiles,
            Optional<byte[]> kernelLineFile,
            Optional<byte[]> settingsFile,
            Optional<byte[]> userFile,
            Optional<byte[]> cloudFile,
            Optional<String> rootPartUuid,
            List<String> partUuids) {}

    /** @throws UnreadableInput when an address is none */
    public static FirstStartPlan of(Intents intents, Found found, BoardProfile board) throws UnreadableInput {
        BoardProfile.StartFiles files = board.startFiles();
        List<FileEdit> edits = new ArrayList<>();
        List<Finding> findings = new ArrayList<>();
        boolean there = found.topFiles().stream().anyMatch(REMOTE_LOGIN::equalsIgnoreCase);
        if (found.topFiles().stream().anyMatch(name -> name.equalsIgnoreCase(REMOTE_LOGIN + ".txt"))) {
            findings.add(Finding.caution(
                    "marker-with-extension",
                    "There is a file ssh.txt; the board looks for ssh, with nothing after it.",
                    Basis.practice()));
        }
        if (intents.remoteLogin() && !there) {
            edits.add(new FileEdit(REMOTE_LOGIN, Optional.empty(), ""));
        }
        found.settingsFile().ifPresent(content -> findings.addAll(SettingsCheck.settings(content, board)));
        found.userFile().ifPresent(content -> UserFileLint.of(content).forEach(each -> findings.add(each.finding())));
        found.cloudFile()
                .ifPresent(content -> CloudLint.userData(content).forEach(each -> findings.add(each.finding())));
        if (found.kernelLineFile().isPresent()) {
            rootElsewhere(found, files).ifPresent(findings::add);
            findings.addAll(SettingsCheck.kernelLine(found.kernelLineFile().get(), files.kernelLineForm()));
            kernelLineEdit(intents, found, files).ifPresent(edits::add);
        } else if (intents.fixedAddress().isPresent() || intents.rootByIdentifier()) {
            findings.add(Finding.stop(
                    "kernel-line-missing",
                    "There is no " + files.kernelLine() + " in the start partition to change.",
                    Basis.computed("the start partition")));
        }
        intents.fixedAddress().ifPresent(address -> findings.add(addressFinding(address)));
        if (intents.remoteLogin()) {
            findings.add(Finding.caution(
                    "default-login",
                    "With remote login on, a default password is a hole: set another one at once, or better a public key.",
                    Basis.practice()));
        }
        return new FirstStartPlan(List.copyOf(edits), Finding.worstFirst(findings));
    }

    /** A root named by an identifier that no partition of this medium has: it is on another one, if on any. */
    private static Optional<Finding> rootElsewhere(Found found, BoardProfile.StartFiles files) {
        String text = new String(found.kernelLineFile().orElseThrow(), StandardCharsets.UTF_8);
        Optional<String> wanted = KernelLine.in(text, files.kernelLineForm())
                .flatMap(line -> line.value("root"))
                .map(String::strip)
                .filter(root -> root.startsWith(PART_UUID) && root.indexOf("/") < 0)
                .map(root -> root.substring(PART_UUID.length()));
        boolean here = found.partUuids().isEmpty()
                || wanted.isEmpty()
                || found.partUuids().stream().anyMatch(wanted.get()::equalsIgnoreCase);
        return here
                ? Optional.empty()
                : Optional.of(TextFlaws.caution(
                        "root-not-on-medium",
                        "The root is PARTUUID=" + TextFlaws.shown(wanted.get())
                                + ", and no partition of this medium has that identifier; it has "
                                + String.join(", ", found.partUuids()) + "."));
    }

    private static Optional<FileEdit> kernelLineEdit(Intents intents, Found found, BoardProfile.StartFiles files)
            throws UnreadableInput {
        String before = new String(found.kernelLineFile().orElseThrow(), StandardCharsets.UTF_8);
        Optional<KernelLine> line = KernelLine.in(before, files.kernelLineForm());
        if (line.isEmpty()) {
            return Optional.empty();
        }
        KernelLine changed = line.get();
        if (intents.fixedAddress().isPresent()) {
            requireAddress(intents.fixedAddress().get());
            // Linux kernel documentation, nfsroot: ip=client:server:gateway:netmask:host:device:autoconf
            changed = changed.withBeforeRoot(
                    "ip",
                    intents.fixedAddress().get() + ":::"
                            + netmask(intents.fixedAddress().get()) + "::eth0:off");
        }
        if (intents.rootByIdentifier() && found.rootPartUuid().isPresent()) {
            changed = changed.with("root", "PARTUUID=" + found.rootPartUuid().get());
        }
        return changed.equals(line.get())
                ? Optional.empty()
                : Optional.of(new FileEdit(
                        files.kernelLine(), Optional.of(before), changed.putInto(before, files.kernelLineForm())));
    }

    private static void requireAddress(String address) throws UnreadableInput {
        if (IpWord.number(address).isEmpty()) {
            throw new UnreadableInput("\"" + address + "\" is not an IPv4 address such as 169.254.20.7.");
        }
    }

    private static String netmask(String address) {
        return address.startsWith("169.254.") ? "255.255.0.0" : "255.255.255.0";
    }

    /** RFC 3927, 2.1: the first and last 256 addresses of 169.254/16 are reserved. */
    private static Finding addressFinding(String address) {
        Basis rfc = Basis.standard("RFC 3927, section 2.1");
        for (IpWord.Fault fault : IpWord.parse(address).faults()) {
            return Finding.stop(fault.code(), fault.text(), rfc);
        }
        return address.startsWith("169.254.")
                ? Finding.note("address-link-local", address + " works over a straight cable, without a router.", rfc)
                : Finding.note(
                        "address-fixed",
                        address + " must be free in your network and outside what its router hands out.",
                        Basis.practice());
    }
}
