// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies.vault;

import exordium.core.block.TransferWatch;
import exordium.core.copies.schedule.Retention;
import exordium.core.copies.vault.Generations;
import exordium.core.copies.vault.VaultCheck;
import exordium.core.copies.vault.VaultFiles;
import exordium.core.copies.vault.VaultLock;
import exordium.core.copies.vault.VaultPrune;
import exordium.core.copies.vault.VaultRepair;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Refused;
import exordium.core.finding.Sentence;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ChunkPacks;
import exordium.core.image.CopyManifest;
import exordium.core.quantity.ByteSize;
import exordium.jobs.bench.Folders;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.JobRunner;
import exordium.jobs.run.Key;
import exordium.store.Copies;
import exordium.store.Workspace;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeMap;

/** The vault as a whole: what takes which room, which copies go by the house's rule, whether its chunks are what they were. */
public final class VaultJob {
    private static final JobRunner.DeedKind PRUNE = JobRunner.DeedKind.keyed(
            "vault-prune", Step.COPIES, "taking copies out of", "Copies that were not taken out are as they were.");
    private static final JobRunner.DeedKind CHECK =
            JobRunner.DeedKind.keyed("vault-check", Step.COPIES, "checking", "Nothing in it was changed.");
    private static final JobRunner.DeedKind REPAIR = JobRunner.DeedKind.keyed(
            "vault-repair", Step.COPIES, "mending", "What was mended stays mended; nothing else was changed.");

    private final Workbench workbench;
    private final Workspace workspace;

    public VaultJob(Workbench workbench) {
        this.workbench = workbench;
        this.workspace = workbench.workspace();
    }

    /**
     * A copy and the room it takes.
     *
     * @param own bytes that nothing else needs, and shared: bytes it has in common with other copies
     * @param here whether its file is in the vault
     */
    public record Generation(Copies.Copy copy, ByteSize own, ByteSize shared, boolean here) {}

    /**
     * What is in the vault.
     *
     * @param generations oldest first
     * @param boards what all copies of a board take together, by its name
     * @param used what the vault's files take, whoever's they are
     */
    public record Strata(List<Generation> generations, Map<String, Generations.Space> boards, ByteSize used) {
        /** What a board's copies take; nothing of one that has none. */
        public Generations.Space room(String board) {
            return boards.getOrDefault(board, NOTHING);
        }

        /** Those of a board, oldest first; whose file is not in the vault only when they are asked for. */
        public List<Generation> of(String board, boolean alsoGone) {
            return generations.stream()
                    .filter(each -> board.equals(each.copy().board()) && (each.here() || alsoGone))
                    .toList();
        }
    }

    private static final Generations.Space NOTHING = new Generations.Space(ByteSize.ZERO, ByteSize.ZERO);

    /** With the copies of one board or of all. */
    public Strata strata(Optional<String> board) throws IOException {
        Path vault = workspace.vault();
        Generations.Room room;
        try (ChunkPacks packs = ChunkPacks.in(vault.resolve(ChunkPacks.FOLDER))) {
            room = Generations.in(vault).room(packs);
        }
        List<Generation> generations = new ArrayList<>();
        Map<String, Generations.Space> boards = new TreeMap<>(room.boards());
        for (Copies.Copy copy : workspace.copies().all()) {
            Path file = vault.resolve(copy.file());
            boolean here = Files.isRegularFile(file);
            Generations.Space image = new Generations.Space(ByteSize.of(copy.bytes()), ByteSize.ZERO);
            if (here && copy.board() != null && !CopyJob.isList(file)) {
                boards.merge(copy.board(), image, Generations.Space::plus);
            }
            if (board.isEmpty() || board.get().equals(copy.board())) {
                Generations.Space taken = here ? room.copies().getOrDefault(file, image) : NOTHING;
                generations.add(new Generation(copy, taken.own(), taken.shared(), here));
            }
        }
        return new Strata(generations, boards, VaultFiles.room(vault));
    }

    /**
     * What would go, or went.
     *
     * @param verdicts every copy with the rule that keeps it
     * @param problem why nothing can be taken out at this moment
     */
    public record Pruned(List<Retention.Verdict<Copies.Copy>> verdicts, ByteSize freed, Optional<String> problem) {
        public List<Copies.Copy> going() {
            return verdicts.stream()
                    .filter(each -> !each.stays())
                    .map(Retention.Verdict::copy)
                    .toList();
        }
    }

