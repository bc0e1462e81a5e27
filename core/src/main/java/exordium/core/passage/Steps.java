// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;

/** Puts a step together. */
final class Steps {
    private static final Pattern OTHER = Pattern.compile("[^a-z0-9]+");
    private static final Pattern ENDS = Pattern.compile("^-|-$");

    private final Deed deed;
    private final String text;
    private Cost cost = Cost.NONE;
    private String proves = "";
    private final List<String> needs = new ArrayList<>();
    private Optional<String> medium = Optional.empty();
    private Optional<String> source = Optional.empty();
    private Optional<String> port = Optional.empty();
    private Optional<String> value = Optional.empty();
    private final List<String> cautions = new ArrayList<>();

    private Steps(Deed deed, String text) {
        this.deed = deed;
        this.text = text;
        deed.caution().ifPresent(cautions::add);
    }

    static Steps of(Deed deed, String text) {
        return new Steps(deed, text);
    }

    Steps cost(Cost other) {
        cost = other;
        return this;
    }

    Steps proves(String what) {
        proves = what;
        return this;
    }

    Steps needs(String thing) {
        needs.add(thing);
        return this;
    }

    Steps needs(Optional<Part> part) {
        part.map(Part::id).ifPresent(needs::add);
        return this;
    }

    Steps medium(String id) {
        medium = Optional.of(id);
        return this;
    }

    Steps source(String id) {
        source = Optional.of(id);
        return this;
    }

    Steps port(String id) {
        port = Optional.of(id);
        return this;
    }

    Steps value(String text) {
        value = Optional.of(text);
        return this;
    }

    Steps caution(String text) {
        cautions.add(text);
        return this;
    }

    Step step() {
        String what = medium.or(() -> value).orElse("");
        String id = deed.code() + (what.isEmpty() ? "" : "-" + slug(what));
        return new Step(
                id,
                deed,
                text,
                cost,
                needs,
                proves,
                cautions.isEmpty() ? Optional.empty() : Optional.of(String.join(" ", cautions)),
                medium,
                source,
                port,
                value);
    }

    private static String slug(String text) {
        return ENDS.matcher(OTHER.matcher(text.toLowerCase(Locale.ROOT)).replaceAll("-"))
                .replaceAll("");
    }
}
