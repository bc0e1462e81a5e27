// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.storage;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.judgement.Role;
import exordium.core.storage.judgement.RoleFindings;
import exordium.core.storage.judgement.StorageAssessment;
import exordium.core.storage.judgement.StorageNeed;
import exordium.core.storage.media.MediumKind;
import exordium.core.storage.media.Wear;
import exordium.core.storage.plan.SideBySide;
import exordium.core.storage.plan.StorageChoice;
import exordium.core.storage.plan.WhatIf;
import exordium.jobs.storage.StorageQuestion;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;

/** A choice of storage being made: the role as it is moved, what is up for choice, the one that is looked at. */
public final class StorageDraft {
    private final StorageModel model;
    private final List<MediumKind.Medium> offered;
    private Role role;
    private Optional<ByteSize> image = Optional.empty();
    private boolean shops;
    private Optional<String> chosen = Optional.empty();
    private Optional<String> beside = Optional.empty();
    private List<StorageAssessment> ranked = List.of();

    public StorageDraft(StorageModel model) {
        this.model = model;
        this.offered = model.offered();
        this.role = model.choice().need().role();
    }

    public Role role() {
        return role;
    }

    public void role(Role moved) {
        role = moved;
    }

    public void image(Optional<ByteSize> least) {
        image = least;
    }

    /** Whether what shops have is up for choice beside what is at hand. */
    public void shops(boolean too) {
        shops = too;
    }

    public void choose(String medium) {
        chosen = Optional.of(medium);
        if (beside.equals(chosen)) {
            beside = Optional.empty();
        }
    }

    public void beside(String medium) {
        beside = Optional.ofNullable(medium)
                .filter(each -> !chosen.filter(each::equals).isPresent());
    }

    /** Ranks anew; the one looked at stays, as long as it is up for choice. */
    public List<StorageAssessment> rank() {
        ranked = choice().rank(media());
        if (chosen.flatMap(this::find).isEmpty()) {
            chosen = model.board()
                    .medium()
                    .filter(medium -> !Wear.out(medium.worn()))
                    .map(medium -> medium.id())
                    .filter(id -> find(id).isPresent())
                    .or(() -> ranked.stream().findFirst().map(each -> each.medium()
                            .id()));
        }
        return ranked;
    }

    public Optional<StorageAssessment> chosen() {
        return chosen.flatMap(this::find);
    }

    /** The one beside it; where none was named, the best of the others. */
    public Optional<StorageAssessment> besideIt() {
        return beside.flatMap(this::find).or(() -> ranked.stream()
                .filter(each -> !chosen.filter(each.medium().id()::equals).isPresent())
                .findFirst());
    }

    public Optional<SideBySide> comparison() {
        return chosen().flatMap(one -> besideIt().map(other -> SideBySide.of(one, other)));
    }

    public List<StorageAssessment> ranked() {
        return ranked;
    }

    public StorageNeed need() {
        return choice().need();
    }

    /** What is to be said of the one looked at and of the role. */
    public List<Finding> advice() {
        return advice(Optional.empty());
    }

    /** The same with what would make it come first, as {@link #whatIf} found it. */
    public List<Finding> advice(Optional<String> wins) {
        List<Finding> findings = new ArrayList<>();
        chosen().ifPresent(one -> findings.addAll(one.findings()));
        wins.ifPresent(words ->
                findings.add(Finding.note("would-win-if", words, Basis.computed("the whole choice, tried again"))));
        findings.addAll(RoleFindings.of(need()));
        return Finding.worstFirst(findings);
    }

    /** The question what would make the one looked at come first, as things are now; its answer may be worked out elsewhere. */
    public Supplier<Optional<String>> whatIf() {
        WhatIf asked = asked();
        Optional<String> one = chosen().map(each -> each.medium().id());
        return () -> one.flatMap(asked::wins);
    }

    private WhatIf asked() {
        return StorageQuestion.whatIf(choice(), media(), model.board().at().profile());
    }

    private Optional<StorageAssessment> find(String id) {
        return ranked.stream().filter(each -> each.medium().id().equals(id)).findFirst();
    }

    private StorageChoice choice() {
        StorageChoice asRead = model.choice();
        return asRead.with(asRead.need().with(role).withImage(image));
    }

    private List<MediumKind.Medium> media() {
        List<MediumKind.Medium> media = new ArrayList<>(model.candidates());
        if (shops) {
            media.addAll(offered);
        }
        return media;
    }
}
