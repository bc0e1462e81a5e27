// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firststart;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import exordium.core.block.TransferWatch;
import exordium.core.board.BoardProfile;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.dialect.FirstStartPlan;
import exordium.core.firststart.intents.Intents;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.image.ImageFile;
import exordium.core.quantity.ByteSize;
import exordium.core.writing.WriteMode;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.TargetHistory;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.media.MediaRegister;
import exordium.jobs.writing.WriteJob;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Several cards from one image, each its own board: written from one reading of the image, then each given its own name, address,
 * keys and identity, so that no two are twins.
 */
public final class CardBatch {
    private final Workbench workbench;
    private final Targets targets;
    private final FirstStartJob job;

    public CardBatch(Workbench workbench, Targets targets) {
        this.workbench = workbench;
        this.targets = targets;
        this.job = new FirstStartJob(workbench);
    }

    /** A list of cards from a file. @throws UnreadableInput with the file's name and the place in it */
    public Batch read(Path file) throws IOException {
        return BatchFile.read(workbench, file);
    }

    /**
     * What is wanted.
     *
     * @param image empty where the cards are written already
     * @param common what all of them share
     */
    public record Batch(BoardProfile profile, Optional<Path> image, JsonNode common, List<Card> cards) {
        /** Names of the drives it writes to. */
        public Set<String> drives() {
            return cards.stream()
                    .map(card -> String.valueOf(card.target().getFileName()))
                    .collect(Collectors.toSet());
        }
    }

    /**
     * One card.
     *
     * @param confirm the target's own name, typed
     * @param board the one of the register it is for
     * @param label what is written on it
     */
    public record Card(
            Path target,
            String confirm,
            Optional<String> board,
            String hostName,
            Optional<String> address,
            List<String> keys,
            Optional<String> label) {
        public Card {
            keys = keys == null ? List.of() : List.copyOf(keys);
        }

        /** Whom it is for, in the words of whoever planned it. */
        String whose() {
            return board.orElse(hostName);
        }
    }

    /** What became of one card. */
    public record Made(
            Card card, Optional<String> address, Optional<String> diskId, String verdict, List<Finding> findings) {
        public boolean good() {
            return verdict.equals("ready") || verdict.equals("planned");
        }
    }

    /** What all share with what is this card's own; always with an identity of its own. */
    Intents intents(Batch batch, Card card) throws UnreadableInput {
        ObjectNode fields = batch.common().deepCopy();
        fields.put("hostName", card.hostName());
        fields.put("ownIdentity", true);
        if (card.address().isPresent()) {
            ObjectNode network =
                    fields.path("network") instanceof ObjectNode there ? there : fields.putObject("network");
            if (!network.has("kind") || network.path("kind").asText().equals("automatic")) {
                network.put("kind", card.address().get().startsWith("169.254.") ? "straight-cable" : "fixed");
            }
            network.put("address", card.address().get());
        }
        if (!card.keys().isEmpty()) {
            if (!(fields.path("account") instanceof ObjectNode account)) {
                throw new UnreadableInput(
                        "keys of " + card.hostName() + " have no account to go to; name one for all cards.");
            }
            card.keys().forEach(account.withArray("keys")::add);
        }
        return IntentsReader.read(fields);
    }

    /** What stands against the batch as a whole, worst first; nothing is touched. */
    public List<Finding> check(Batch batch) throws IOException {
        List<Finding> findings = new ArrayList<>();
        Map<String, String> seen = new HashMap<>();
        for (Card card : batch.cards()) {
            Intents intents = intents(batch, card);
            once(seen, "target", card.target().toAbsolutePath().normalize().toString(), card, findings);
            once(seen, "name", card.hostName().toLowerCase(java.util.Locale.ROOT), card, findings);
            Optional<String> address =
                    Neighbours.neighbour(card.whose(), intents).address();
            if (address.isPresent()) {
                once(seen, "address", address.get(), card, findings);
            }
            if (card.board().isPresent()) {
                workbench.workspace().boards().require(card.board().get());
                once(seen, "board", card.board().get(), card, findings);
            }
        }
        return Finding.worstFirst(findings);
    }

    private static void once(Map<String, String> seen, String what, String value, Card card, List<Finding> findings) {
        String other = seen.putIfAbsent(what + " " + value, card.hostName());
        if (other != null) {
            findings.add(Finding.stop(
                    what + "-clash",
                    "Two cards of this batch have the " + what + " " + value + ": " + other + " and " + card.hostName()
                            + ".",
                    Basis.computed("the list of cards")));
        }
    }

