// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import com.fasterxml.jackson.annotation.JsonInclude;
import exordium.core.finding.BadArgument;
import exordium.core.firmware.FirmwareChip;
import exordium.core.storage.media.Supply;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A board as it is at one moment. Immutable; each change gives the board as it would be then.
 *
 * @param profile its family; memory: as it is sold, such as "4 GB"
 * @param overlay whether the system's read-only overlay is on
 * @param carrier its own carrier, where it is not the one its family usually has
 * @param known how what is known of a board that is not read is known
 */
public record BoardState(
        String profile,
        String memory,
        String serial,
        String mac,
        Supply supply,
        FirmwareChip chip,
        boolean overlay,
        List<Plug> attached,
        Optional<Carrier> carrier,
        Knowledge known) {

    public BoardState {
        attached = List.copyOf(attached);
    }

    /** A board that is read, in the carrier its family usually has. */
    public BoardState(
            String profile,
            String memory,
            String serial,
            String mac,
            Supply supply,
            FirmwareChip chip,
            boolean overlay,
            List<Plug> attached) {
        this(profile, memory, serial, mac, supply, chip, overlay, attached, Optional.empty(), Knowledge.NOTHING);
    }

    /**
     * What this board's own carrier for M.2 drives is like.
     *
     * @param announcing whether it tells the board that it is there
     * @param lengths M.2 codes it takes, such as 2242
     */
    public record Carrier(boolean announcing, List<Integer> lengths) {
        public Carrier {
            lengths = List.copyOf(lengths);
        }

        private static final Pattern SAID =
                Pattern.compile("(announcing|silent)(?:\\s+([0-9]{4}(?:\\s*,\\s*[0-9]{4})*))?");

        /**
         * As people say it: {@code silent 2230,2242}, {@code announcing}, or {@code usual} for that of the family.
         *
         * @throws BadArgument when it is none of these
         */
        public static Optional<Carrier> parse(String text) throws BadArgument {
            String said = text.strip().toLowerCase(Locale.ROOT);
            if (said.equals("usual")) {
                return Optional.empty();
            }
            Matcher parts = SAID.matcher(said);
            if (!parts.matches()) {
                throw new BadArgument(
                        "\"" + text + "\" is no carrier such as \"silent 2230,2242\", \"announcing\" or \"usual\".",
                        text);
            }
            List<Integer> lengths = parts.group(2) == null
                    ? List.of()
                    : Arrays.stream(parts.group(2).split(","))
                            .map(each -> Integer.valueOf(each.strip()))
                            .toList();
            return Optional.of(new Carrier(parts.group(1).equals("announcing"), lengths));
        }

        /** What {@link #parse} reads again. */
        public String said() {
            String lengthsSaid =
                    String.join(",", lengths.stream().map(String::valueOf).toList());
            return ((announcing ? "announcing " : "silent ") + lengthsSaid).strip();
        }
    }

    /**
     * A drive on a port.
     *
     * @param drive a medium's key: a file of the workspace's drives folder, or drive:SERIAL
     * @param enclosure the id of what it stands in, where it does not go in as it is
     */
    public record Plug(
            String port,
            String drive,
            String kind,
            CarrierKind carrier,
            boolean seated,
            @JsonInclude(JsonInclude.Include.NON_ABSENT) Optional<String> enclosure) {
        public Plug(String port, String drive, String kind, CarrierKind carrier, boolean seated) {
            this(port, drive, kind, carrier, seated, Optional.empty());
        }

        public boolean silent() {
            return carrier == CarrierKind.SILENT;
        }
    }

    /** Whether what its own port takes announces itself to nobody: by what was told of its carrier, else by what sits there. */
    public boolean silentCarrier() {
        return carrier.map(each -> !each.announcing())
                .orElseGet(() -> attached.stream().anyMatch(Plug::silent));
    }

    /** Its chip by what is known of it: with no release where nobody told one, and one was only taken for it. */
    public FirmwareChip chipAsKnown() {
        boolean taken = known.firmware().filter(Known::guessed).isPresent();
        return taken
                ? new FirmwareChip(FirmwareChip.NOT_KNOWN, chip.config(), chip.staged(), chip.stagedConfig())
                : chip;
    }

    /** The release it runs. */
    public LocalDate firmware() {
        return chip.running();
    }

    public BoardState with(FirmwareChip other) {
        return new BoardState(profile, memory, serial, mac, supply, other, overlay, attached, carrier, known);
    }

    public BoardState with(Knowledge other) {
        return new BoardState(profile, memory, serial, mac, supply, chip, overlay, attached, carrier, other);
    }

    /** With its read-only overlay on or off. */
    public BoardState withOverlay(boolean on) {
        return new BoardState(profile, memory, serial, mac, supply, chip, on, attached, carrier, known);
    }

    /** With a drive on a port, in place of whatever was there, and nowhere else. */
    public BoardState attach(Plug plug) {
        List<Plug> plugs = new ArrayList<>(attached);
        plugs.removeIf(each -> each.port().equals(plug.port()) || each.drive().equals(plug.drive()));
        plugs.add(plug);
        return withAttached(plugs);
    }

    public BoardState detach(String drive) {
        return withAttached(
                attached.stream().filter(each -> !each.drive().equals(drive)).toList());
    }

    private BoardState withAttached(List<Plug> plugs) {
        return new BoardState(profile, memory, serial, mac, supply, chip, overlay, plugs, carrier, known);
    }
}
