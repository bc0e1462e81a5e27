// SPDX-License-Identifier: Apache-2.0
package exordium.core.board;

import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Predicate;

/**
 * What a family is made of, by its places in the file it is kept in; in the order in which not knowing it does most harm.
 *
 * <p>How each is found out: common practice, no source.
 */
public enum FamilyField {
    ORDER_USUAL(
            "order.usual",
            "Switch a new board on with no medium and paste what it shows, or type the order its own tool prints.",
            family -> family.order().usual()),
    PORTS("ports", "Tick the sockets one sees on the drawing, each with what stands beside it.", BoardProfile::ports),
    FIRMWARE_WHERE(
            "firmware.where",
            "Switch it on with no medium: a board that shows a screen, or blinks a pattern, has its firmware in a chip.",
            family -> family.firmware().where()),
    FIRMWARE_NEEDS(
            "firmware.needs",
            "Take the maker's releases onto the shelf and say what each enables; their notes propose it.",
            family -> family.firmware().needs(),
            family -> family.firmware().inChip() && family.firmware().needs().isEmpty()),
    FIRMWARE_RECOVERY(
            "firmware.recovery",
            "Take the maker's recovery set onto the shelf; what its files are called is read off it.",
            family -> family.firmware().recovery(),
            family -> family.firmware().inChip() && family.firmware().recovery().isEmpty()),
    ORDER_DIALECT(
            "order.dialect",
            "Paste what its start screen shows: digits, a list of names, entries or a register.",
            family -> family.order().form().code()),
    ORDER_FUSE(
            "order.fuse",
            "Read the register with the board's own tool, and the maker's note on the bit.",
            family -> family.order().fuse()),
    POWER_AMPS("power.amps", "Read it off the supply that came with it, or off the box.", family -> family.power()
            .amps()),
    POWER_VOLTS("power.volts", "Read it off the supply that came with it, or off the box.", family -> family.power()
            .volts()),
    POWER_BASE_WATTS(
            "power.baseWatts",
            "Measure at the supply with a power meter while the board is at work alone.",
            family -> family.power().baseWatts()),
    POWER_USB_AMPS(
            "power.usbAmps",
            "Look into the maker's data sheet for what its USB ports give in all.",
            family -> family.power().usbAmps()),
    POWER_USB_AMPS_WEAK(
            "power.usbAmpsWeak",
            "Look into the maker's data sheet for what they give on a supply that is weaker.",
            family -> family.power().usbAmpsWeak()),
    FIRMWARE_TOOL(
            "firmware.tool",
            "Read it off a system for that board (profile from IMAGE), or ask the board: command -v, with its name.",
            family -> family.firmware().tool(),
            family -> family.firmware().inChip()
                    && family.firmware().updatable()
                    && family.firmware().tool().isEmpty()),
    MEMORY("memory", "Paste its start screen, or read it off the box.", BoardProfile::memory),
    WIDTH("width", "Paste what uname -m prints: aarch64 is 64 bits.", BoardProfile::width),
    FILTERS(
            "startFiles.filters",
            "Look at the lines in brackets of a settings file that came with a system for it.",
            family -> family.startFiles().filters(),
            family -> family.sources().isPresent()
                    && family.startFiles().settings().isPresent()
                    && family.startFiles().filters().isEmpty()),
    SETTINGS("startFiles.settings", "Read it off an image that starts on it.", family -> family.startFiles()
            .settings()),
    KERNEL_LINE("startFiles.kernelLine", "Read it off an image that starts on it.", family -> family.startFiles()
            .kernelLine()),
    KERNEL_LINE_FORM(
            "startFiles.kernelLineForm",
            "Read it off an image that starts on it.",
            family -> family.startFiles().kernelLineForm().code()),
    LOADERS("startFiles.loaders", "Read it off an image that starts on it.", family -> family.startFiles()
            .loaders()),
    KERNELS("startFiles.kernels", "Read it off an image that starts on it.", family -> family.startFiles()
            .kernels()),
    DEVICE_TREES("startFiles.deviceTrees", "Read it off an image that starts on it.", family -> family.startFiles()
            .deviceTrees()),
    ORDER_KEY("order.key", "Read it off the settings of the chip as its own tool prints them.", family -> family.order()
            .key()),
    ORDER_NAMES(
            "order.names", "Paste its start screen: the names of what it tries stand there.", family -> family.order()
                    .names()),
    NETWORK_FILES(
            "networkFiles",
            "Start it over the network once: the server's log shows what it asks for.",
            BoardProfile::networkFiles),
    FIRMWARE_FILES(
            "firmware.files",
            "Look at a card that starts it: which files are none of the system's.",
            family -> family.firmware().files()),
    FIRMWARE_ON_CARD(
            "firmware.onCard", "Read the note that comes with the maker's archive.", family -> family.firmware()
                    .onCard()),
    FIRMWARE_UPDATABLE(
            "firmware.updatable", "Look whether the maker publishes releases for it.", family -> family.firmware()
                    .updatable()),
    FIRMWARE_SLOTS(
            "firmware.slots",
            "Ask the maker whether an update that is cut leaves the old firmware.",
            family -> family.firmware().slots()),
    USER_FILE(
            "startFiles.userFile",
            "Read the maker's note on a first start without a monitor.",
            family -> family.startFiles().userFile()),
    CLOUD_FILE(
            "startFiles.cloudFile",
            "Look for it on an image: user-data beside meta-data.",
            family -> family.startFiles().cloudFile()),
    TIMING(
            "timing",
            "Paste what systemd-analyze prints after three starts, or time them by hand.",
            BoardProfile::timing);

