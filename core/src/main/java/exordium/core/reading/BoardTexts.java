// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What a board says of itself: its start screen, an updating tool's status, its order, the register of its bit, /proc, os-release(5). */
final class BoardTexts implements TextParser {
    private static final int IGNORE_CASE = Pattern.CASE_INSENSITIVE;
    private static final Pattern ORDER = Pattern.compile(
            "^\\s*(?:BOOT_ORDER|boot[ _-]?order|order)\\s*[=:]\\s*(0x[0-9a-f]{1,8})\\s*(?:#.*)?$", IGNORE_CASE);
    private static final Pattern ENTRIES =
            Pattern.compile("^\\s*BootOrder:\\s*([0-9A-F]{4}(?:,[0-9A-F]{4}){0,30})\\s*$");
    private static final Pattern FUSE = Pattern.compile("^\\s*17:([0-9a-f]{8})\\s*$");
    private static final Pattern STATUS = Pattern.compile(
            "^\\s*(?:\\*+\\s*)?(current|running|installed|latest|newest|available|firmware|bootloader|boot ?loader|version)(?: (?:version|release|firmware))?\\s*[:=]\\s*(.{4,80})$",
            IGNORE_CASE);
    private static final Pattern CHANNEL = Pattern.compile(
            "^\\s*(?:release(?: channel)?|channel)\\s*[:=]\\s*([a-z][a-z0-9-]{1,20})\\b.*$", IGNORE_CASE);
    private static final Pattern ISO = Pattern.compile("\\b(20\\d\\d)[-/](\\d\\d)[-/](\\d\\d)\\b");
    private static final Pattern LONG_DATE = Pattern.compile(
            "\\b(?:Mon|Tue|Wed|Thu|Fri|Sat|Sun)\\s+([A-Z][a-z]{2})\\s+(\\d{1,2})\\s+\\d{1,2}:\\d\\d:\\d\\d\\s+(?:[AP]M\\s+)?(?:[A-Z]{2,5}\\s+)?(20\\d\\d)\\b");
    private static final Pattern DAY_TIME = Pattern.compile(
            "\\b(?:Mon|Tue|Wed|Thu|Fri|Sat|Sun)\\s+(\\d{1,2})\\s+([A-Z][a-z]{2})\\s+\\d{1,2}:\\d\\d:\\d\\d\\s+(?:[AP]M\\s+)?(?:[A-Z]{2,5}\\s+)?(20\\d\\d)\\b");
    private static final Pattern BUILT = Pattern.compile("\\b([A-Z][a-z]{2}) {1,2}(\\d{1,2}) (20\\d\\d)\\b");
    private static final Pattern EPOCH = Pattern.compile("\\((1[5-9]\\d{8}|2[01]\\d{8})\\)");
    /** The first line of a loader that goes by a list, and of UEFI firmware, with the day it was built. */
    private static final Pattern BANNER = Pattern.compile(
            "^(?:U-Boot (?:SPL )?\\d{4}\\.\\d{2}\\S* \\(|UEFI (?:firmware )?\\(?.*\\bbuilt (?:at|on)\\b).{0,80}$");
    /** Of a firmware that shows its order in digits: revision, serial and hardware address; mode and order. */
    private static final Pattern SHOWN_BOARD = Pattern.compile(
            "^\\s*board:\\s+[0-9a-f]{4,8}\\s+(?:0x)?([0-9a-f]{8,16})\\s+((?:[0-9a-f]{2}:){5}[0-9a-f]{2})\\s*$",
            IGNORE_CASE);

    /** What a board's own tool prints of its power: bit 0 now, bit 16 since the start; from memory. */
    private static final Pattern THROTTLED = Pattern.compile("^\\s*throttled=0x([0-9a-f]{1,8})\\s*$");

