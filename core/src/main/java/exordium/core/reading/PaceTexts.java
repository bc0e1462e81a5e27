// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** How quick a drive was read at the board: dd(1) that reads a drive, hdparm(8), whose megabytes are of 1024 times 1024. */
final class PaceTexts implements TextParser {
    private static final Pattern READS = Pattern.compile(".*\\bdd\\b.*\\bif=/dev/([a-z][a-z0-9]{1,20})\\b.*");
    private static final Pattern COPIED = Pattern.compile(
            "^(\\d{4,18}) bytes(?: \\([^)]{1,60}\\))? copied, (\\d{1,9}(?:[.,]\\d{1,9})?(?:e[+-]?\\d{1,3})?) s(?:econds)?, .{1,40}$");
    private static final Pattern RECORDS = Pattern.compile("^\\d{1,12}\\+\\d{1,12} records (?:in|out)$");
    private static final Pattern DEVICE = Pattern.compile("^/dev/([a-z][a-z0-9]{1,20}):$");
    private static final Pattern BUFFERED = Pattern.compile(
            "^\\s*Timing (?:buffered|O_DIRECT) disk reads:\\s+[0-9.]{1,12} MB in\\s+[0-9.]{1,9} seconds =\\s+([0-9.]{1,9}) MB/sec\\s*$");
    private static final Pattern CACHED = Pattern.compile("^\\s*Timing cached reads:.*$");

    @Override
    public String kind() {
        return "paces";
    }

    @Override
    public void read(Page page) {
        Optional<String> reading = Optional.empty();
        for (int i = 1; i <= page.size(); i++) {
            String line = page.line(i);
            Matcher reads = READS.matcher(line);
            Matcher device = DEVICE.matcher(line.strip());
            Matcher copied = COPIED.matcher(line.strip());
            Matcher buffered = BUFFERED.matcher(line);
            if (reads.matches()) {
                reading = Optional.of(reads.group(1));
            } else if (device.matches()) {
                reading = Optional.of(device.group(1));
                page.claim(i);
            } else if (copied.matches() && reading.isPresent()) {
                double seconds = Double.parseDouble(copied.group(2).replace(',', '.'));
                long bytes = Long.parseLong(copied.group(1));
                if (seconds > 0) {
                    page.medium("readRate", Math.round(bytes / seconds), i, reading);
                }
            } else if (buffered.matches() && reading.isPresent()) {
                page.medium("readRate", Math.round(Double.parseDouble(buffered.group(1)) * (1 << 20)), i, reading);
            } else if (RECORDS.matcher(line.strip()).matches()
                    || CACHED.matcher(line).matches()) {
                page.claim(i);
            }
        }
    }
}
