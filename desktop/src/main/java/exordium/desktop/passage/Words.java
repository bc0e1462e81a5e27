// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.passage;

import exordium.core.daysheet.Pennant;
import exordium.core.passage.PassagePlan;
import exordium.core.passage.Route;
import exordium.jobs.passage.Prospect;
import java.util.Locale;
import java.util.Optional;

/** How wishes and ways are said. */
final class Words {
    private Words() {}

    static String capital(String text) {
        return text.substring(0, 1).toUpperCase(Locale.ROOT) + text.substring(1);
    }

    /** What a wish comes to, in a line. */
    static String of(Prospect.Offer offer) {
        if (offer.plan().isEmpty()) {
            return "say which";
        }
        PassagePlan plan = offer.plan().get();
        Optional<Route> best = plan.routes().stream().findFirst();
        return best.map(route -> "about " + route.cost().wholeMinutes() + " min" + bought(route))
                .orElse(plan.reason());
    }

    private static String bought(Route route) {
        return route.buy().isEmpty() ? "" : ", " + euros(route.cost().euros()) + " to spend";
    }

    static Pennant pennant(Prospect.Offer offer) {
        return offer.plan()
                .map(plan ->
                        !plan.possible() ? Pennant.UNKNOWN : plan.routes().isEmpty() ? Pennant.PROVEN : Pennant.SET)
                .orElse(Pennant.SET);
    }

    static String euros(double price) {
        return String.format(Locale.ROOT, price == Math.rint(price) ? "%.0f euros" : "%.2f euros", price);
    }
}
