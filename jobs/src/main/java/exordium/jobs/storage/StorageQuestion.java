// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.storage;

import exordium.core.access.BoardState;
import exordium.core.board.BoardProfile;
import exordium.core.passage.PartsCatalogue;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.judgement.Role;
import exordium.core.storage.judgement.StorageAssessment;
import exordium.core.storage.judgement.StorageNeed;
import exordium.core.storage.media.MediumKind;
import exordium.core.storage.media.Supply;
import exordium.core.storage.plan.HousePlan;
import exordium.core.storage.plan.StorageChoice;
import exordium.core.storage.plan.WhatIf;
import exordium.jobs.bench.MediaHealth;
import exordium.jobs.bench.RegisterSnapshot;
import exordium.jobs.bench.Workbench;
import exordium.store.Boards;
import exordium.store.Media;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Which medium for a board of the register: what it needs, and what is at hand for it. */
public final class StorageQuestion {
    private final Workbench workbench;

    public StorageQuestion(Workbench workbench) {
        this.workbench = workbench;
    }

    /** The role as its user described it; else what the register tells of it, and the rest as usual. */
    public Role role(Workbench.BoardAtHand at) {
        return workbench.workspace().roles().of(at.register().id()).orElseGet(() -> Role.USUAL
                .withDailyWrites(at.register().dailyWrites())
                .withSlotReachable(at.register().slotReachable())
                .withOverlay(at.board().overlay()));
    }

    /** Where image: what will be written, to the end of its last partition. */
    public StorageChoice choice(Workbench.BoardAtHand at, Role role, Optional<ByteSize> image) {
        StorageNeed need = new StorageNeed(
                image,
                role,
                at.board().supply(),
                at.profile().host(at.board().supply(), at.board().memory()),
                workbench.rules().storageRules(),
                sockets(at));
        return new StorageChoice(
                need,
                workbench.media().enclosures(),
                workbench.records().knownDrives(),
                at.profile().id());
    }

    /** A carrier of the board's own takes other lengths than the one its family usually has. */
    private static List<StorageNeed.Socket> sockets(Workbench.BoardAtHand at) {
        List<Integer> own =
                at.board().carrier().map(BoardState.Carrier::lengths).orElse(List.of());
        return at.profile().sockets().stream()
                .map(socket -> own.isEmpty() || socket.lengths().isEmpty()
                        ? socket.buyingCarrier(
                                at.board().carrier().isPresent()
                                        ? 0
                                        : PartsCatalogue.shipped().priceOf(PartsCatalogue.CARRIER))
                        : new StorageNeed.Socket(socket.port(), socket.title(), socket.buses(), socket.link(), own))
                .toList();
    }

    /** What lies in the drawer, and what is in the board now; media of other boards are not up for choice. */
    public List<MediumKind.Medium> candidates(Workbench.BoardAtHand at) throws IOException {
        Map<String, Boards.Board> service = workbench.inService();
        service.values().removeIf(board -> board.id().equals(at.register().id()));
        return free(service.keySet());
    }

    /** The media of the house that are here and not among those drives. */
    private List<MediumKind.Medium> free(Set<String> drives) throws IOException {
        List<MediumKind.Medium> free = new ArrayList<>();
        MediaHealth health = MediaHealth.of(workbench);
        Map<String, Boards.Board> service = workbench.inService();
        for (Media.Listed each : workbench.workspace().media().listed()) {
            Media.Medium medium = each.medium();
            if (each.details().state() == Media.State.HERE && !drives.contains(medium.file())) {
                free.add(health.candidate(each, Optional.ofNullable(service.get(medium.file()))));
            }
        }
        return free;
    }

    /** What would have to change for another medium to come first at this board. */
    public static WhatIf whatIf(StorageChoice choice, List<MediumKind.Medium> media, BoardProfile profile) {
        Supply madeFor = profile.power().supply();
        return new WhatIf(choice, media, madeFor, profile.power().usbAllowance(madeFor));
    }

    public List<StorageAssessment> ranked(Workbench.BoardAtHand at, Optional<ByteSize> image) throws IOException {
        return choice(at, role(at), image).rank(candidates(at));
    }

    /** Storage for every board of the register together, from the drawer and from what shops have. */
    public HousePlan house() throws IOException {
        List<HousePlan.Case> cases = new ArrayList<>();
        RegisterSnapshot record = RegisterSnapshot.of(workbench);
        MediaHealth health = MediaHealth.of(workbench, record);
        for (Boards.Board board : record.boards()) {
            Workbench.BoardAtHand at = workbench.atHand(board);
            Optional<MediumKind.Medium> current = Optional.empty();
            Optional<Media.Medium> medium = Workbench.mainMedium(at, record.media());
            if (medium.isPresent()) {
                current = Optional.of(health.candidate(record.listed(medium.get()), Optional.of(board)));
            }
            cases.add(new HousePlan.Case(board.id(), board.name(), choice(at, role(at), Optional.empty()), current));
        }
        return HousePlan.of(
                cases, free(workbench.inService().keySet()), workbench.media().offered());
    }
}
