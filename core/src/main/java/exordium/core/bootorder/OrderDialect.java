// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import exordium.core.board.BoardProfile;
import exordium.core.board.FamilyField;
import exordium.core.board.StartSource;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Severity;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareChip;
import java.time.LocalDate;
import java.util.ArrayList;
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

    /** What is to be said of an order on a board with this release; stops refuse it. */
    static List<Finding> judge(BoardProfile profile, String value, LocalDate running) {
        DecodedOrder order = of(profile).decode(value);
        List<Finding> findings = new ArrayList<>(order.findings());
        // What a family comes with stands in boards of every release: those that do not know a place pass it over.
        boolean asItComes = value.equals(profile.order().usual());
        for (StartSource source : order.sources()) {
            profile.firmware()
                    .lacking(source, running)
                    .map(needed -> lacking(source, needed.toString(), running, asItComes))
                    .ifPresent(findings::add);
        }
        findings.replaceAll(each -> each.severity() == Severity.NOTE
                ? each
                : profile.from()
                        .judged(
                                each,
                                FamilyField.ORDER_DIALECT,
                                FamilyField.PORTS,
                                FamilyField.ORDER_NAMES,
                                FamilyField.FIRMWARE_NEEDS));
        return Finding.worstFirst(findings);
    }

    private static Finding lacking(StartSource source, String needed, LocalDate running, boolean asItComes) {
        String text = "The order asks for " + source.code() + ", which firmware of " + needed
                + " or later knows; this board runs " + FirmwareChip.said(running) + ".";
        Finding finding = asItComes
                ? Finding.caution(
                        "order-needs-firmware",
                        text + " Until its firmware is updated it passes that place over.",
                        Basis.practice())
                : Finding.stop(
                        "order-needs-firmware",
                        text + " Update the firmware, restart, then set the order.",
                        Basis.practice());
        return finding.mendAt(Step.FIRMWARE);
    }

    static OrderDialect of(BoardProfile profile) {
        return switch (profile.order().form()) {
            case HEX_DIGITS -> new HexDigitOrder(profile);
            case FUSE_BITS -> new FuseBitOrder(profile);
            case ORDERED_LIST -> new NamedOrder(profile, " ");
            case UEFI -> new NamedOrder(profile, ",");
        };
    }
}
