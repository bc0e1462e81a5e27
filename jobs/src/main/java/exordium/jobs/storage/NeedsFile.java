// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.storage;

import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.finding.UnreadableInput;
import exordium.core.passage.PartsCatalogue;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Slips;
import exordium.core.storage.judgement.Role;
import exordium.core.storage.judgement.Setting;
import exordium.core.storage.judgement.StorageNeed;
import exordium.core.storage.judgement.StorageRules;
import exordium.core.storage.judgement.SystemKind;
import exordium.core.storage.judgement.WriteHabit;
import exordium.core.storage.media.KnownDrives;
import exordium.core.storage.media.MediaCatalogue;
import exordium.core.storage.media.MediumKind;
import exordium.core.storage.media.Supply;
import exordium.core.storage.media.Works;
import exordium.core.storage.plan.StorageChoice;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

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
    /** A size under this was meant in another unit. */
    private static final long LEAST_MEANT = 1_000_000;

    /** A medium in the drawer. */
    public record AtHand(
            String name,
            String kind,
            ByteSize size,
            Optional<Double> price,
            Optional<ByteSize> rated,
            Optional<ByteSize> written,
            Optional<ByteRate> readRate,
            Optional<ByteRate> writeRate) {}

    /** A question with everything it needs to be answered. */
    public record Question(StorageChoice choice, List<MediumKind.Medium> media, BoardProfile profile) {}

    /** @throws UnreadableInput with the name of what is wrong */
    public static Question read(ProfileReader reader, Path file, Path userProfiles, StorageRules rules)
            throws IOException {
        return read(reader, file, userProfiles, rules, Works.NONE);
    }

    /** The same with what was seen to work. */
    public static Question read(ProfileReader reader, Path file, Path userProfiles, StorageRules rules, Works works)
            throws IOException {
        NeedsFile needs = reader.user(file, SCHEMA, NeedsFile.class);
        needs.requireMeant(String.valueOf(file.getFileName()));
        BoardProfile profile =
                BoardProfiles.shipped().withFolder(reader, userProfiles).require(needs.profile());
        MediaCatalogue media = MediaCatalogue.shipped().withFolder(reader, userProfiles.resolve("media"));
        return needs.question(profile, media, rules, works);
    }

    public Question question(BoardProfile board, MediaCatalogue catalogue, StorageRules rules) throws UnreadableInput {
        return question(board, catalogue, rules, Works.NONE);
    }

    private Question question(BoardProfile board, MediaCatalogue catalogue, StorageRules rules, Works works)
            throws UnreadableInput {
        Supply given = supply.orElse(board.power().supply());
        List<StorageNeed.Socket> sockets = new ArrayList<>();
        for (StorageNeed.Socket socket : board.sockets()) {
            boolean carrier = !socket.lengths().isEmpty() && carrierLengths.isPresent();
            sockets.add(
                    carrier
                            ? new StorageNeed.Socket(
                                    socket.port(), socket.title(), socket.buses(), socket.link(), carrierLengths.get())
                            : socket.buyingCarrier(carrier()));
        }
        String size = memory.orElse(board.memory().get(0));
        long wanted = ByteSize.parse(size).bytes();
        boolean sold =
                board.memory().stream().anyMatch(each -> ByteSize.parse(each).bytes() == wanted);
        if (!sold) {
            throw new UnreadableInput("A " + board.id() + " comes with " + String.join(", ", board.memory())
                    + " of memory; \"" + size + "\" is none of them.");
        }
        given.requireFor(board.id(), board.power().supply());
        StorageNeed need = new StorageNeed(image, role(), given, board.host(given, size), rules, sockets);
        return new Question(
                new StorageChoice(need, catalogue.enclosures(), KnownDrives.NONE.with(works), board.id()),
                media(catalogue, board),
                board);
    }

    /** What a carrier costs in the parts' catalogue; a board whose carrier's lengths are said has one. */
    private static double carrier() {
        return PartsCatalogue.shipped().priceOf(PartsCatalogue.CARRIER);
    }

    private Role role() {
        Role role = Role.USUAL.withHoursADay(hoursADay.orElse(Role.USUAL.hoursADay()));
        role = role.withHabit(habit.orElse(role.habit()));
        // The habit's usual day is one of 24 hours; a day that somebody gave is taken as it is.
        ByteSize usual = ByteSize.of(Math.round(role.dailyWrites().bytes() * role.hoursADay() / 24));
        role = role.withSystem(system.orElse(role.system()))
                .withData(data.orElse(role.data()))
                .withGrowth(growth.orElse(role.growth()))
                .withDailyWrites(dailyWrites.orElse(usual))
                .withYears(years.orElse(role.years()))
                .withLostDays(lostDays.orElse(role.lostDays()));
        return role.withQuickStart(quickStart.orElse(role.quickStart()))
                .withBudget(budget.orElse(role.budget()))
                .withPortsNeeded(portsNeeded.orElse(role.portsNeeded()))
                .withSlotReachable(slotReachable.orElse(role.slotReachable()))
                .withOverlay(overlay.orElse(role.overlay()))
                .withLogsInMemory(logsInMemory.orElse(role.logsInMemory()))
                .withServer(server.orElse(role.server()))
                .withPlace(place.orElse(role.place()));
    }

    /** Sizes that nobody means, names that stand for two things: asked back, not guessed. */
    private void requireMeant(String name) throws UnreadableInput {
        requireLarge(name, "image", image);
        requireLarge(name, "data", data);
        requireLarge(name, "growth", growth);
        requireLarge(name, "dailyWrites", dailyWrites);
        Set<String> names = new HashSet<>();
        for (AtHand each : drawer.orElse(List.of())) {
            requireLarge(name, "size of " + each.name(), Optional.of(each.size()));
            if (!names.add(each.name())) {
                throw new UnreadableInput(name + ": two media of the drawer are called \"" + each.name()
                        + "\"; give each a name of its own.");
            }
        }
    }

    private static void requireLarge(String name, String field, Optional<ByteSize> size) throws UnreadableInput {
        if (size.filter(each -> each.bytes() > 0 && each.bytes() < LEAST_MEANT).isPresent()) {
            long bytes = size.get().bytes();
            throw new UnreadableInput(name + ": " + field + " is " + bytes + " bytes. Is " + bytes
                    + " GB meant? Write the unit with it.");
        }
    }

    /** What a board has soldered on is judged beside the drawer or the shops. */
    private List<MediumKind.Medium> media(MediaCatalogue catalogue, BoardProfile board) throws UnreadableInput {
        List<MediumKind.Medium> media = new ArrayList<>();
        boolean named =
                drawer.orElse(List.of()).stream().anyMatch(each -> each.kind().equals("emmc"));
        for (BoardProfile.Port port : board.ports()) {
            if (port.soldered().isPresent() && !named) {
                MediumKind kind = catalogue
                        .kind(port.soldered().get().kind())
                        .orElseThrow(() -> new UnreadableInput("The board's own storage is of no kind that is known."));
                media.add(new MediumKind.Medium(
                        port.id(),
                        port.title(),
                        kind,
                        port.soldered().get().size(),
                        Optional.empty(),
                        ByteSize.ZERO,
                        0));
            }
        }
        if (drawer.isEmpty()) {
            media.addAll(catalogue.offered());
            return media;
        }
        for (AtHand each : drawer.get()) {
            MediumKind kind = catalogue
                    .kind(each.kind())
                    .orElseThrow(() -> new UnreadableInput("There is no kind of medium \"" + each.kind() + "\""
                            + Slips.nearest(
                                            each.kind(),
                                            catalogue.kinds().stream()
                                                    .map(MediumKind::id)
                                                    .toList())
                                    .map(near -> "; did you mean \"" + near + "\"?")
                                    .orElse(".")));
            media.add(new MediumKind.Medium(
                    each.name(),
                    each.name(),
                    kind,
                    each.size(),
                    each.rated(),
                    each.written().orElse(ByteSize.ZERO),
                    each.price().orElse(0.0),
                    each.readRate(),
                    each.writeRate(),
                    Optional.empty()));
        }
        return media;
    }
}
