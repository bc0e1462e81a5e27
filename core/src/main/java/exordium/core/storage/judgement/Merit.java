// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.judgement;

import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Watts;
import exordium.core.storage.judgement.StorageAssessment.MeritPart;
import exordium.core.storage.media.MediumKind;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Weighs what speaks for a medium. Life weighs more where much is written, speed where somebody waits for it, price where
 * neither matters. Weights: common practice, no source; the budget has none, so more money never makes the best worse.
 */
public final class Merit {
    /** Euros at which the price counts half. */
    private static final double HALF_PRICE = 30;
    /** Random megabytes a second between which speed is felt. */
    private static final double SLOW = 2;

    private static final double QUICK = 300;
    /** How much small accesses count among all that is read; the rest is read in a row. */
    private static final double AT_RANDOM = 0.7;

    private static final double UNFELT = 0.12;
    private static final double SPARE_PORT = 0.85;
    private static final double COMFORTABLE_WATTS = 3;
    private static final double LITTLE = 0.12;
    private static final double LASTING = 0.45;
    private static final double REPLACED = 0.08;
    /** What each caution costs. */
    private static final double CAUTION = 0.06;

    private Merit() {}

    public static List<MeritPart> parts(
            StorageNeed need,
            Attachment way,
            Endurance life,
            ByteRate random,
            ByteRate inARow,
            double price,
            ByteSize headroom,
            Watts margin,
            MediumKind.Medium medium) {
        Role role = need.role();
        boolean felt = role.quickStart() || role.system().feelsSpeed() || role.habit() == WriteHabit.DATABASE;
        List<MeritPart> parts = new ArrayList<>();
        double years = Math.min(1, life.cautious() / role.years());
        parts.add(new MeritPart(
                "life",
                years,
                lifeWeight(need),
                () -> life.cautious() >= Endurance.LONGEST
                        ? "no end to its life in sight"
                        : String.format(
                                Locale.ROOT,
                                "%.1f years even in the cautious case, %d wanted",
                                life.cautious(),
                                role.years())));
        double rate =
                Math.pow(random.megabytesPerSecond(), AT_RANDOM) * Math.pow(inARow.megabytesPerSecond(), 1 - AT_RANDOM);
        double speed = Math.max(0, Math.min(1, Math.log(rate / SLOW) / Math.log(QUICK / SLOW)));
        parts.add(new MeritPart(
                "speed",
                speed,
                felt ? 0.5 : UNFELT,
                () -> String.format(Locale.ROOT, "%.0f MB/s at random", random.megabytesPerSecond())));
        parts.add(new MeritPart(
                "price",
                1 / (1 + price / HALF_PRICE),
                felt ? LITTLE : priceWeight(need.rules().reliability()),
                () -> price == 0 ? "owned already" : String.format(Locale.ROOT, "%.0f euros", price)));
        double room =
                headroom.bytes() / (double) Math.max(1, need.wantedAtTheEnd().bytes());
        parts.add(new MeritPart(
                "room", Math.min(1, room), 0.12, () -> headroom.said() + " left after " + role.years() + " years"));
        boolean shutIn = medium.kind().bus().equals("sd") && !role.slotReachable();
        parts.add(
                new MeritPart("reach", shutIn ? 0 : 1, 0.12, () -> shutIn ? "shut in with the slot" : "can be got at"));
        parts.add(new MeritPart(
                "ports",
                way.onFastUsb() ? (spare(need) ? SPARE_PORT : 0.3) : 1,
                0.08,
                () -> way.onFastUsb() ? "costs a fast USB port" : "leaves the USB ports free"));
        parts.add(new MeritPart(
                "power",
                Math.max(0, Math.min(1, margin.value() / COMFORTABLE_WATTS)),
                0.1,
                () -> margin.said() + " to spare"));
        return parts;
    }

    /** Nothing else wants the fast USB ports, and there is more than one. */
    private static boolean spare(StorageNeed need) {
        return need.role().portsNeeded() == 0
                && need.sockets().stream().filter(StorageNeed.Socket::fastUsb).count() > 1;
    }

    /** Life weighs more where records are kept; by house rule everywhere, or little, since a copy lies ready. */
    private static double lifeWeight(StorageNeed need) {
        return switch (need.rules().reliability()) {
            case SSD -> LASTING;
            case COPIES -> REPLACED;
            case BY_ROLE, READ_ONLY -> need.role().habit().records() ? LASTING : 0.2;
        };
    }

    private static double priceWeight(Reliability reliability) {
        return switch (reliability) {
            case SSD -> LITTLE;
            case COPIES -> 0.6;
            case BY_ROLE, READ_ONLY -> 0.4;
        };
    }

    public static double of(List<MeritPart> parts, long cautions) {
        double weights = parts.stream().mapToDouble(MeritPart::weight).sum();
        double sum = parts.stream().mapToDouble(MeritPart::counts).sum();
        return Math.max(0, sum / weights - CAUTION * cautions);
    }
}