    /** All that its power is worked out from. */
    public static final List<FamilyField> POWER =
            List.of(POWER_BASE_WATTS, POWER_AMPS, POWER_VOLTS, POWER_USB_AMPS, POWER_USB_AMPS_WEAK);

    private final String code;
    private final String howToFindOut;
    private final Function<BoardProfile, Object> value;
    private final Predicate<BoardProfile> missing;

    FamilyField(String code, String howToFindOut, Function<BoardProfile, Object> value) {
        this(code, howToFindOut, value, family -> false);
    }

    FamilyField(
            String code, String howToFindOut, Function<BoardProfile, Object> value, Predicate<BoardProfile> missing) {
        this.code = code;
        this.howToFindOut = howToFindOut;
        this.value = value;
        this.missing = missing;
    }

    public String code() {
        return code;
    }

    public String howToFindOut() {
        return howToFindOut;
    }

    /** What is said of it, as it stands in the file; empty where nothing is. */
    public Optional<Object> in(BoardProfile family) {
        Object said = value.apply(family);
        if (said instanceof Optional<?> maybe) {
            return maybe.map(each -> each);
        }
        boolean nothing = (said instanceof Map<?, ?> map && map.isEmpty())
                || (said instanceof Collection<?> list && list.isEmpty());
        return nothing ? Optional.empty() : Optional.of(said);
    }

    /** Whether it is a list of words in the file. */
    public boolean holdsList() {
        return switch (this) {
            case MEMORY, LOADERS, DEVICE_TREES, FIRMWARE_RECOVERY, FIRMWARE_FILES, FILTERS -> true;
            default -> false;
        };
    }

    /** Whether it is a word in the file, whatever it looks like. */
    public boolean holdsText() {
        return switch (this) {
            case ORDER_USUAL,
                    ORDER_KEY,
                    ORDER_DIALECT,
                    FIRMWARE_TOOL,
                    FIRMWARE_WHERE,
                    SETTINGS,
                    KERNEL_LINE,
                    KERNEL_LINE_FORM,
                    USER_FILE,
                    CLOUD_FILE -> true;
            default -> false;
        };
    }

    /** Whether such a family has it and nothing is said of it. */
    boolean missingIn(BoardProfile family) {
        return missing.test(family);
    }

    public static Optional<FamilyField> find(String code) {
        return Arrays.stream(values()).filter(each -> each.code.equals(code)).findFirst();
    }

    /** @throws UnknownName naming the nearest there is */
    public static FamilyField require(String code) throws UnreadableInput {
        List<String> all = Arrays.stream(values()).map(FamilyField::code).toList();
        return find(code)
                .orElseThrow(() -> new UnknownName(
                        "There is no field \"" + code + "\" of a family; there are " + String.join(", ", all) + ".",
                        code,
                        all));
    }
}