    private static final long UNDER_VOLTAGE = 0x10001;
    private static final Pattern SHOWN_MODEL = Pattern.compile("^(\\S.{2,60}?) - (\\d{1,5}) ?(MB|GB)\\s*$");
    private static final Pattern SHOWN_LOADER = Pattern.compile("^\\s*bootloader:\\s+[0-9a-f]{6,40}\\b.*$");
    private static final Pattern SHOWN_ORDER =
            Pattern.compile("^\\s*boot:\\s+.*\\border\\s+(?:0x)?([0-9a-f]{1,8})\\b.*$", IGNORE_CASE);
    private static final Pattern TARGETS = Pattern.compile("^\\s*boot_targets=([a-z0-9][a-z0-9 _-]{1,100})$");
    private static final Pattern BARE_DATE =
            Pattern.compile("^\\s*(20\\d\\d)[-/](\\d\\d)[-/](\\d\\d) \\d\\d:\\d\\d:\\d\\d\\s*$");
    private static final Pattern BUILD = Pattern.compile("^\\s*version [0-9a-f]{8,40}(?: \\(\\w+\\))?\\s*$");
    private static final Pattern BUILD_MORE = Pattern.compile("^\\s*(?:timestamp|update-time|capabilities) \\S+\\s*$");
    private static final Pattern PC_NAME = Pattern.compile("^Linux \\S{1,64} \\S{1,64} .*\\b(?:x86_64|i[3-6]86)\\b.*$");
    private static final Pattern DAY_FIRST =
            Pattern.compile("\\b(?:Mon|Tue|Wed|Thu|Fri|Sat|Sun),?\\s+(\\d{1,2})\\s+([A-Z][a-z]{2})\\s+(20\\d\\d)\\b");
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMM uuuu", Locale.ENGLISH);
    private static final Pattern SERIAL =
            Pattern.compile("^\\s*(?:board )?serial(?: number)?\\s*[:=]\\s*(?:0x)?([0-9a-f]{8,16})\\s*$", IGNORE_CASE);
    private static final Pattern MODEL = Pattern.compile("^\\s*(?:Model|Board|board)\\s*:\\s*(\\S.{1,100})$");
    private static final Pattern MAC = Pattern.compile(
            "^\\s*(?:mac|mac address|ethernet|hwaddr)\\s*[:=]?\\s*((?:[0-9a-f]{2}[:-]){5}[0-9a-f]{2})\\s*$",
            IGNORE_CASE);
    private static final Pattern MEMORY =
            Pattern.compile("^\\s*(?:DRAM|RAM|memory)\\s*[:=]\\s*(\\d{1,6})\\s*(MiB|GiB|MB|GB|M|G)\\b.*$", IGNORE_CASE);
    private static final Pattern MEM_TOTAL = Pattern.compile("^MemTotal:\\s+(\\d{1,12}) kB$");
    private static final Pattern MEM_OTHER =
            Pattern.compile("^[A-Z][A-Za-z_()0-9]{2,30}:\\s+\\d{1,15} kB$|^HugePages_[A-Za-z]{3,6}:\\s+\\d{1,12}$");
    private static final Pattern FREE_HEAD = Pattern.compile("^\\s*total\\s+used\\s+free\\s+.*$");
    private static final Pattern FREE =
            Pattern.compile("^Mem:\\s+([0-9.,]{1,15}(?:[KMGT]i?)?B?)\\s+[0-9.,]+\\S*\\s+[0-9.,]+.*$");
    private static final Pattern RELEASE = Pattern.compile("^PRETTY_NAME=\"?([^\"]{1,120})\"?$");
    private static final Pattern RELEASE_OTHER = Pattern.compile(
            "^(?:NAME|VERSION|VERSION_ID|VERSION_CODENAME|ID|ID_LIKE|HOME_URL|SUPPORT_URL|BUG_REPORT_URL|BUILD_ID|IMAGE_ID|VARIANT_ID|ANSI_COLOR|LOGO)=.*$");
    private static final Pattern PC_CPU = Pattern.compile("^vendor_id\\s*:\\s*(?:GenuineIntel|AuthenticAMD).*$");
    private static final Pattern CPU = Pattern.compile(
            "^(?:processor|BogoMIPS|Features|CPU implementer|CPU architecture|CPU variant|CPU part|CPU revision|Hardware|Revision|model name|cpu family|model|stepping|flags|vendor_id|microcode|cpu MHz|cache size|physical id|siblings|core id|cpu cores|bogomips|address sizes|fpu|fpu_exception|cpuid level|wp|bugs|clflush size|cache_alignment|power management|apicid|initial apicid|vmx flags|TLB size)\\s*:.*$");
    private static final Pattern STARTED = Pattern.compile(
            "^\\s*(?:started|booted|booting|starting) from\\s*:?\\s*([a-z][a-z0-9-]{1,20})\\s*\\.?$", IGNORE_CASE);