    /** What would go by the house's rule; nothing does. */
    public Pruned preview(Optional<String> board) throws IOException {
        List<Retention.Verdict<Copies.Copy>> verdicts = verdicts(board);
        List<Path> lists = new ArrayList<>();
        long plain = 0;
        for (Retention.Verdict<Copies.Copy> each : verdicts) {
            Path file = fileOf(each.copy());
            if (!each.stays() && CopyJob.isList(file)) {
                lists.add(file);
            } else if (!each.stays() && Files.exists(file)) {
                plain += Files.size(file);
            }
        }
        try {
            workbench.standing().here();
            requireTrueLists(lists);
            long chunks = VaultPrune.preview(workspace.vault(), lists).freed().bytes();
            return new Pruned(verdicts, ByteSize.of(chunks + plain), Optional.empty());
        } catch (Refused | UnreadableInput | NotPossible e) {
            return new Pruned(verdicts, ByteSize.of(plain), Optional.of(Sentence.of(e)));
        }
    }

    /**
     * Takes the copies out that no rule keeps. A copy whose file is gone is only struck off the register.
     *
     * @throws NotPossible when a list that stays cannot be read; nothing is taken
     */
    public Pruned prune(Optional<String> board, TransferWatch watch) throws IOException {
        return alone(PRUNE, () -> pruned(board, watch));
    }

    /** Each deed tells the logbook by itself what it did to which copy. */
    private <T> T alone(JobRunner.DeedKind kind, VaultLock.Work<T> work) throws IOException {
        return new JobRunner(workbench)
                .keyed(kind, Key.vault(), Optional.empty(), () -> new JobRunner.Outcome<>(work.run(), "", ""));
    }

    private Pruned pruned(Optional<String> board, TransferWatch watch) throws IOException {
        List<Retention.Verdict<Copies.Copy>> verdicts = verdicts(board);
        List<Copies.Copy> going = new Pruned(verdicts, ByteSize.ZERO, Optional.empty()).going();
        List<Path> lists = new ArrayList<>();
        long freed = 0;
        workbench.standing().here();
        for (Copies.Copy copy : going) {
            Path file = fileOf(copy);
            if (CopyJob.isList(file)) {
                lists.add(file);
            }
        }
        requireTrueLists(lists);
        // Chunks first: when the vault is not free, nothing at all has gone.
        freed +=
                VaultPrune.run(workspace.vault(), lists, stamp(), watch).freed().bytes();
        for (Copies.Copy copy : going) {
            Path file = fileOf(copy);
            if (!CopyJob.isList(file) && Files.exists(file)) {
                freed += Files.size(file);
                Files.deleteIfExists(file);
                Files.deleteIfExists(file.resolveSibling(file.getFileName() + ".sha256"));
            }
            workspace.inTransaction(() -> {
                workspace.copies().remove(copy.id());
                workspace
                        .log()
                        .add(
                                Optional.of(copy.board()),
                                Step.COPIES,
                                "copy-pruned",
                                copy.file() + " was taken out of the vault: "
                                        + workbench.rules().retention().said() + " are kept.",
                                Optional.empty());
                return null;
            });
        }
        return new Pruned(verdicts, ByteSize.of(freed), Optional.empty());
    }

    /** @throws NotPossible when its name leads out of the vault, as in a register that somebody made up: nothing there goes */
    private Path fileOf(Copies.Copy copy) throws NotPossible {
        Path vault = workspace.vault();
        if (!Folders.isInside(vault, copy.file())) {
            throw new NotPossible(
                    "A copy on record lies outside of the vault, " + copy.file() + "; nothing is taken out.");
        }
        return vault.resolve(copy.file());
    }

    private List<Retention.Verdict<Copies.Copy>> verdicts(Optional<String> board) {
        Map<String, List<Retention.Kept<Copies.Copy>>> byBoard = new HashMap<>();
        for (Copies.Copy copy : workspace.copies().all()) {
            if (copy.board() != null && (board.isEmpty() || board.get().equals(copy.board()))) {
                byBoard.computeIfAbsent(copy.board(), name -> new ArrayList<>())
                        .add(new Retention.Kept<>(copy, copy.proven(), copy.before()));
            }
        }
        List<Retention.Verdict<Copies.Copy>> verdicts = new ArrayList<>();
        byBoard.keySet().stream()
                .sorted()
                .forEach(
                        name -> verdicts.addAll(workbench.rules().retention().of(byBoard.get(name), workbench.zone())));
        return verdicts;
    }

