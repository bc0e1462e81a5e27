// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

import java.util.Optional;

/** The one check that a target's own name was typed, to the letter, before anything on it is changed. */
public final class TypedName {
    private TypedName() {}

    /** A stop where it was not. */
    public static Optional<Finding> check(String typed, String name) {
        if (typed.equals(name)) {
            return Optional.empty();
        }
        return Optional.of(Finding.stop(
                        "target-not-confirmed",
                        typed.isEmpty()
                                ? "The target was not confirmed: type its name, " + name + "."
                                : "\"" + typed + "\" is not its name; that is " + name + ".",
                        Basis.computed("the name typed"))
                .about(Subject.TARGET_NAME));
    }

    /** @throws Refused where it was not */
    public static void require(String typed, String name) {
        check(typed, name).ifPresent(stop -> {
            throw new Refused(stop);
        });
    }
}
