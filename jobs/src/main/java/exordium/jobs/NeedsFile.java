// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.finding.UnreadableInput;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.KnownDrives;
import exordium.core.storage.MediaCatalogue;
import exordium.core.storage.MediumKind;
import exordium.core.storage.Role;
import exordium.core.storage.Setting;
import exordium.core.storage.StorageChoice;
import exordium.core.storage.StorageNeed;
import exordium.core.storage.StorageRules;
import exordium.core.storage.Supply;
import exordium.core.storage.SystemKind;
import exordium.core.storage.WriteHabit;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** What a board needs, described in a file (docs/formats/requests.md); what is left out has its usual value. */
public record NeedsFile(
        String profile,
        Optional<String> memory,
        Optional<ByteSize> image,
        Optional<SystemKind> system,
        Optional<ByteSize> data,
        Optional<ByteSize> growth,
        Optional<WriteHabit> habit,
        Optional<ByteSize> dailyWrites,
        Optional<Integer> years,
        Optional<Integer> lostDays,
        Optional<Boolean> quickStart,
        Optional<Double> budget,
        Optional<Integer> portsNeeded,
        Optional<Boolean> slotReachable,
        Optional<Boolean> overlay,
        Optional<Boolean> logsInMemory,
        Optional<Boolean> server,
        Optional<Double> hoursADay,
        Optional<Setting> place,
        Optional<List<Integer>> carrierLengths,
        Optional<List<AtHand>> drawer,
        Optional<Supply> supply) {
    private static final String SCHEMA = "/exordium/profiles/needs.schema.json";

    /** A medium in the drawer. */
    public record AtHand(
            String name,
            String kind,
            ByteSize size,
            Optional<Double> price,
            Optional<ByteSize> rated,
            Optional<ByteSize> written) {}

    /** A question with everything it needs to be answered. */
    public record Question(StorageChoice choice, List<MediumKind.Medium> media, BoardProfile profile) {}

    /** @throws UnreadableInput with the name of what is wrong */
    public static Question read(ProfileReader reader, Path file, Path userProfiles, StorageRules rules)
            throws IOException {
        NeedsFile needs = reader.user(file, SCHEMA, NeedsFile.class);
        BoardProfile profile =
                BoardProfiles.shipped(reader).withFolder(reader, userProfiles).require(needs.profile());
        MediaCatalogue media = MediaCatalogue.shipped(reader).withFolder(reader, userProfiles.resolve("media"));
        return needs.question(profile, media, rules);
    }

    Question question(BoardProfile board, MediaCatalogue catalogue, StorageRules rules) throws UnreadableInput {
        Supply given = supply.orElse(board.power().supply());
        List<StorageNeed.Socket> sockets = new ArrayList<>();
        for (StorageNeed.Socket socket : board.sockets()) {
            boolean carrier = !socket.lengths().isEmpty() && carrierLengths.isPresent();
            sockets.add(
                    carrier
                            ? new StorageNeed.Socket(
                                    socket.port(), socket.title(), socket.buses(), socket.link(), carrierLengths.get())
                            : socket);
        }
        StorageNeed need = new StorageNeed(
                image,
                role(),
                given,
                board.host(given, memory.orElse(board.memory().get(0))),
                rules,
                sockets);
        return new Question(
                new StorageChoice(need, catalogue.enclosures(), KnownDrives.NONE, board.id()), media(catalogue), board);
    }

    private Role role() {
        Role role = Role.USUAL.withHabit(habit.orElse(Role.USUAL.habit()));
        role = role.withSystem(system.orElse(role.system()))
                .withData(data.orElse(role.data()))
                .withGrowth(growth.orElse(role.growth()))
                .withDailyWrites(dailyWrites.orElse(role.dailyWrites()))
                .withYears(years.orElse(role.years()))
                .withLostDays(lostDays.orElse(role.lostDays()));
        return role.withQuickStart(quickStart.orElse(role.quickStart()))
                .withBudget(budget.orElse(role.budget()))
                .withPortsNeeded(portsNeeded.orElse(role.portsNeeded()))
                .withSlotReachable(slotReachable.orElse(role.slotReachable()))
                .withOverlay(overlay.orElse(role.overlay()))
                .withLogsInMemory(logsInMemory.orElse(role.logsInMemory()))
                .withServer(server.orElse(role.server()))
                .withHoursADay(hoursADay.orElse(role.hoursADay()))
                .withPlace(place.orElse(role.place()));
    }

    private List<MediumKind.Medium> media(MediaCatalogue catalogue) throws UnreadableInput {
        if (drawer.isEmpty()) {
            return catalogue.offered();
        }
        List<MediumKind.Medium> media = new ArrayList<>();
        for (AtHand each : drawer.get()) {
            MediumKind kind = catalogue
                    .kind(each.kind())
                    .orElseThrow(() -> new UnreadableInput("There is no kind of medium \"" + each.kind() + "\"."));
            media.add(new MediumKind.Medium(
                    each.name(),
                    each.name(),
                    kind,
                    each.size(),
                    each.rated(),
                    each.written().orElse(ByteSize.ZERO),
                    each.price().orElse(0.0)));
        }
        return media;
    }
}