    private String stamp() {
        return CopyJob.stamp(workspace.clock().instant());
    }

    /** Reads chunks and holds them to their digests; every copy that is hurt goes into the logbook. Where sample: so many by chance. */
    public VaultCheck check(OptionalInt sample, TransferWatch watch) throws IOException {
        return alone(CHECK, () -> checked(sample, watch));
    }

    private VaultCheck checked(OptionalInt sample, TransferWatch watch) throws IOException {
        Instant now = workspace.clock().instant();
        VaultCheck chunks = VaultCheck.of(workbench.standing().here(), sample, now.toEpochMilli(), watch);
        VaultCheck check = new VaultCheck(
                chunks.chunks(), chunks.of(), chunks.bytes(), withRecord(chunks.damages(), sample.isEmpty(), watch));
        for (VaultCheck.Damage damage : check.damages()) {
            workspace.log().add(boardOf(damage.copy()), Step.COPIES, "copy-broken", damage.text(), Optional.empty());
        }
        return check;
    }

    /** And what is not what was proven, though it can be read. Where whole: plain copies are read through. */
    private List<VaultCheck.Damage> withRecord(List<VaultCheck.Damage> found, boolean whole, TransferWatch watch)
            throws IOException {
        List<VaultCheck.Damage> all = new ArrayList<>(found);
        for (Copies.Copy copy : workspace.copies().all()) {
            Path file = fileOf(copy);
            if (found.stream().noneMatch(damage -> damage.copy().equals(file))) {
                new RecordedFile(workbench, copy)
                        .fault(whole, watch)
                        .ifPresent(text -> all.add(new VaultCheck.Damage(file, 0, 0, text)));
            }
        }
        return all;
    }

    private Optional<String> boardOf(Path copy) {
        Set<String> known = new HashSet<>();
        workspace.boards().all().forEach(board -> known.add(board.id()));
        return Optional.ofNullable(copy.getParent())
                .map(folder -> String.valueOf(folder.getFileName()))
                .filter(known::contains);
    }

    /** Mends this vault, from another one where there is one. */
    public VaultRepair repair(Optional<Path> other, TransferWatch watch) throws IOException {
        if (other.isPresent() && !Files.isDirectory(other.get().resolve(ChunkPacks.FOLDER))) {
            throw new UnreadableInput(
                    other.get() + " is no vault: there is no folder " + ChunkPacks.FOLDER + " in it.");
        }
        return alone(REPAIR, () -> mended(other, watch));
    }

    private VaultRepair mended(Optional<Path> other, TransferWatch watch) throws IOException {
        VaultRepair mended = VaultRepair.run(workbench.standing().here(), other, onRecord(), stamp(), watch);
        VaultRepair repair = new VaultRepair(
                mended.indexes(), mended.chunks(), mended.lists(), withRecord(mended.left(), true, watch));
        workspace
                .log()
                .add(
                        Optional.empty(),
                        Step.COPIES,
                        "vault-repaired",
                        "The vault was mended"
                                + other.map(from -> " from " + from).orElse(" from its own packs") + ": "
                                + repair.indexes() + " indexes, " + repair.chunks() + " chunks and " + repair.lists()
                                + " copies' files; " + repair.left().size() + " copies are still damaged.",
                        Optional.empty());
        return repair;
    }

    private Map<Path, String> onRecord() throws NotPossible {
        Map<Path, String> digests = new HashMap<>();
        for (Copies.Copy copy : workspace.copies().all()) {
            fileOf(copy);
            digests.put(Path.of(copy.file()), copy.sha256());
        }
        return digests;
    }

    /** A list that is another than the one on record says nothing of what the true one needs. */
    private void requireTrueLists(List<Path> going) throws IOException {
        for (Copies.Copy copy : workspace.copies().all()) {
            Path file = fileOf(copy);
            boolean list = CopyJob.isList(file) && Files.exists(file, LinkOption.NOFOLLOW_LINKS);
            Optional<String> fault =
                    list ? new RecordedFile(workbench, copy).fault(false, TransferWatch.NONE) : Optional.empty();
            if (fault.isPresent() && (!going.contains(file) || CopyManifest.isSound(file))) {
                throw new NotPossible(
                        fault.get() + " What the true one needs is not known, so nothing is taken out of the vault.");
            }
        }
    }
}
