// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

/** What a judgement rests on. */
public record Basis(Kind kind, String source) {
    /** Where the authority comes from. */
    public enum Kind {
        STANDARD,
        PRACTICE,
        HOUSE_RULE,
        COMPUTED
    }

    /** A published document, by name. */
    public static Basis standard(String name) {
        return new Basis(Kind.STANDARD, name);
    }

    /** What people of the trade do; nobody published it. */
    public static Basis practice() {
        return new Basis(Kind.PRACTICE, "common practice, no source");
    }

    /** A rule the user set, with its default. */
    public static Basis houseRule(String rule) {
        return new Basis(Kind.HOUSE_RULE, "house rule: " + rule);
    }

    /** Worked out or read, from what is named. */
    public static Basis computed(String from) {
        return new Basis(Kind.COMPUTED, "computed from " + from);
    }
}
