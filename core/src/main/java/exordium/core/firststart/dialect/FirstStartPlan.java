// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FileBody;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.finding.Subject;
import exordium.core.firststart.intents.Intents;
import exordium.core.layout.DiskIdentifier;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * The edits of a medium that bring about what is wanted.
 *
 * @param identifier the disk's new one, where it gets one
 * @param grows whether the last partition is made as large as the medium allows
 */
public record FirstStartPlan(
        List<FileEdit> edits, List<Finding> findings, Optional<DiskIdentifier> identifier, boolean grows) {
    /** The empty file that switches remote login on; exactly this name, nothing after it. Common practice, no source. */
    public static final String REMOTE_LOGIN = PlainFiles.MARKER;

    /** What is on the medium, looked through with nothing wanted. */
    public static FirstStartPlan of(FirstStartFiles found, BoardProfile board) {
        return of(Intents.NONE, found, board);
    }

    public static FirstStartPlan of(Intents intents, FirstStartFiles found, BoardProfile board) {
        return of(intents, found, board, Surroundings.UNKNOWN, Optional.empty());
    }

    /** Where identifier: what the disk is to be called from now on, for a board with an identity of its own. */
    public static FirstStartPlan of(
            Intents intents,
            FirstStartFiles found,
            BoardProfile board,
            Surroundings around,
            Optional<DiskIdentifier> identifier) {
        Draft draft = new Draft(found.files(), board);
        boolean renames = intents.ownIdentity() && (found.diskId().isPresent() || found.gpt());
        Optional<DiskIdentifier> fresh = renames ? identifier : Optional.empty();
        // Systems of either dialect take the marker, and it costs nothing.
        intents.remoteLogin().filter(on -> on && !draft.has(REMOTE_LOGIN)).ifPresent(on -> draft.put(REMOTE_LOGIN, ""));
        if (dialect(intents, found.files(), board) == Intents.Dialect.CLOUD) {
            new NoCloud(draft, intents).put();
        } else {
            new PlainFiles(draft, intents).put();
        }
        new BoardSettings(draft, around).put(intents);
        root(draft, intents, found);
        if (intents.grow()) {
            SelfGrowth.put(draft, found.growth());
        }
        if (intents.ownIdentity()) {
            OwnIdentity.put(draft);
            fresh.ifPresent(id -> rename(draft, found, id));
            if (found.diskId().isEmpty() && !found.gpt()) {
                draft.add(Finding.caution(
                                "identifiers-kept",
                                "The medium has no table whose identifiers could be changed: its identifiers stay those of the image,"
                                        + " and it must not be plugged in beside another card of it.",
                                Basis.practice())
                        .mendAt(Step.FIRST_START)
                        .about(Subject.IDENTIFIERS));
            }
        }
        intents.wantedNetwork().ifPresent(network -> NetworkWords.tell(draft, network, around));
        List<Finding> findings = new ArrayList<>(draft.findings());
        clashes(intents, around).forEach(findings::add);
        if (intents.remoteLogin().orElse(false) && intents.account().isEmpty()) {
            findings.add(Finding.caution(
                    "default-login",
                    "With remote login on, a default password is a hole: set another one at once, or better a public key.",
                    Basis.practice()));
        }
        intents.account()
                .filter(account ->
                        account.passwordHash().isEmpty() && account.keys().isEmpty())
                .ifPresent(account -> findings.add(Finding.stop(
                        "account-without-key",
                        "Nobody gets in as " + account.name() + ": give a public key, or a password.",
                        Basis.practice())));
        List<FileEdit> edits = draft.edits();
        List<Finding> before = StartFilesLint.of(found, board);
        findings.addAll(before);
        findings.addAll(added(before, found, edits, board, fresh));
        boolean grows = intents.grow()
                && found.growth().kind() != SelfGrowth.GrowthKind.UNKNOWN
                && found.last().filter(last -> last.hasRoom(around.freeTail())).isPresent();
        return new FirstStartPlan(edits, Finding.worstFirst(findings), fresh, grows);
    }

    /** What keeps it from being carried out: a kernel line that is wrong as a whole keeps no other edits back. */
    public List<Finding> stops() {
        return findings.stream()
                .filter(Finding::stops)
                .filter(each -> edits.isEmpty() || !each.isAbout(Subject.KERNEL_LINE))
                .toList();
    }

    /** By what is said, else by what the system on the medium takes; where it says nothing, the family's plain files. */
    static Intents.Dialect dialect(Intents intents, MediumFiles files, BoardProfile board) {
        boolean cloud = board.startFiles().cloudFile().isPresent() && NoCloud.spokenBy(files);
        return intents.dialect().orElse(cloud ? Intents.Dialect.CLOUD : Intents.Dialect.PLAIN);
    }

    private static void root(Draft draft, Intents intents, FirstStartFiles found) {
        if (intents.rootByIdentifier()) {
            draft.kernel(line -> found.rootPartUuid().isPresent()
                    ? line.with("root", "PARTUUID=" + found.rootPartUuid().get())
                    : line);
        }
    }

    /** Kernel line and fstab follow the disk's new identifier; nothing else on them is touched. */
    private static void rename(Draft draft, FirstStartFiles found, DiskIdentifier fresh) {
        for (String path : List.of(draft.kernelLine(), Fstab.PATH)) {
            Optional<FileBody> body = draft.body(path).filter(each -> !each.link());
            if (body.isPresent() && (!path.startsWith("/") || draft.root("the fstab"))) {
                String text = new String(body.get().bytes(), StandardCharsets.ISO_8859_1);
                String other = found.textRenamed(text, fresh);
                if (!other.equals(text)) {
                    draft.put(path, FileBody.of(other.getBytes(StandardCharsets.ISO_8859_1)));
                }
            }
        }
    }

    private static List<Finding> clashes(Intents intents, Surroundings around) {
        List<Finding> clashes = new ArrayList<>();
        Optional<String> address = intents.wantedNetwork()
                .filter(network -> network.kind() != Intents.Way.AUTOMATIC && network.kind() != Intents.Way.WIFI)
                .filter(network -> network.address().isPresent())
                .map(NetworkWords::address);
        for (Surroundings.Neighbour each : around.others()) {
            if (address.isPresent() && address.equals(each.address())) {
                clashes.add(Finding.stop(
                        "address-clash",
                        address.get() + " is the address of " + each.board()
                                + " already; two boards with one address are" + " both not reached.",
                        Basis.computed("names and addresses of all boards")));
            }
            boolean named = intents.hostName().isPresent()
                    && each.hostName()
                            .filter(intents.hostName().get()::equalsIgnoreCase)
                            .isPresent();
            if (named) {
                clashes.add(Finding.stop(
                        "name-clash",
                        intents.hostName().get() + " is the host name of " + each.board() + " already.",
                        Basis.computed("names and addresses of all boards")));
            }
        }
        return clashes;
    }

    /** What the edits bring with them that was not found before. */
    private static List<Finding> added(
            List<Finding> before,
            FirstStartFiles found,
            List<FileEdit> edits,
            BoardProfile board,
            Optional<DiskIdentifier> fresh) {
        return Finding.newSince(before, StartFilesLint.of(after(found, edits, fresh), board));
    }

    private static FirstStartFiles after(FirstStartFiles found, List<FileEdit> edits, Optional<DiskIdentifier> fresh) {
        java.util.function.UnaryOperator<String> renamed =
                text -> fresh.map(id -> found.renamed(text, id)).orElse(text);
        return new FirstStartFiles(
                found.files().after(edits),
                found.rootPartUuid().map(renamed),
                found.partUuids().stream().map(renamed).toList(),
                found.gpt() ? Optional.empty() : fresh.map(DiskIdentifier::text).or(found::diskId),
                found.last());
    }

    /** With one more thing to be said of it. */
    public FirstStartPlan with(Finding finding) {
        List<Finding> all = new ArrayList<>(findings);
        all.add(finding);
        return new FirstStartPlan(edits, Finding.worstFirst(all), identifier, grows);
    }

    /** Whether there is nothing to do. */
    public boolean nothing() {
        return edits.isEmpty() && identifier.isEmpty() && !grows;
    }

    /** The medium once the edits are made. */
    public FirstStartFiles after(FirstStartFiles found) {
        return after(found, edits, identifier);
    }
}
