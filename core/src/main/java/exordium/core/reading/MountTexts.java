// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What is mounted where, and how full it is: mount(8), findmnt(8), df(1). */
final class MountTexts implements TextParser {
    private static final Pattern MOUNT = Pattern.compile(
            "^(/dev/[A-Za-z0-9/_.-]{1,60}) on (/\\S{0,200}) type ([a-z0-9_.]{1,20}) \\([^)]{0,1000}\\)$");
    private static final Pattern OTHER_MOUNT =
            Pattern.compile("^\\S{1,100} on (/\\S{0,200}) type [a-z0-9_.]{1,20} \\([^)]{0,1000}\\)$");
    private static final Pattern FOUND =
            Pattern.compile("^[\\s`|├└─│-]*(/\\S{0,200})\\s+(\\S{1,100})\\s+([a-z0-9_.]{1,20})\\s+(\\S{1,1000})$");
    /** /proc/mounts (proc(5)); an fstab looks alike, but does not say what is mounted. */
    private static final Pattern KERNEL =
            Pattern.compile("^(\\S{1,100}) (/\\S{0,200}) [a-z0-9_.]{1,30} (?:rw|ro)(?:,\\S{0,1000})? 0 0$");

    private static final Pattern DF = Pattern.compile(
            "^(\\S{1,100})\\s+(?:[a-z][a-z0-9_.]{1,20}\\s+)?([0-9.,]{1,20}[BKMGTP]?)\\s+([0-9.,]{1,20}[BKMGTP]?)\\s+([0-9.,]{1,20}[BKMGTP]?)\\s+(?:\\d{1,3}%|-)\\s+(/\\S{0,200})$");
    private static final Pattern DF_HEAD = Pattern.compile(
            "^Filesystem\\s+(?:Type\\s+)?(?:(1K|1024|1M|1G|1B|512)-blocks|(Size)|(1B-blocks))\\s+Used\\s+Avail(?:able)?\\s+(?:Use%|Capacity)\\s+Mounted on$");

    @Override
    public String kind() {
        return "mounts";
    }

    static Map<String, Object> mount(String device, String at, Long bytes, Long used) {
        Map<String, Object> mount = new LinkedHashMap<>();
        mount.put("device", device);
        mount.put("at", at);
        mount.put("bytes", bytes);
        mount.put("usedBytes", used);
        return mount;
    }

    @Override
    public void read(Page page) {
        for (int i = 1; i <= page.size(); i++) {
            if (!page.isFree(i)) {
                continue;
            }
            String line = page.line(i).strip();
            Matcher mount = MOUNT.matcher(line);
            if (mount.matches()) {
                put(page, i, mount.group(1), mount.group(2), null, null);
            } else if (OTHER_MOUNT.matcher(line).matches()) {
                page.claim(i);
            } else if (page.holdsKernelMounts() && KERNEL.matcher(line).matches()) {
                Matcher row = KERNEL.matcher(line);
                if (row.matches()) {
                    put(page, i, row.group(1), row.group(2), null, null);
                }
            } else if (line.matches("TARGET\\s+SOURCE\\s+FSTYPE\\s+OPTIONS")) {
                i = found(page, i);
            } else {
                Matcher head = DF_HEAD.matcher(line);
                if (head.matches()) {
                    i = full(page, i, unit(head.group(1)));
                }
            }
        }
    }

    private static long unit(String said) {
        if (said == null) {
            return 1;
        }
        return switch (said) {
            case "1K", "1024" -> 1L << 10;
            case "1M" -> 1L << 20;
            case "1G" -> 1L << 30;
            case "512" -> 512;
            default -> 1;
        };
    }

    private static int found(Page page, int head) {
        page.claim(head);
        int number = head + 1;
        for (; number <= page.size() && page.isFree(number); number++) {
            Matcher row = FOUND.matcher(page.line(number));
            if (!row.matches()) {
                break;
            }
            put(page, number, row.group(2).replaceFirst("\\[.*$", ""), row.group(1), null, null);
        }
        return number - 1;
    }

    private static int full(Page page, int head, long unit) {
        page.claim(head);
        int number = head + 1;
        for (; number <= page.size() && page.isFree(number); number++) {
            Matcher row = DF.matcher(page.line(number).strip());
            if (!row.matches()) {
                break;
            }
            Optional<Long> bytes = Figures.bytes(row.group(2)).map(each -> each * unit);
            Optional<Long> used = Figures.bytes(row.group(3)).map(each -> each * unit);
            put(page, number, row.group(1), row.group(5), bytes.orElse(null), used.orElse(null));
        }
        return number - 1;
    }

    /** Only what is on a drive; the rest is the system's own. */
    private static void put(Page page, int number, String device, String at, Long bytes, Long used) {
        page.claim(number);
        if (!device.startsWith("/dev/") || device.matches("/dev/(loop|ram|zram|fuse|mapper/).*")) {
            return;
        }
        page.board("mount", mount(device, at, bytes, used), number);
        if (at.equals("/") && !device.equals("/dev/root")) {
            page.board("rootDevice", device, number);
        }
    }
}
