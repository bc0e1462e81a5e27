// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Lists of drives: lsblk(8) as a table, as pairs, as JSON. */
final class DriveTexts implements TextParser {
    private static final ObjectMapper JSON = new ObjectMapper();
    private static final Pattern PAIR = Pattern.compile("([A-Z][A-Z:_-]{1,20})=\"([^\"]{0,500})\"");
    private static final Pattern TREE = Pattern.compile("^[\\s`|├└─│-]+");
    private static final Pattern BLOCKS =
            Pattern.compile("^\\s*\\d+\\s+\\d+\\s+(\\d{1,15})\\s+([a-z][a-z0-9]{1,30})\\s*$");
    /** What lsblk(8) can head a column with, as far as people ask for it. */
    private static final Set<String> COLUMNS = Set.of(
            "NAME",
            "KNAME",
            "PATH",
            "MAJ:MIN",
            "RM",
            "SIZE",
            "RO",
            "TYPE",
            "MOUNTPOINT",
            "MOUNTPOINTS",
            "MODEL",
            "TRAN",
            "FSTYPE",
            "FSVER",
            "LABEL",
            "UUID",
            "PARTUUID",
            "PARTLABEL",
            "FSAVAIL",
            "FSUSE%",
            "FSSIZE",
            "FSUSED",
            "SERIAL",
            "VENDOR",
            "ROTA",
            "HOTPLUG",
            "STATE",
            "REV",
            "PTTYPE",
            "PTUUID",
            "DISC-GRAN",
            "DISC-MAX",
            "SCHED",
            "WWN");

    private static final Pattern NOT_OURS = Pattern.compile("^(loop|ram|zram|dm-|sr)\\d*.*");

    @Override
    public String kind() {
        return "drives";
    }

    @Override
    public void read(Page page) {
        for (int i = 1; i <= page.size(); i++) {
            if (!page.isFree(i)) {
                continue;
            }
            String line = page.line(i);
            if ((line.startsWith("NAME=\"") || line.contains(" NAME=\""))
                    && (line.contains("SIZE=\"") || line.contains("TYPE=\""))) {
                pairs(page, i);
            } else if (line.strip().equals("{") || line.contains("\"blockdevices\"")) {
                i = json(page, i);
            } else {
                Columns columns = new Columns(line);
                if (columns.has("NAME") && columns.only(COLUMNS) && (columns.has("SIZE") || columns.has("FSTYPE"))) {
                    i = table(page, i, columns);
                } else if (line.strip().matches("major\\s+minor\\s+#blocks\\s+name")) {
                    i = partitions(page, i);
                }
            }
        }
    }

    private static int table(Page page, int head, Columns columns) {
        page.claim(head);
        int number = head + 1;
        for (; number <= page.size() && page.isFree(number); number++) {
            String line = page.line(number);
            Map<String, String> placed = columns.cells(line);
            String name = TREE.matcher(line).replaceFirst("").split("\\s", 2)[0];
            boolean sized = !columns.has("SIZE") || placed.containsKey("SIZE");
            if (line.isBlank() || !name.matches("(?:/dev/)?[a-z][a-z0-9/_.-]{1,40}") || !sized) {
                break;
            }
            row(page, number, name, placed);
        }
        return number - 1;
    }

    /** /proc/partitions: blocks of 1024 bytes (proc(5)). */
    private static int partitions(Page page, int head) {
        page.claim(head);
        int number = head + 1;
        for (; number <= page.size() && page.isFree(number); number++) {
            Matcher row = BLOCKS.matcher(page.line(number));
            if (page.line(number).isBlank()) {
                continue;
            }
            if (!row.matches()) {
                break;
            }
            row(page, number, row.group(2), Map.of("SIZE", String.valueOf(Long.parseLong(row.group(1)) << 10)));
        }
        return number - 1;
    }

