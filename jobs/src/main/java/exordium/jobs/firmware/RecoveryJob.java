// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firmware;

import exordium.core.access.Ability;
import exordium.core.access.BoardState;
import exordium.core.block.BlockDevice;
import exordium.core.block.MediumException;
import exordium.core.block.TransferWatch;
import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.OrderDialect;
import exordium.core.filesystem.FileSystemException;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.Sentence;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.Channel;
import exordium.core.firmware.FirmwareBundle;
import exordium.core.firmware.FirmwareChip;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.firmware.FirmwareRelease;
import exordium.core.firmware.RecoveryCard;
import exordium.core.firmware.RecoverySet;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.FirmwareShelf;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.rehearsal.ScenarioFile;
import exordium.sim.StandInFirmware;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Cards that have a board's firmware chip written anew: made, and "run" on a virtual board. */
public final class RecoveryJob {
    private final Workbench workbench;

    public RecoveryJob(Workbench workbench) {
        this.workbench = workbench;
    }

    /**
     * What is to be on a card.
     *
     * @param order the start order the board has afterwards; empty for the factory's
     */
    public record Card(
            FirmwareRelease release,
            Map<String, byte[]> files,
            Optional<RecoverySet> set,
            Optional<String> order,
            List<String> steps) {
        /** What a file on it is for. */
        public RecoverySet.Part part(String file) {
            List<RecoverySet.Piece> pieces = files.entrySet().stream()
                    .map(each -> new RecoverySet.Piece(each.getKey(), RecoverySet.Part.OTHER, each.getValue()))
                    .toList();
            return set.orElseGet(() -> RecoverySet.of(pieces, Optional.empty())).files().stream()
                    .filter(each -> each.file().equals(file))
                    .map(RecoverySet.Piece::part)
                    .findFirst()
                    .orElse(RecoverySet.Part.OTHER);
        }
    }

    /** Whether a card can be made for a board: it is played here, or a set of its maker's is on the shelf. */
    public boolean possible(Workbench.BoardAtHand at) throws IOException {
        return at.profile().firmware().inChip()
                && (at.register().can(Ability.WRITE_CHIP) || newestSet(at).isPresent());
    }

    /** The newest set of its maker's on the shelf: of the board's channel where there is one, else of any. */
    public Optional<FirmwareShelf.ShelvedSet> newestSet(Workbench.BoardAtHand at) throws IOException {
        List<FirmwareShelf.ShelvedSet> sets =
                workbench.firmwareShelf().sets(at.profile().id(), new ArrayList<>());
        return sets.stream()
                .filter(each -> workbench
                        .firmware()
                        .find(at.profile().id(), each.version())
                        .filter(release -> at.register().channel().carries(release.channel()))
                        .isPresent())
                .reduce((first, last) -> last)
                .or(() -> sets.stream().reduce((first, last) -> last));
    }

    /**
     * What is to be on a card of the newest release there is a set of; of the channel's newest for a board that is played.
     *
     * @throws Refused as {@link #plan(Workbench.BoardAtHand, FirmwareRelease, Optional)}
     */
    public Card plan(Workbench.BoardAtHand at, Optional<String> order) throws IOException {
        Optional<FirmwareShelf.ShelvedSet> set = newestSet(at);
        if (!at.register().can(Ability.WRITE_CHIP)) {
            List<String> broken = new ArrayList<>();
            if (set.isEmpty()) {
                workbench.firmwareShelf().sets(at.profile().id(), broken);
            }
            if (!broken.isEmpty()) {
                throw new UnreadableInput(String.join(" ", broken));
            }
            if (set.isEmpty() && at.profile().firmware().inChip()) {
                throw noSet(at.profile(), Optional.empty());
            }
            LocalDate version = set.isPresent() ? set.get().version() : LocalDate.EPOCH;
            FirmwareRelease release = workbench
                    .firmware()
                    .find(at.profile().id(), version)
                    .orElse(new FirmwareRelease(List.of(at.profile().id()), version, Channel.DEFAULT, ""));
            return plan(at, release, order);
        }
        FirmwareRelease newest = workbench
                .firmware()
                .newest(at.profile().id(), at.register().channel())
                .orElseThrow(() -> new UnreadableInput(
                        "There is no release for a " + at.profile().id() + "."));
        return plan(at, newest, order);
    }

    private static Refused noSet(BoardProfile profile, Optional<LocalDate> version) {
        return new Refused(Finding.stop(
                "recovery-set-missing",
                "A recovery card for a real board is a set of its maker's: a program that writes the chip, the chip's image beside"
                        + " it, and its signature. None for a " + profile.id()
                        + version.map(date -> " of " + date).orElse("")
                        + " is on the shelf, and nothing was written. Take the maker's package, archive or folder onto it, with firmware"
                        + " shelf take, or stage the release at the board.",
                Basis.practice()));
    }

