// SPDX-License-Identifier: Apache-2.0
package exordium.core.board;

import com.fasterxml.jackson.annotation.JsonCreator;
import exordium.core.finding.BadArgument;
import exordium.core.quantity.Coded;
import java.util.Optional;

/** The form in which boards of a family keep what they try first. Whoever needs to know something of it asks here, not which it is. */
public enum OrderForm implements Coded {
    HEX_DIGITS(" in its firmware's settings, with its system's tool for them."),
    FUSE_BITS(" in its firmware's settings, with its system's tool for them."),
    ORDERED_LIST(" in its firmware's settings, with its system's tool for them."),
    UEFI(" in its firmware's own menu.");

    private final String whereSet;

    OrderForm(String whereSet) {
        this.whereSet = whereSet;
    }

    @JsonCreator
    public static OrderForm of(String code) {
        return Coded.of(OrderForm.class, code);
    }

    /** As a person names one; empty where nothing is said. @throws BadArgument when it is none of them */
    public static Optional<OrderForm> said(Optional<String> word) throws BadArgument {
        try {
            return word.map(OrderForm::of);
        } catch (IllegalArgumentException e) {
            throw new BadArgument(
                    "An order is kept as hex-digits, fuse-bits, ordered-list or uefi, not \"" + word.get() + "\".",
                    word.get());
        }
    }

    /** Behind a setting, where a person sets it. */
    public String whereSet() {
        return whereSet;
    }

    /** One value of digits, a place each, drawn as such; an installer waits behind a digit of its own. */
    public boolean digits() {
        return this == HEX_DIGITS;
    }

    /** Burnt into one-time memory. */
    public boolean burnt() {
        return this == FUSE_BITS;
    }

    /** A list of the board's own words for its places; others of that kind may be added to it. */
    public boolean list() {
        return this == ORDERED_LIST;
    }

    /** Entries of the firmware's own, each with a file on a partition that a GPT names. */
    public boolean entries() {
        return this == UEFI;
    }

    /** Whether its value is made of names. */
    public boolean named() {
        return list() || entries();
    }

    /** What is said of it where families are told apart; usual: the value a new board has. */
    String tell(String usual) {
        return switch (this) {
            case HEX_DIGITS -> "its order is one value of hex digits, such as " + usual;
            case FUSE_BITS -> "its order is burnt into it, once";
            case ORDERED_LIST -> "its order is a list of names";
            case UEFI -> "its order is set in a UEFI menu";
        };
    }
}