    private static void pairs(Page page, int number) {
        Map<String, String> cells = new LinkedHashMap<>();
        Matcher pair = PAIR.matcher(page.line(number));
        while (pair.find()) {
            cells.put(pair.group(1), pair.group(2));
        }
        String name = cells.getOrDefault("NAME", "");
        if (!name.isEmpty()) {
            row(page, number, name, cells);
        }
    }

    private static void row(Page page, int number, String name, Map<String, String> cells) {
        page.claim(number);
        String plain = name.startsWith("/dev/") ? name.substring("/dev/".length()) : name;
        if (NOT_OURS.matcher(plain).matches()) {
            return;
        }
        boolean disk = cells.getOrDefault("TYPE", "").equals("disk")
                || (!cells.containsKey("TYPE") && plain.matches("[a-z]+|mmcblk\\d+|nvme\\d+n\\d+"));
        Optional<Long> bytes = Figures.bytes(cells.getOrDefault("SIZE", ""));
        if (disk && bytes.isPresent()) {
            page.medium(
                    "drive",
                    drive(plain, bytes.get(), cells.get("MODEL"), cells.get("TRAN")),
                    number,
                    Optional.of(plain));
        }
        mounted(page, number, plain, cells.getOrDefault("MOUNTPOINTS", cells.getOrDefault("MOUNTPOINT", "")));
    }

    private static void mounted(Page page, int number, String name, String at) {
        if (at.startsWith("/")) {
            page.board("mount", MountTexts.mount("/dev/" + name, at, null, null), number);
            if (at.equals("/")) {
                page.board("rootDevice", "/dev/" + name, number);
            }
        }
    }

    private static Map<String, Object> drive(String name, long bytes, String model, String bus) {
        Map<String, Object> drive = new LinkedHashMap<>();
        drive.put("name", name);
        drive.put("bytes", bytes);
        drive.put("model", model == null || model.isBlank() ? null : model.strip());
        drive.put("bus", bus == null || bus.isBlank() ? bus(name) : bus.strip());
        return drive;
    }

    private static String bus(String name) {
        return name.startsWith("mmcblk") ? "mmc" : name.startsWith("nvme") ? "nvme" : null;
    }

    /** From the brace that opens to the one that closes it. */
    private static int json(Page page, int first) {
        StringBuilder text = new StringBuilder();
        int depth = 0;
        for (int number = first; number <= page.size(); number++) {
            String line = page.line(number);
            text.append(line).append('\n');
            depth += (int) (line.chars().filter(each -> each == '{').count()
                    - line.chars().filter(each -> each == '}').count());
            if (depth <= 0) {
                return taken(page, first, number, text.toString()) ? number : first;
            }
        }
        return first;
    }

    private static boolean taken(Page page, int first, int last, String text) {
        try {
            JsonNode devices = JSON.readTree(text).path("blockdevices");
            if (!devices.isArray()) {
                return false;
            }
            for (int number = first; number <= last; number++) {
                page.claim(number);
            }
            devices.forEach(each -> node(page, first, last, each, 0));
            return true;
        } catch (JsonProcessingException e) {
            return false;
        }
    }

    private static void node(Page page, int first, int last, JsonNode node, int depth) {
        String name = node.path("name").asText("");
        if (name.isEmpty() || depth > 8) {
            return;
        }
        int number = first;
        while (number < last && !page.line(number).contains("\"" + name + "\"")) {
            number++;
        }
        Map<String, String> cells = new LinkedHashMap<>();
        cells.put("TYPE", node.path("type").asText(""));
        cells.put("SIZE", node.path("size").asText(""));
        if (node.hasNonNull("model")) {
            cells.put("MODEL", node.get("model").asText());
        }
        if (node.hasNonNull("tran")) {
            cells.put("TRAN", node.get("tran").asText());
        }
        JsonNode at = node.hasNonNull("mountpoint")
                ? node.get("mountpoint")
                : node.path("mountpoints").path(0);
        cells.put("MOUNTPOINT", at.asText(""));
        row(page, number, name, cells);
        node.path("children").forEach(each -> node(page, first, last, each, depth + 1));
    }
}