    /** A card of a maker's set: each file as it is, under its own name. */
    private Card ofSet(Workbench.BoardAtHand at, FirmwareRelease release, Optional<String> order) throws IOException {
        List<String> broken = new ArrayList<>();
        Optional<FirmwareShelf.ShelvedSet> shelved = workbench
                .firmwareShelf()
                .sets(at.profile().id(), broken)
                .stream()
                .filter(each -> each.version().equals(release.version()))
                .findFirst();
        if (shelved.isEmpty()) {
            if (!broken.isEmpty()) {
                throw new UnreadableInput(String.join(" ", broken));
            }
            throw noSet(at.profile(), Optional.of(release.version()));
        }
        if (order.filter(each -> !each.equals(at.profile().order().usual())).isPresent()) {
            throw new Refused(Finding.stop(
                    "recovery-order-by-set",
                    "A maker's recovery set decides itself which settings the board has afterwards, the factory's as a rule. Make the"
                            + " card without an order, and set it at the board when it runs again.",
                    Basis.practice()));
        }
        RecoverySet set = shelved.get().set();
        Refused.ifAnyStops(set.findings());
        Map<String, byte[]> files = new LinkedHashMap<>();
        set.files().forEach(each -> files.put(each.file(), each.content()));
        return new Card(
                release, files, Optional.of(set), Optional.empty(), steps(at.profile(), release, Optional.empty()));
    }

    /**
     * Puts one together.
     *
     * @throws UnreadableInput when this family has no chip
     * @throws Refused for a real board, whose maker's set is not here, and when the order cannot be used on this board with this release
     */
    public Card plan(Workbench.BoardAtHand at, FirmwareRelease release, Optional<String> order) throws IOException {
        BoardProfile profile = at.profile();
        Optional<FirmwareBundle> shelved = workbench.firmwareShelf().bundle(profile.id(), release.version());
        if (!at.register().can(Ability.WRITE_CHIP) && profile.firmware().inChip()) {
            return ofSet(at, release, order);
        }
        FirmwareBundle bundle = shelved.isPresent()
                ? shelved.get()
                : FirmwareBundle.of(release, StandInFirmware.of(release.version()), Optional.empty());
        Optional<FirmwareConfig> settings = Optional.empty();
        if (order.isPresent()) {
            Refused.ifAnyStops(OrderDialect.judge(profile, order.get(), release.version()));
            settings = Optional.of(
                    FirmwareConfig.factory(profile).with(profile.order().key(), order.get()));
        }
        RecoveryCard card = new RecoveryCard(bundle, settings);
        // Says so where this family has none.
        return new Card(release, card.files(profile), Optional.empty(), order, steps(profile, release, order));
    }

    private static List<String> steps(BoardProfile profile, FirmwareRelease release, Optional<String> order) {
        List<String> steps = new ArrayList<>();
        steps.add("Read off what the board shows now, if it shows anything: the date of its firmware and its order.");
        steps.add("Power off. Take every other drive out; put this card in.");
        steps.add(
                "Power last. It writes the chip by itself: steady blinking of the light, and a green screen, mean done.");
        steps.add("Power off, and take the card out, or it writes the chip again at every start.");
        steps.add("Put the drives back and switch it on: it runs " + release.version() + " with order "
                + order.orElse(profile.order().usual())
                + (order.isPresent() ? "" : ", the factory's; whatever else was set is gone") + ".");
        steps.add("Tell what it shows: the date of its firmware, and its order.");
        return steps;
    }

    /** Writes it to a drive, an image file or a virtual drive, and reads it back. */
    public WriteReport make(
            Workbench.BoardAtHand at, Card card, Targets reach, Path target, String typed, TransferWatch watch)
            throws IOException {
        return FreshCard.write(
                workbench,
                "recovery-" + at.profile().id() + "-" + card.release().version(),
                image -> RecoveryCard.image(card.files(), image),
                reach,
                target,
                typed,
                watch);
    }

    /** What a card did to a chip, as the logbook has it. */
    public record CameOf(String kind, String words) {}

    /**
     * What happens when power comes on at a virtual board with such a card in its slot.
     *
     * @return what came of it; empty where there is no such card in it, or none that can be read
     */
    public Optional<CameOf> powerOn(Workbench.BoardAtHand at) throws IOException {
        BoardProfile profile = at.profile();
        if (!profile.firmware().inChip()) {
            return Optional.empty();
        }
        for (BoardState.Plug plug : at.board().attached()) {
            boolean slot = profile.port(plug.port())
                    .filter(port -> port.source() == StartSource.CARD)
                    .isPresent();
            Path file = workbench.driveFile(plug.drive());
            if (!slot || !plug.seated() || !Files.isRegularFile(file)) {
                continue;
            }
            try (BlockDevice drive =
                    ScenarioFile.drive(workbench.reader(), file).open()) {
                Optional<RecoveryCard.Content> card =
                        RecoveryCard.read(drive, profile, workbench.firmware(), workbench.reader());
                if (card.isPresent()) {
                    return Optional.of(new CameOf("recovery-written", written(at, card.get())));
                }
            } catch (FileSystemException | MediumException e) {
                // The board makes nothing of such a card either; its start tells what becomes of it.
                return Optional.empty();
            } catch (UnreadableInput e) {
                return Optional.of(new CameOf("recovery-failed", Sentence.of(e)));
            }
        }
        return Optional.empty();
    }

    private String written(Workbench.BoardAtHand at, RecoveryCard.Content card) throws IOException {
        java.time.LocalDate release =
                card.release().map(FirmwareRelease::version).orElse(FirmwareChip.NOT_KNOWN);
        FirmwareConfig settings = card.settings().orElse(FirmwareConfig.factory(at.profile()));
        BoardState after = workbench.boards().deeds(at.register()).recover(release, card.payload(), settings);
        return "The card wrote the chip anew: it holds " + FirmwareChip.said(after.firmware()) + ", read back, with "
                + String.join(", ", after.chip().config().lines())
                + ". Steady blinking, green screen: take the card out.";
    }
}
