// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What media tell of themselves, and sums of files: smartctl(8), mmc extcsd, sha256sum(1). */
final class HealthTexts implements TextParser {
    private static final Pattern USED =
            Pattern.compile("^\\s*Percentage Used(?: Endurance Indicator)?:\\s+(\\d{1,3})%?\\s*$");
    /** nvme(1), smart-log; smartctl(8), device statistics. */
    private static final Pattern LOGGED = Pattern.compile(
            "^percentage_used\\s*:\\s*(\\d{1,3})%?\\s*$|^0x07\\s+0x008\\s+\\d\\s+(\\d{1,3})\\s+\\S+\\s+Percentage Used Endurance Indicator\\s*$");
    /** smartctl(8), attributes that count down from 100. */
    private static final Pattern LEFT = Pattern.compile(
            "^\\s*\\d{1,3}\\s+(?:Media_Wearout_Indicator|SSD_Life_Left|Percent_Lifetime_Remain)\\s+0x[0-9a-f]{4}\\s+0{0,2}(\\d{1,3})\\s.*$");

    private static final Pattern LIFE =
            Pattern.compile("^.*\\[?EXT_CSD_DEVICE_LIFE_TIME_EST_TYP_([AB])\\]?\\s*[:=]\\s*0x([0-9a-fA-F]{2})\\s*$");
    private static final Pattern MODEL = Pattern.compile("^(?:Device Model|Model Number|Product):\\s+(\\S.{0,100})$");
    private static final Pattern SERIAL = Pattern.compile("^Serial Number:\\s+(\\S{1,60})\\s*$");
    private static final Pattern SMART = Pattern.compile("^smartctl \\d+\\.\\d+.*$");
    private static final Pattern SMART_LINE = Pattern.compile(
            "^(?:=== START OF .*===|SMART .*|(?:Firmware Version|User Capacity|Sector Sizes?|Rotation Rate|Form Factor|ATA Version is|SATA Version is|Local Time is|SMART support is|PCI Vendor/Subsystem ID|IEEE OUI Identifier|Total NVM Capacity|Namespace 1 .*|Critical Warning|Temperature|Available Spare.*|Data Units (?:Read|Written)|Host (?:Read|Write) Commands|Power Cycles|Power On Hours|Unsafe Shutdowns|Media and Data Integrity Errors|Controller ID|NVMe Version|Number of Namespaces):.*|Copyright \\(C\\).*)$");
    private static final Pattern SUM =
            Pattern.compile("^([0-9a-f]{64}|[0-9a-f]{128}|[0-9a-f]{40}|[0-9a-f]{32}) [ *](\\S.{0,300})$");

    @Override
    public String kind() {
        return "health";
    }

    @Override
    public void read(Page page) {
        boolean smart = false;
        long worst = -1;
        int worstAt = 0;
        for (int i = 1; i <= page.size(); i++) {
            if (!page.isFree(i)) {
                continue;
            }
            String line = page.line(i).stripTrailing();
            smart |= SMART.matcher(line).matches() || line.startsWith("=== START OF INFORMATION");
            Matcher used = USED.matcher(line);
            Matcher life = LIFE.matcher(line);
            Matcher model = MODEL.matcher(line);
            Matcher serial = SERIAL.matcher(line);
            Matcher sum = SUM.matcher(line);
            Matcher logged = LOGGED.matcher(line);
            Matcher left = LEFT.matcher(line);
            if (logged.matches()) {
                page.medium(
                        "lifeUsed",
                        Long.parseLong(logged.group(1) != null ? logged.group(1) : logged.group(2)),
                        i,
                        Optional.empty());
            } else if (smart && left.matches()) {
                page.medium("lifeUsed", Math.max(0, 100 - Long.parseLong(left.group(1))), i, Optional.empty());
            } else if (used.matches()) {
                page.medium("lifeUsed", Long.parseLong(used.group(1)), i, Optional.empty());
            } else if (life.matches()) {
                page.claim(i);
                long percent = Long.parseLong(life.group(2), 16) * 10;
                if (percent > worst && percent <= 110) {
                    worst = percent;
                    worstAt = i;
                }
            } else if (smart && model.matches()) {
                page.medium("model", model.group(1).strip(), i, Optional.empty());
            } else if (smart && serial.matches()) {
                page.medium("serial", serial.group(1), i, Optional.empty());
            } else if (sum.matches()) {
                page.pc("digest", sum.group(1).toLowerCase(Locale.ROOT), i);
            } else if (smart
                    && (SMART.matcher(line).matches()
                            || SMART_LINE.matcher(line).matches())) {
                page.claim(i);
            }
        }
        if (worst > 0) {
            page.medium("lifeUsed", worst, worstAt, Optional.empty());
        }
    }
}
