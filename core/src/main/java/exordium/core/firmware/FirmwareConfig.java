// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import exordium.core.board.BoardProfile;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** The firmware's own settings, {@code key=value} lines kept beside it in the chip. Order and comments stay. */
public record FirmwareConfig(String text) {
    public static final FirmwareConfig EMPTY = new FirmwareConfig("");

    /** Those of a chip that leaves the factory. */
    public static FirmwareConfig factory(BoardProfile profile) {
        return EMPTY.with(profile.order().key(), profile.order().usual());
    }

    public Optional<String> value(String key) {
        if (!text.contains(key)) {
            return Optional.empty();
        }
        return lines().stream()
                .filter(line -> line.startsWith(key + "="))
                .map(line -> line.substring(key.length() + 1).strip())
                .reduce((first, last) -> last);
    }

    public FirmwareConfig with(String key, String value) {
        List<String> lines = new ArrayList<>(lines());
        String wanted = key + "=" + value;
        boolean replaced = false;
        for (int i = 0; i < lines.size(); i++) {
            if (lines.get(i).startsWith(key + "=")) {
                lines.set(i, wanted);
                replaced = true;
            }
        }
        if (!replaced) {
            lines.add(wanted);
        }
        return new FirmwareConfig(String.join("\n", lines));
    }

    /** Without every line of exactly these words. */
    public FirmwareConfig withoutLine(String gone) {
        return new FirmwareConfig(String.join(
                "\n", lines().stream().filter(line -> !line.equals(gone)).toList()));
    }

    public List<String> lines() {
        return text.lines().map(String::strip).filter(line -> !line.isEmpty()).toList();
    }

    /** Lines of the one that the other does not have, as a marked-up difference reads them. */
    public List<String> linesNotIn(FirmwareConfig other) {
        List<String> theirs = other.lines();
        return lines().stream().filter(line -> !theirs.contains(line)).toList();
    }
}
