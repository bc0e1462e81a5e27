// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** The kernel's own words, and how long a start took: its log, /proc/cmdline, systemd-analyze(1). */
final class KernelTexts implements TextParser {
    private static final Pattern STAMPED = Pattern.compile(
            "^(?:\\[\\s*\\d{1,9}\\.\\d{1,9}\\]|[A-Z][a-z]{2} [ \\d]\\d \\d\\d:\\d\\d:\\d\\d \\S{1,64} kernel:(?: \\[\\s*\\d{1,9}\\.\\d{1,9}\\])?)\\s?(.*)$");
    private static final Pattern LINE = Pattern.compile("^(?:Kernel command line|Command line): (.+)$");
    private static final Pattern ALONE = Pattern.compile("^(?:\\S+ )*root=\\S+(?: \\S+)*$");
    private static final Pattern MODEL = Pattern.compile("^(?:OF: fdt: )?Machine model: (.{1,120})$");
    private static final Pattern MEMORY = Pattern.compile("^Memory: \\d{1,12}K/(\\d{1,12})K available.*$");
    private static final Pattern VOLTAGE = Pattern.compile("(?i)under-?voltage detected");
    private static final Pattern BROKEN = Pattern.compile(
            "^(?:EXT[234]-fs error|EXT4-fs \\(\\S+\\): .*(?:error|corrupt)|F2FS-fs.*(?:error|corrupt)|FAT-fs|BTRFS error|BTRFS: error)[ (].*$");
    private static final Pattern DEVICE = Pattern.compile("\\((?:device )?([a-z][a-z0-9]{1,20})\\)");
    private static final Pattern DISK =
            Pattern.compile("^sd \\S+ \\[([a-z]{2,6})\\] (\\d{1,15}) (512|4096)-byte logical blocks: .*$");
    private static final Pattern CARD =
            Pattern.compile("^(mmcblk\\d+): mmc\\d+:[0-9a-f]{4} (\\S{1,20}) (\\d{1,5}(?:\\.\\d{1,3})?) ([MGT])iB.*$");
    private static final Pattern STARTUP = Pattern.compile("^Startup finished in (.{1,200}?)\\s*$");
    private static final Pattern PC = Pattern.compile(
            "(?i)^(?:BIOS-e820|BIOS-provided|x86/|smpboot: CPU0: (?:Intel|AMD)|Linux version \\S{1,60}(?:amd64|x86_64)).*");

    @Override
    public String kind() {
        return "kernel";
    }

    @Override
    public void read(Page page) {
        for (int i = 1; i <= page.size(); i++) {
            if (!page.isFree(i)) {
                continue;
            }
            String line = page.line(i).strip();
            Matcher stamped = STAMPED.matcher(line);
            if (stamped.matches()) {
                page.claim(i);
                said(page, i, stamped.group(1).strip());
            } else if (STARTUP.matcher(line).matches()) {
                startup(page, i, line);
            } else if (isKernelLine(line)) {
                page.board("kernelLine", line, i);
            } else if (LINE.matcher(line).matches() || MODEL.matcher(line).matches()) {
                said(page, i, line);
            }
        }
    }

    private static boolean isKernelLine(String line) {
        return ALONE.matcher(line).matches()
                && (line.contains("console=")
                        || line.contains("rootwait")
                        || line.contains("rootfstype=")
                        || line.startsWith("BOOT_IMAGE=")
                        || line.matches(".*\\b(ro|rw|quiet)\\b.*"))
                && !line.startsWith("append ")
                && !line.startsWith("options ");
    }

    private static void startup(Page page, int number, String line) {
        int equals = line.lastIndexOf('=');
        Optional<Double> all = Figures.seconds(equals < 0 ? line : line.substring(equals + 1));
        all.ifPresent(seconds -> page.board("startSeconds", seconds, number));
    }

    private static void said(Page page, int number, String words) {
        if (PC.matcher(words).matches()) {
            page.isOfPc();
        }
        Matcher line = LINE.matcher(words);
        Matcher model = MODEL.matcher(words);
        Matcher memory = MEMORY.matcher(words);
        Matcher disk = DISK.matcher(words);
        Matcher card = CARD.matcher(words);
        if (line.matches()) {
            page.board("kernelLine", line.group(1).strip(), number);
        } else if (model.matches()) {
            page.board("model", model.group(1).strip(), number);
        } else if (memory.matches()) {
            page.board("memoryBytes", Long.parseLong(memory.group(1)) << 10, number);
        } else if (VOLTAGE.matcher(words).find()) {
            page.board("underVoltage", true, number);
        } else if (disk.matches()) {
            Map<String, Object> drive = new LinkedHashMap<>();
            drive.put("name", disk.group(1));
            drive.put("bytes", Long.parseLong(disk.group(2)) * Long.parseLong(disk.group(3)));
            drive.put("model", null);
            drive.put("bus", null);
            page.medium("drive", drive, number, Optional.of(disk.group(1)));
        } else if (card.matches()) {
            Map<String, Object> drive = new LinkedHashMap<>();
            drive.put("name", card.group(1));
            drive.put("bytes", Figures.bytes(card.group(3) + card.group(4)).orElse(0L));
            drive.put("model", card.group(2));
            drive.put("bus", "mmc");
            page.medium("drive", drive, number, Optional.of(card.group(1)));
        } else if (BROKEN.matcher(words).matches()) {
            Matcher device = DEVICE.matcher(words);
            page.medium(
                    "fileSystemError", words, number, device.find() ? Optional.of(device.group(1)) : Optional.empty());
        } else if (words.startsWith("Startup finished in ") || words.contains("systemd[1]: Startup finished in ")) {
            startup(page, number, words);
        }
    }
}
