// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Puts a step together. */
final class Steps {
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

    /** Letters and digits with single dashes between; a search makes thousands of them. */
    private static String slug(String text) {
        StringBuilder slug = new StringBuilder(text.length());
        for (int i = 0; i < text.length(); i++) {
            char letter = Character.toLowerCase(text.charAt(i));
            if ((letter >= 'a' && letter <= 'z') || (letter >= '0' && letter <= '9')) {
                slug.append(letter);
            } else if (slug.length() > 0 && slug.charAt(slug.length() - 1) != '-') {
                slug.append('-');
            }
        }
        if (slug.length() > 0 && slug.charAt(slug.length() - 1) == '-') {
            slug.setLength(slug.length() - 1);
        }
        return slug.toString();
    }
}