    @Override
    public String kind() {
        return "board";
    }

    @Override
    public void read(Page page) {
        boolean free = false;
        for (int i = 1; i <= page.size(); i++) {
            if (!page.isFree(i)) {
                continue;
            }
            int number = i;
            String line = page.line(i);
            if (PC_NAME.matcher(line).matches()) {
                page.isOfPc();
                page.claim(i);
            } else if (BARE_DATE.matcher(line).matches()
                    && i < page.size()
                    && BUILD.matcher(page.line(i + 1)).matches()) {
                date(line).ifPresent(day -> page.board("firmwareDate", day.toString(), number));
            } else if (BUILD.matcher(line).matches() || BUILD_MORE.matcher(line).matches()) {
                page.claim(i);
            } else if (PC_CPU.matcher(line).matches()) {
                page.isOfPc();
                page.claim(i);
            } else if (FREE_HEAD.matcher(line).matches()) {
                free = true;
                page.claim(i);
            } else if (free && FREE.matcher(line).matches()) {
                Matcher memory = FREE.matcher(line);
                if (memory.matches()) {
                    // In kibibytes where no letter says otherwise (free(1)).
                    boolean plain = memory.group(1).matches("\\d+");
                    Figures.bytes(memory.group(1).replace("i", ""))
                            .map(each -> plain ? each << 10 : each)
                            .ifPresent(bytes -> page.board("memoryBytes", bytes, number));
                }
            } else if (free && line.startsWith("Swap:")) {
                page.claim(i);
            } else {
                said(page, i, line);
            }
        }
    }

    private static void said(Page page, int number, String line) {
        if (text(page, number, line, ORDER, "order")
                || text(page, number, line, ENTRIES, "order")
                || text(page, number, line, FUSE, "fuseRegister")
                || text(page, number, line, SERIAL, "serial")
                || text(page, number, line, RELEASE, "systemVersion")
                || text(page, number, line, STARTED, "startDevice")
                || text(page, number, line, TARGETS, "order")
                || shown(page, number, line)
                || memory(page, number, line)
                || status(page, number, line)) {
            return;
        }
        Matcher mac = MAC.matcher(line);
        Matcher channel = CHANNEL.matcher(line);
        Matcher model = MODEL.matcher(line);
        if (mac.matches()) {
            page.board("mac", mac.group(1).toLowerCase(Locale.ROOT).replace('-', ':'), number);
        } else if (channel.matches()) {
            page.board("channel", channel.group(1).toLowerCase(Locale.ROOT), number);
        } else if (CPU.matcher(line).matches()
                || RELEASE_OTHER.matcher(line).matches()
                || MEM_OTHER.matcher(line).matches()) {
            page.claim(number);
        } else if (model.matches()) {
            page.board("model", model.group(1).strip(), number);
        }
    }

    private static boolean text(Page page, int number, String line, Pattern pattern, String fact) {
        Matcher found = pattern.matcher(line);
        if (!found.matches()) {
            return false;
        }
        String value = found.group(1).strip();
        page.board(
                fact,
                fact.equals("serial") || (fact.equals("order") && value.startsWith("0"))
                        ? value.toLowerCase(Locale.ROOT)
                        : value,
                number);
        return true;
    }

