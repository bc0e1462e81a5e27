// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.judgement;

import exordium.core.quantity.ByteRate;
import exordium.core.quantity.Span;
import exordium.core.quantity.Watts;
import exordium.core.storage.judgement.StorageAssessment.Working;
import exordium.core.storage.media.LinkChain;
import exordium.core.storage.media.MediumKind;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;

/** Each figure of an assessment with its formula, what went in, and what that rests on. */
public final class Workings {
    private Workings() {}

    public static List<Working> of(
            StorageNeed need,
            MediumKind.Medium medium,
            Attachment way,
            LinkChain read,
            ByteRate random,
            Endurance life,
            Watts draw,
            Watts margin,
            double price) {
        Role role = need.role();
        Duration start =
                Duration.ofMillis(Math.round(need.startSeconds() * DriveShare.slowness(read.effective()) * 1000));
        String links = read.stages().stream()
                .map(stage -> stage.title() + " " + stage.ceiling().said())
                .collect(Collectors.joining(", "));
        String amplification = String.format(Locale.ROOT, "%.1f", role.habit().amplification());
        return List.of(
                new Working(
                        "room at the end",
                        "size - system - (data + growth x years)",
                        medium.size().said() + " - "
                                + need.wantedAtTheEnd()
                                        .minusOrZero(role.dataAtTheEnd())
                                        .said() + " - ("
                                + role.data().said() + " + " + role.growth().said() + " x " + role.years() + ") = "
                                + medium.size()
                                        .minusOrZero(need.wantedAtTheEnd())
                                        .said(),
                        "the real bytes"),
                new Working(
                        "sequential " + read.effective().said(),
                        "the least of all links",
                        links,
                        read.stages().size() > 1
                                ? way.links().get(way.links().size() - 1).source()
                                : "usual rate of its kind, common practice, no source"),
                new Working(
                        "random " + random.said(),
                        "operations x 4096 B, at most the sequential rate",
                        String.format(
                                        Locale.ROOT,
                                        "%.0f a second",
                                        medium.kind().readIops())
                                + (way.enclosure().isPresent()
                                        ? String.format(Locale.ROOT, " x %.1f behind USB", way.randomShare())
                                        : ""),
                        "usual figures of its kind, common practice, no source"),
                new Working(
                        "life " + years(life.mean()) + ", cautious " + years(life.cautious()),
                        "bears / (writes a day x amplification x 365)",
                        medium.bears().said() + " / (" + role.writesThatArrive().said() + " x " + amplification
                                + " x 365); cautious: 0.6 of the first, twice the amplification",
                        medium.ratedWrites().isPresent()
                                ? "its rating; amplification common practice, no source"
                                : "size x " + medium.kind().cycles() + " cycles, common practice, no source"),
                new Working(
                        "start about " + Span.said(start),
                        "usual start x (0.8 + 0.2 x 90 MB/s / rate)",
                        Span.said(Duration.ofMillis(Math.round(need.startSeconds() * 1000))) + ", "
                                + read.effective().said(),
                        "common practice, no source"),
                new Working(
                        "copying it about " + Span.said(read.effective().timeFor(need.wantedNow())),
                        "system and data / rate",
                        need.wantedNow().said() + " / " + read.effective().said(),
                        "the slowest link of the chain"),
                new Working(
                        "power left " + margin.said(),
                        "supply - board - medium",
                        need.supply().power().said() + " - "
                                + need.host().draw().said() + " - " + draw.said(),
                        need.supply().via().startsWith("poe") ? "IEEE 802.3, power at the device" : "volts x amps"),
                new Working(
                        String.format(
                                Locale.ROOT, "%.2f euros a year", price / Math.max(0.1, Math.min(10, life.mean()))),
                        "price / years, ten at the most",
                        String.format(Locale.ROOT, "%.0f euros / %.1f", price, Math.min(10, life.mean())),
                        "catalogue prices, common practice, no source"));
    }

    private static String years(double years) {
        return years >= Endurance.LONGEST ? "without end" : String.format(Locale.ROOT, "%.1f years", years);
    }
}
