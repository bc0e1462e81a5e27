// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.run;

import exordium.core.block.BlockDevice;
import exordium.core.block.FolderLock;
import exordium.core.block.PageJournal;
import exordium.core.block.TransferWatch;
import exordium.core.copies.vault.VaultFiles;
import exordium.core.copies.vault.VaultPrune;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import exordium.jobs.bench.Folders;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.store.Copies;
import exordium.store.Images;
import exordium.store.Operations;
import exordium.store.Workspace;
import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * What a kill left behind is found at the next opening: deeds are brought to their end or taken back from their journals, rows
 * are closed with what is true, and files that nobody will ask for again go.
 */
public final class Recovery {
    public static final String COPY = "copy";
    public static final String SHELVE = "shelve";
    private static final String PAGES = ".pages";
    private static final List<String> CHANGED_UNDER_LOCK = List.of("boards", "sets", "profiles", "firmware");

    private final Workbench workbench;
    private final Workspace workspace;

    public Recovery(Workbench workbench) {
        this.workbench = workbench;
        this.workspace = workbench.workspace();
    }

    /** Cheap where nothing is left: two folders are listed. */
    public void atOpening() throws IOException {
        if (!workspace.vault().equals(workspace.ownVault())) {
            VaultFiles.makePrivate(workspace.vault());
        }
        List<Operations.Operation> interrupted = workspace.operations().closeInterrupted();
        for (Operations.Operation gone : interrupted) {
            tell(gone);
        }
        for (Path file : files(workspace.deeds(), PAGES)) {
            settle(file);
        }
        sweepJournals();
        for (String folder : CHANGED_UNDER_LOCK) {
            FolderLock.sweep(workspace.folder().resolve(folder));
        }
        sweepParts();
        // Only what was found just now: whatever bears such a name later is somebody else's.
        for (Operations.Operation gone : interrupted) {
            forgetUnlisted(gone.deed());
        }
    }

    private void tell(Operations.Operation gone) throws IOException {
        Operations.Action deed = gone.deed();
        if (gone.isWrite()) {
            workspace
                    .log()
                    .add(
                            deed.board(),
                            Step.IMAGE,
                            "write-interrupted",
                            "The write of " + gone.image() + " to " + deed.target()
                                    + " was cut off. The target is not to be used until it is written again.",
                            Optional.empty());
            return;
        }
        boolean kept = Files.exists(workspace.deeds().resolve(gone.id() + PAGES));
        String words = deed.kind() + " of " + deed.target() + " was cut off. "
                + (deed.touches()
                        ? kept
                                ? "What it was changing is brought in order from its journal as soon as the drive is looked at."
                                : "What is on the drive now is not proven."
                        : deed.kind().equals(COPY) || deed.kind().equals(SHELVE)
                                ? "Nothing half-done is kept."
                                : "What it had done by then stays done.");
        workspace.log().add(deed.board(), Step.STORAGE, deed.kind() + "-interrupted", words, Optional.empty());
    }

    private void settle(Path file) throws IOException {
        PageJournal journal;
        try {
            journal = PageJournal.load(file);
        } catch (UnreadableInput e) {
            workspace
                    .log()
                    .add(Optional.empty(), Step.STORAGE, "deed-journal-broken", e.getMessage(), Optional.empty());
            Files.move(file, file.resolveSibling(file.getFileName() + ".broken"));
            return;
        }
        Path path = Path.of(journal.head().target());
        if (running(journal.head().operation()) || !Files.exists(path)) {
            return;
        }
        try {
            Targets targets = workbench.targets();
            Targets.Target target = targets.at(path, ByteSize.ZERO);
            if (!Finding.anyStops(target.description().refusals())) {
                try (BlockDevice device = target.claim(TransferWatch.NONE)) {
                    settle(target, device);
                }
            }
        } catch (Refused | IOException e) {
            // Not to be had at the moment, or it does not take it: the journal stays for the next look.
            workspace
                    .log()
                    .add(
                            Optional.empty(),
                            Step.STORAGE,
                            "deed-not-settled",
                            path.getFileName() + " could not be brought in order yet: " + e.getMessage(),
                            Optional.empty());
        }
    }

    private boolean running(long operation) {
        return workspace.operations().all().stream().anyMatch(each -> each.id() == operation && each.runs());
    }

