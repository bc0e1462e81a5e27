// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.plan;

import exordium.core.storage.judgement.Endurance;
import exordium.core.storage.judgement.StorageAssessment;
import exordium.core.storage.judgement.StorageNeed;
import java.util.List;
import java.util.Locale;

/** Two media side by side, figure by figure, with the better one of each. */
public record SideBySide(List<Row> rows) {

    /** One figure of both; better: negative for the first, positive for the second, 0 where they are equal. */
    public record Row(String figure, String first, String second, int better) {}

    public static SideBySide of(StorageAssessment a, StorageAssessment b) {
        return new SideBySide(List.of(
                row("merit", number(a.merit(), 2), number(b.merit(), 2), Double.compare(b.merit(), a.merit())),
                row(
                        "sequential",
                        a.effectiveRead().said(),
                        b.effectiveRead().said(),
                        b.effectiveRead().compareTo(a.effectiveRead())),
                row(
                        "random",
                        a.randomRead().said(),
                        b.randomRead().said(),
                        b.randomRead().compareTo(a.randomRead())),
                row("start", seconds(a), seconds(b), a.startTime().compareTo(b.startTime())),
                row(
                        "life, mean",
                        years(a.enduranceYears()),
                        years(b.enduranceYears()),
                        Double.compare(b.enduranceYears(), a.enduranceYears())),
                row(
                        "life, cautious",
                        years(a.cautiousYears()),
                        years(b.cautiousYears()),
                        Double.compare(b.cautiousYears(), a.cautiousYears())),
                row(
                        "room at the end",
                        a.headroomAtTheEnd().said(),
                        b.headroomAtTheEnd().said(),
                        b.headroomAtTheEnd().compareTo(a.headroomAtTheEnd())),
                row("draws", a.draw().said(), b.draw().said(), a.draw().compareTo(b.draw())),
                row("price", euros(a.price()), euros(b.price()), Double.compare(a.price(), b.price())),
                row(
                        "price a year",
                        number(a.pricePerYear(), 2) + " euros",
                        number(b.pricePerYear(), 2) + " euros",
                        Double.compare(a.pricePerYear(), b.pricePerYear())),
                row("goes in", place(a), place(b), 0)));
    }

    private static Row row(String figure, String first, String second, int better) {
        return new Row(figure, first, second, first.equals(second) ? 0 : Integer.signum(better));
    }

    private static String number(double value, int decimals) {
        return String.format(Locale.ROOT, "%." + decimals + "f", value);
    }

    private static String seconds(StorageAssessment each) {
        return number(each.startTime().toMillis() / 1000.0, 1) + " s";
    }

    private static String years(double years) {
        return years >= Endurance.LONGEST ? "no end in sight" : number(years, 1) + " years";
    }

    private static String euros(double price) {
        return price == 0 ? "owned" : number(price, 0) + " euros";
    }

    private static String place(StorageAssessment each) {
        return each.socket().map(StorageNeed.Socket::title).orElse("nowhere")
                + each.enclosure().map(box -> ", in a box").orElse("");
    }
}
