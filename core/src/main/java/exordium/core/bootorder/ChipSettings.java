// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import exordium.core.board.BoardProfile;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Subject;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareChip;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.firmware.FlashChip;
import exordium.core.firststart.lint.SettingsCheck;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A change to the settings a firmware keeps beside itself, looked through.
 *
 * @param before as they will be after the next restart as things stand
 * @param out lines that go, and in: lines that come
 * @param bytes they take in the chip, of {@link FlashChip#MOST_SETTINGS}
 */
public record ChipSettings(
        FirmwareConfig before,
        FirmwareConfig after,
        List<String> out,
        List<String> in,
        int bytes,
        List<Finding> findings) {

    /** @throws UnreadableInput where this family has no chip that keeps settings */
    public static ChipSettings of(BoardProfile profile, FirmwareChip chip, String text) throws UnreadableInput {
        if (!profile.firmware().inChip()) {
            throw new UnreadableInput("A " + profile.id() + " has no firmware chip that keeps settings.");
        }
        FirmwareConfig before = chip.nextConfig();
        FirmwareConfig after = new FirmwareConfig(text.strip());
        byte[] bytes = after.text().getBytes(StandardCharsets.UTF_8);
        List<Finding> findings = new ArrayList<>();
        chip.takesNothing().ifPresent(findings::add);
        // Of the order the dialect itself says what is wrong.
        SettingsCheck.settings(bytes, profile).stream()
                .filter(each -> !each.isAbout(Subject.ORDER_VALUE))
                .forEach(findings::add);
        if (bytes.length > FlashChip.MOST_SETTINGS) {
            findings.add(Finding.stop(
                    "settings-too-long",
                    "The settings have " + bytes.length + " bytes; the chip has room for " + FlashChip.MOST_SETTINGS
                            + ".",
                    Basis.practice()));
        }
        Optional<String> order = after.value(profile.order().key());
        if (order.isPresent()) {
            findings.addAll(OrderDialect.judge(profile, order.get(), chip.running()));
        } else {
            findings.add(Finding.note(
                    "settings-no-order",
                    "There is no " + profile.order().key() + " in them: the board takes its usual order, "
                            + profile.order().usual() + ".",
                    Basis.practice()));
        }
        return new ChipSettings(
                before,
                after,
                before.linesNotIn(after),
                after.linesNotIn(before),
                bytes.length,
                Finding.worstFirst(findings));
    }

    public boolean changes() {
        return !out.isEmpty() || !in.isEmpty();
    }
}