    /** Brings in order what earlier deeds left on a target that is in hand now. */
    void settle(Targets.Target target, BlockDevice device) throws IOException {
        for (Path file : files(workspace.deeds(), PAGES)) {
            PageJournal journal;
            try {
                journal = PageJournal.load(file);
            } catch (UnreadableInput e) {
                continue;
            }
            if (journal.head().key().equals(target.key())
                    && !running(journal.head().operation())) {
                boolean done = journal.settle(device) == PageJournal.Settled.DONE;
                boolean back = journal.head().direction() == PageJournal.Direction.BACK;
                String name = target.description().id();
                workspace
                        .log()
                        .add(
                                Optional.empty(),
                                Step.STORAGE,
                                done ? "deed-settled" : "deed-void",
                                !done
                                        ? name
                                                + " holds something else since a deed on it was cut off; it was left as it is."
                                        : back
                                                ? "What a deed that was cut off had put on " + name
                                                        + " was taken back; read back and as it was."
                                                : "A change of " + name
                                                        + " that was cut off was brought to its end and read back.",
                                Optional.empty());
                Files.deleteIfExists(file);
            }
        }
    }

    /** Journals of writes that came to a good end, and half-made ones. */
    private void sweepJournals() throws IOException {
        List<Path> journals = new ArrayList<>(files(workspace.folder().resolve("writes"), ".journal"));
        journals.addAll(files(workspace.folder().resolve("writes"), ".journal.new"));
        if (journals.isEmpty()) {
            return;
        }
        Map<Long, Operations.Operation> rows = new HashMap<>();
        workspace.operations().writes().forEach(write -> rows.put(write.id(), write));
        for (Path journal : journals) {
            String name = String.valueOf(journal.getFileName());
            String number = name.substring(0, name.indexOf('.'));
            Operations.Operation row = number.matches("\\d{1,18}") ? rows.get(Long.parseLong(number)) : null;
            boolean half = name.endsWith(".new");
            boolean writing = row != null && row.runs();
            boolean ofUse = row != null && !half && row.ending().canGoOn();
            if (!writing && !ofUse) {
                Files.deleteIfExists(journal);
            }
        }
    }

    /** Half-made copies and images; not those that somebody is making at this moment. */
    private void sweepParts() throws IOException {
        Set<String> busy = new HashSet<>();
        for (Operations.Operation each : workspace.operations().all()) {
            if (each.runs()) {
                busy.add(each.deed().kind());
            }
        }
        if (!busy.contains(COPY)) {
            VaultPrune.sweepParts(workspace.vault());
        }
        if (!busy.contains(SHELVE)) {
            sweep(workspace.images());
        }
    }

    private static void sweep(Path folder) throws IOException {
        if (!Files.isDirectory(folder)) {
            return;
        }
        try (Stream<Path> all = Files.walk(folder)) {
            for (Path part :
                    all.filter(each -> each.toString().endsWith(".part")).toList()) {
                Files.deleteIfExists(part);
            }
        }
    }

    /** Killed between the file's own name and the register: what is not listed does not count and is not kept. */
    private void forgetUnlisted(Operations.Action deed) throws IOException {
        boolean copy = deed.kind().equals(COPY);
        if (!copy && !deed.kind().equals(SHELVE)) {
            return;
        }
        boolean listed = copy
                ? workspace.copies().all().stream().map(Copies.Copy::file).anyMatch(deed.key()::equals)
                : workspace.imageShelf().all().stream().map(Images.Image::file).anyMatch(deed.key()::equals);
        Path folder = copy ? workspace.vault() : workspace.images();
        if (!listed && !deed.key().isEmpty() && Folders.isInside(folder, deed.key())) {
            Path file = folder.resolve(deed.key());
            for (String suffix : List.of("", ".sha256", ".sha512", ".md5", ".sha1")) {
                Files.deleteIfExists(file.resolveSibling(file.getFileName() + suffix));
            }
        }
    }

    private static List<Path> files(Path folder, String suffix) throws IOException {
        List<Path> found = new ArrayList<>();
        if (Files.isDirectory(folder)) {
            try (DirectoryStream<Path> all = Files.newDirectoryStream(folder, "*" + suffix)) {
                all.forEach(found::add);
            }
        }
        return found;
    }
}