    /** What would be done to each card, from what is on it now; nothing is. */
    public List<Made> plan(Batch batch) throws IOException {
        Refused.ifAnyStops(check(batch));
        List<Made> planned = new ArrayList<>();
        for (Card card : batch.cards()) {
            Intents intents = intents(batch, card);
            List<Finding> findings = new ArrayList<>();
            if (batch.image().isEmpty()) {
                FirstStartPlan plan = job.plan(order(batch, card, intents));
                findings.addAll(plan.findings());
            }
            planned.add(new Made(
                    card,
                    Neighbours.neighbour(card.whose(), intents).address(),
                    Optional.empty(),
                    "planned",
                    findings));
        }
        return planned;
    }

    private FirstStartJob.Order order(Batch batch, Card card, Intents intents) throws IOException {
        return new FirstStartJob.Order(
                targets.at(card.target(), ByteSize.ZERO), batch.profile(), intents, card.board());
    }

    /**
     * Does it. A card that fails does not stop the others; each tells its own verdict.
     *
     * @throws Refused when the list does not hold together, or a target may not be written; nothing was touched
     */
    public List<Made> run(Batch batch, TransferWatch watch) throws IOException {
        Refused.ifAnyStops(check(batch));
        List<String> failed = new ArrayList<>();
        if (batch.image().isPresent()) {
            failed.addAll(write(batch, watch));
        }
        List<Made> made = new ArrayList<>();
        for (int i = 0; i < batch.cards().size(); i++) {
            Card card = batch.cards().get(i);
            String fault = batch.image().isPresent() ? failed.get(i) : "";
            made.add(fault.isEmpty() ? setUp(batch, card) : failed(batch, card, fault));
        }
        return made;
    }

    /** Written as many at a time as one reading serves; for each card what went wrong with it, empty where nothing did. */
    private List<String> write(Batch batch, TransferWatch watch) throws IOException {
        ImageFile image = ImageFile.open(batch.image().orElseThrow());
        List<Path> paths = batch.cards().stream().map(Card::target).toList();
        ByteSize size = WriteJob.sizeOf(WriteJob.bounded(image, targets, paths), watch);
        List<WriteJob.Order> orders = new ArrayList<>();
        for (Card card : batch.cards()) {
            Targets.Target target = new TargetHistory(workbench).known(targets.at(card.target(), size));
            WritePlan plan = WritePlan.of(
                    image,
                    size,
                    target.description(),
                    new WritePlan.Options(WriteMode.WHOLE, true, false, Optional.empty()),
                    card.confirm());
            Refused.ifAnyStops(plan.findings());
            orders.add(new WriteJob.Order(
                    plan,
                    target,
                    card.board(),
                    orders.size() % WriteJob.MOST_TARGETS == 0 ? watch : TransferWatch.NONE));
        }
        List<String> faults = new ArrayList<>();
        for (int from = 0; from < orders.size(); from += WriteJob.MOST_TARGETS) {
            List<WriteJob.Order> part = orders.subList(from, Math.min(orders.size(), from + WriteJob.MOST_TARGETS));
            for (WriteReport report : WriteJob.runAll(workbench, part)) {
                faults.add(report.verdict().good() ? "" : report.sentence());
            }
        }
        return faults;
    }

    private Made setUp(Batch batch, Card card) throws IOException {
        Intents intents = intents(batch, card);
        try {
            FirstStartJob.Order order = order(batch, card, intents);
            FirstStartPlan plan = job.apply(order);
            List<Finding> findings = new ArrayList<>(plan.findings());
            label(card, order.target()).ifPresent(findings::add);
            return new Made(
                    card,
                    Neighbours.neighbour(card.whose(), intents).address(),
                    plan.identifier().map(id -> id.text()),
                    "ready",
                    findings);
        } catch (UnreadableInput | NotPossible | Refused e) {
            return failed(batch, card, e.getMessage());
        }
    }

    private Made failed(Batch batch, Card card, String why) throws UnreadableInput {
        return new Made(
                card,
                Neighbours.neighbour(card.whose(), intents(batch, card)).address(),
                Optional.empty(),
                "failed",
                List.of(Finding.stop("card-failed", why, Basis.computed("the run"))));
    }

    /** The register's own rules for labels hold; one it does not take spoils no card. */
    private Optional<Finding> label(Card card, Targets.Target target) {
        Optional<Media.Medium> medium = workbench.registered(target);
        if (medium.isPresent() && card.label().isPresent()) {
            try {
                new MediaRegister(workbench).label(medium.get(), card.label().get());
            } catch (UnreadableInput e) {
                return Optional.of(Finding.caution("label-not-kept", e.getMessage(), Basis.computed("the register")));
            }
        }
        return Optional.empty();
    }
}
