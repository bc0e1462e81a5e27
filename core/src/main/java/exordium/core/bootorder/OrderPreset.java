// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.finding.UnreadableInput;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/**
 * A start order people choose, with what speaks for it; common practice, no source. Both schools are right, the card first and the
 * drive first: it depends on whether the slot can be reached.
 *
 * @param value as the board stores it
 */
public record OrderPreset(String id, String title, List<StartSource> sources, String value, String reason) {
    private static final List<StartSource> FASTEST = List.of(StartSource.NVME, StartSource.EMMC, StartSource.USB);

    /**
     * Those that make sense for a family.
     *
     * @param plugged places with a drive in them: these count first
     */
    public static List<OrderPreset> of(BoardProfile profile, Set<StartSource> plugged) {
        OrderDialect dialect = OrderDialect.of(profile);
        Set<StartSource> there = new LinkedHashSet<>(dialect.available());
        List<OrderPreset> presets = new ArrayList<>();
        List<StartSource> drives = FASTEST.stream()
                .filter(there::contains)
                .sorted(Comparator.comparing((StartSource source) -> !plugged.contains(source)))
                .toList();
        boolean ends = there.contains(StartSource.RESTART);
        List<StartSource> end = ends ? List.of(StartSource.RESTART) : List.of();
        boolean card = there.contains(StartSource.CARD);
        if (card && !drives.isEmpty()) {
            put(
                    presets,
                    dialect,
                    "card-first",
                    "Card first",
                    joined(List.of(StartSource.CARD), drives, end),
                    "A card in the slot always wins: the rescue way in stays open, where the slot can be reached.");
        }
        if (card && !drives.isEmpty() && profile.order().fuse().isEmpty()) {
            List<StartSource> others = drives.subList(1, drives.size());
            put(
                    presets,
                    dialect,
                    "drive-first",
                    drives.get(0).word() + " first",
                    joined(List.of(drives.get(0)), List.of(StartSource.CARD), others, end),
                    "Starts sooner, and a forgotten card does no harm; for a box whose slot is shut in.");
            put(
                    presets,
                    dialect,
                    "drive-alone",
                    drives.get(0).word() + " alone",
                    joined(List.of(drives.get(0)), ends ? List.of(StartSource.STOP) : List.of()),
                    "Nothing a visitor plugs in is ever started; without its drive the board stops with its pattern.");
        }
        if (card && profile.order().fuse().isPresent()) {
            put(
                    presets,
                    dialect,
                    "card-alone",
                    "Card alone",
                    List.of(StartSource.CARD),
                    "As it comes: the bit is not set, and nothing but a card is ever tried.");
        }
        if (there.contains(StartSource.NETWORK) && profile.order().fuse().isEmpty()) {
            put(
                    presets,
                    dialect,
                    "network-first",
                    "Network first",
                    joined(List.of(StartSource.NETWORK), card ? List.of(StartSource.CARD) : drives, end),
                    "The server decides, and a card is the way out when it does not answer; that wait comes before every start.");
        }
        return List.copyOf(presets);
    }

    @SafeVarargs
    private static List<StartSource> joined(List<StartSource>... parts) {
        List<StartSource> all = new ArrayList<>();
        for (List<StartSource> part : parts) {
            all.addAll(part);
        }
        return all;
    }

    private static void put(
            List<OrderPreset> presets,
            OrderDialect dialect,
            String id,
            String title,
            List<StartSource> sources,
            String reason) {
        try {
            presets.add(new OrderPreset(id, title, List.copyOf(sources), dialect.encode(sources), reason));
        } catch (UnreadableInput e) {
            // This family cannot hold it.
            return;
        }
    }
}