    /** What a start screen shows on one line of several things. */
    private static boolean shown(Page page, int number, String line) {
        Matcher board = SHOWN_BOARD.matcher(line);
        Matcher order = SHOWN_ORDER.matcher(line);
        if (board.matches()) {
            page.board("serial", board.group(1).toLowerCase(Locale.ROOT), number);
            page.board("mac", board.group(2).toLowerCase(Locale.ROOT), number);
            return true;
        }
        Matcher throttled = THROTTLED.matcher(line);
        if (throttled.matches()) {
            boolean low = (Long.parseLong(throttled.group(1), 16) & UNDER_VOLTAGE) != 0;
            if (low) {
                page.board("underVoltage", true, number);
            } else {
                page.claim(number);
            }
            return true;
        }
        Matcher model = SHOWN_MODEL.matcher(line);
        if (model.matches() && page.holds(SHOWN_LOADER)) {
            boolean giga = model.group(3).startsWith("G");
            page.board("model", model.group(1), number);
            page.board("memoryBytes", Long.parseLong(model.group(2)) << (giga ? 30 : 20), number);
            return true;
        }
        if (order.matches()) {
            page.board("order", "0x" + order.group(1).toLowerCase(Locale.ROOT), number);
            return true;
        }
        if (!BANNER.matcher(line).matches()) {
            return false;
        }
        Optional<LocalDate> built = date(line);
        built.ifPresent(day -> page.board("firmwareDate", day.toString(), number));
        return built.isPresent();
    }

    private static boolean memory(Page page, int number, String line) {
        Matcher total = MEM_TOTAL.matcher(line);
        Matcher said = MEMORY.matcher(line);
        if (total.matches()) {
            page.board("memoryBytes", Long.parseLong(total.group(1)) << 10, number);
        } else if (said.matches()) {
            boolean giga = said.group(2).toUpperCase(Locale.ROOT).startsWith("G");
            page.board("memoryBytes", Long.parseLong(said.group(1)) << (giga ? 30 : 20), number);
        }
        return total.matches() || said.matches();
    }

    private static boolean status(Page page, int number, String line) {
        Matcher status = STATUS.matcher(line);
        if (!status.matches()) {
            return false;
        }
        Optional<LocalDate> date = date(status.group(2));
        boolean newest = List.of("latest", "newest", "available")
                .contains(status.group(1).toLowerCase(Locale.ROOT));
        date.ifPresent(day -> page.board(newest ? "firmwareNewest" : "firmwareDate", day.toString(), number));
        return date.isPresent();
    }

    private static Optional<LocalDate> date(String text) {
        Matcher iso = ISO.matcher(text);
        Matcher full = LONG_DATE.matcher(text);
        Matcher day = DAY_FIRST.matcher(text);
        Matcher timed = DAY_TIME.matcher(text);
        Matcher built = BUILT.matcher(text);
        Matcher epoch = EPOCH.matcher(text);
        try {
            if (iso.find()) {
                return Optional.of(LocalDate.of(
                        Integer.parseInt(iso.group(1)),
                        Integer.parseInt(iso.group(2)),
                        Integer.parseInt(iso.group(3))));
            }
            if (full.find()) {
                return Optional.of(LocalDate.parse(full.group(2) + " " + full.group(1) + " " + full.group(3), DAY));
            }
            if (timed.find()) {
                return Optional.of(LocalDate.parse(timed.group(1) + " " + timed.group(2) + " " + timed.group(3), DAY));
            }
            if (day.find()) {
                return Optional.of(LocalDate.parse(day.group(1) + " " + day.group(2) + " " + day.group(3), DAY));
            }
            if (built.find()) {
                return Optional.of(LocalDate.parse(built.group(2) + " " + built.group(1) + " " + built.group(3), DAY));
            }
            return epoch.find()
                    ? Optional.of(
                            LocalDate.ofInstant(Instant.ofEpochSecond(Long.parseLong(epoch.group(1))), ZoneOffset.UTC))
                    : Optional.empty();
        } catch (DateTimeException e) {
            return Optional.empty();
        }
    }
}
