// SPDX-License-Identifier: Apache-2.0
package exordium.core.board;

import exordium.core.finding.BadArgument;
import java.util.HashSet;
import java.util.Optional;
import java.util.Set;

/** What a schema cannot say of a family: whether its parts go together. */
public final class FamilyCheck {
    private FamilyCheck() {}

    /** The first thing that does not, as a sentence. */
    public static Optional<String> fault(BoardProfile profile) {
        Set<String> ids = new HashSet<>();
        for (BoardProfile.Port port : profile.ports()) {
            if (!ids.add(port.id())) {
                return Optional.of("Two of its ports are called \"" + port.id() + "\".");
            }
        }
        if (profile.ports().stream()
                .noneMatch(port -> port.source().holdsMedium() || port.source() == StartSource.NETWORK)) {
            return Optional.of("It has no port that it could start from.");
        }
        boolean named = profile.order().form().named();
        if (named && profile.order().names().isEmpty()) {
            return Optional.of("Its order is kept by names, and none of them is said.");
        }
        if (profile.order().form().burnt() && profile.order().fuse().isEmpty()) {
            return Optional.of("Its order is a fuse, and its bit is not said.");
        }
        if (profile.firmware().where().equals("card")
                && profile.firmware().files().isEmpty()) {
            return Optional.of("Its firmware lies on the card, and its files are not said.");
        }
        for (BoardProfile.Port port : profile.ports()) {
            boolean empty = port.source().holdsMedium() && port.buses().isEmpty();
            if (empty) {
                return Optional.of("No drive fits its port \"" + port.id() + "\": say its buses.");
            }
        }
        return Optional.empty();
    }

    /** @throws BadArgument with the first fault */
    public static void require(BoardProfile profile) throws BadArgument {
        Optional<String> fault = fault(profile);
        if (fault.isPresent()) {
            throw new BadArgument("\"" + profile.id() + "\": " + fault.get(), profile.id());
        }
    }
}
