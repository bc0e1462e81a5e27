// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

/** What a judgement rests on. */
public record Basis(BasisKind kind, String source) {
    /** Where the authority comes from. */
    public enum BasisKind {
        STANDARD,
        PRACTICE,
        HOUSE_RULE,
        COMPUTED
    }

    /** A published document, by name. */
    public static Basis standard(String name) {
        return new Basis(BasisKind.STANDARD, name);
    }

    /** What people of the trade do; nobody published it. */
    public static Basis practice() {
        return new Basis(BasisKind.PRACTICE, "common practice, no source");
    }

    /** A rule the user set, with its default. */
    public static Basis houseRule(String rule) {
        return new Basis(BasisKind.HOUSE_RULE, "house rule: " + rule);
    }

    /** Worked out or read, from what is named. */
    public static Basis computed(String from) {
        return new Basis(BasisKind.COMPUTED, "computed from " + from);
    }
}
