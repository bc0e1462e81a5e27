// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.finding.UnreadableInput;
import java.util.List;

/** One way in which boards write down what they try first. */
public interface OrderDialect {

    /** Reads a stored value. Strange values give findings; what can be understood of them still comes out. */
    DecodedOrder decode(String value);

    /**
     * Writes sources down.
     *
     * @throws UnreadableInput naming the source that cannot be written in this dialect
     */
    String encode(List<StartSource> sources) throws UnreadableInput;

    /** Sources this dialect can name on this board, in the order a menu lists them. */
    List<StartSource> available();

    static OrderDialect of(BoardProfile profile) {
        return switch (profile.order().dialect()) {
            case "hex-digits" -> new HexDigitOrder(profile);
            case "fuse-bits" -> new FuseBitOrder(profile);
            case "ordered-list" -> new NamedOrder(profile, " ");
            case "uefi" -> new NamedOrder(profile, ",");
            default ->
                throw new IllegalArgumentException(
                        "no such dialect: " + profile.order().dialect());
        };
    }
}
