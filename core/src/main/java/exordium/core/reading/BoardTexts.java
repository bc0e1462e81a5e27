// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import java.time.DateTimeException;
import java.time.LocalDate;
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
    private static final Pattern FREE = Pattern.compile("^Mem:\\s+(\\d{1,15})\\s+\\d+\\s+\\d+.*$");
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
            String line = page.line(i);
            if (PC_CPU.matcher(line).matches()) {
                page.isOfPc();
                page.claim(i);
            } else if (FREE_HEAD.matcher(line).matches()) {
                free = true;
                page.claim(i);
            } else if (free && FREE.matcher(line).matches()) {
                Matcher memory = FREE.matcher(line);
                if (memory.matches()) {
                    page.board("memoryBytes", Long.parseLong(memory.group(1)) << 10, i);
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
            return day.find()
                    ? Optional.of(LocalDate.parse(day.group(1) + " " + day.group(2) + " " + day.group(3), DAY))
                    : Optional.empty();
        } catch (DateTimeException e) {
            return Optional.empty();
        }
    }
}
