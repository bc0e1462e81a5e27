// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A single line whose meaning is in the command that stands above it: behind a prompt, or as the head of a section of the script. */
final class AskedTexts implements TextParser {
    private static final Pattern SECTION = Pattern.compile("^== (.{2,200}) ==$");
    private static final Pattern PROMPTED = Pattern.compile("^(?:\\S{1,96}@\\S{1,96}:\\S{0,200}\\s?)?[#$] (.{2,300})$");
    private static final Pattern MODEL =
            Pattern.compile(".*\\bcat /(?:proc|sys/firmware)/device-?tree(?:/base)?/model\\b.*");
    private static final Pattern SERIAL =
            Pattern.compile(".*\\bcat /(?:proc|sys/firmware)/device-?tree(?:/base)?/serial-number\\b.*");
    private static final Pattern MAC =
            Pattern.compile(".*\\bcat /sys/class/net/(?:eth|en|end|wlan|wl)[a-z0-9]*/address\\b.*");
    private static final Pattern ROOT = Pattern.compile(
            ".*\\bfindmnt\\b(?=.*\\bSOURCE\\b)(?=.*(?:-n|-no|--noheadings|-fn|-nf)).*\\s/$|.*\\bfindmnt (?:-[a-z]*n[a-z]* )+(?:-[a-z]*o )?SOURCE (?:--target )?/$");
    private static final Pattern ADDRESSES = Pattern.compile(".*\\bhostname -I\\b.*");
    private static final Pattern LINE = Pattern.compile(".*\\bcat /proc/cmdline\\b.*");
    private static final Pattern STARTS = Pattern.compile(".*\\bjournalctl --list-boots\\b.*");
    private static final Pattern START_ROW =
            Pattern.compile("^\\s*-?\\d{1,5}\\s+[0-9a-f]{32}\\s+(?:[A-Z][a-z]{2}\\s+)?(\\d{4}-\\d\\d-\\d\\d).*$");
    private static final Pattern LIFE =
            Pattern.compile(".*\\bcat /sys/(?:block|class/block)/(mmcblk\\d)/device/life_time\\b.*");
    private static final Pattern LIVES = Pattern.compile("0x([0-9a-f]{2})\\s+0x([0-9a-f]{2})");
    private static final Pattern HEXES = Pattern.compile("[0-9a-f]{8,16}");
    private static final Pattern MACS = Pattern.compile("(?:[0-9a-f]{2}:){5}[0-9a-f]{2}");
    private static final Pattern ADDRESS = Pattern.compile("^(\\d{1,3}(?:\\.\\d{1,3}){3})(?:\\s.*)?$");

    @Override
    public String kind() {
        return "answers";
    }

    /** The command a line gives, where it gives one. */
    static Optional<String> command(String line) {
        Matcher section = SECTION.matcher(line.strip());
        Matcher prompted = PROMPTED.matcher(line.strip());
        return section.matches()
                ? Optional.of(section.group(1))
                : prompted.matches() ? Optional.of(prompted.group(1)) : Optional.empty();
    }

    @Override
    public void read(Page page) {
        for (int i = 1; i < page.size(); i++) {
            Optional<String> command = command(page.line(i));
            if (command.isPresent()) {
                answer(page, command.get().strip(), i + 1);
            }
        }
    }

    private static void answer(Page page, String command, int at) {
        String line = page.line(at).strip();
        if (STARTS.matcher(command).matches()) {
            starts(page, at);
        }
        if (!page.isFree(at) || line.isEmpty() || line.length() > 2000) {
            return;
        }
        String lower = line.toLowerCase(Locale.ROOT);
        Matcher address = ADDRESS.matcher(line);
        if (MODEL.matcher(command).matches() && !isComplaint(line)) {
            page.board("model", line, at);
        } else if (SERIAL.matcher(command).matches() && HEXES.matcher(lower).matches()) {
            page.board("serial", lower, at);
        } else if (MAC.matcher(command).matches() && MACS.matcher(lower).matches()) {
            page.board("mac", lower, at);
        } else if (ROOT.matcher(command).matches() && line.matches("/dev/[A-Za-z0-9/_.-]{1,60}")) {
            page.board("rootDevice", line, at);
        } else if (ADDRESSES.matcher(command).matches() && address.matches()) {
            page.board("address", address.group(1), at);
        } else if (LIFE.matcher(command).matches() && LIVES.matcher(lower).matches()) {
            life(page, command, lower, at);
        } else if (LINE.matcher(command).matches() && line.contains("=")) {
            page.board("kernelLine", line, at);
        }
    }

    /** An eMMC's two areas in tenths (JESD84-B51, DEVICE_LIFE_TIME_EST_TYP_A and B); the worse counts. */
    private static void life(Page page, String command, String line, int at) {
        Matcher lives = LIVES.matcher(line);
        Matcher device = LIFE.matcher(command);
        if (lives.matches() && device.matches()) {
            long worst = Math.max(Long.parseLong(lives.group(1), 16), Long.parseLong(lives.group(2), 16));
            if (worst > 0 && worst <= 11) {
                page.medium("lifeUsed", worst * 10, at, Optional.of(device.group(1)));
            }
        }
    }

    private static boolean isComplaint(String line) {
        return line.contains("No such file")
                || line.startsWith("cat: ")
                || line.startsWith("sh: ")
                || line.contains("not found");
    }

    /** Each start the kernel's log is kept of (journalctl(1)). */
    private static void starts(Page page, int first) {
        List<String> days = new ArrayList<>();
        int number = first;
        for (; number <= page.size() && page.isFree(number); number++) {
            Matcher row = START_ROW.matcher(page.line(number));
            boolean head = page.line(number).strip().startsWith("IDX BOOT ID");
            if (!row.matches() && !head) {
                break;
            }
            page.claim(number);
            if (row.matches()) {
                days.add(row.group(1));
            }
        }
        if (!days.isEmpty()) {
            page.board("starts", Starts.of(days), first);
        }
    }
}
