// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What hangs on USB and PCIe: lsusb(8), its tree, lspci(8) with the speed of links. */
final class BusTexts implements TextParser {
    private static final Pattern USB =
            Pattern.compile("^Bus \\d{3} Device \\d{3}: ID ([0-9a-f]{4}:[0-9a-f]{4})\\s*(.{0,200})$");
    private static final Pattern USB_TREE = Pattern.compile(
            "^[\\s|_/:]*(?:Bus \\d+\\.)?Port \\d+: Dev \\d+, (?:If \\d+, )?Class=([^,]{1,60}), Driver=([^,]{0,40}), (\\d{1,6}(?:\\.\\d)?)M(?:/x\\d)?\\s*$");
    private static final Pattern PCI =
            Pattern.compile("^((?:[0-9a-f]{4}:)?[0-9a-f]{2}:[0-9a-f]{2}\\.[0-7]) ([^:]{3,80}): (.{1,200})$");
    private static final Pattern IDS = Pattern.compile("\\[([0-9a-f]{4}:[0-9a-f]{4})\\]");
    private static final Pattern LINK =
            Pattern.compile("^\\s+LnkSta:\\s+Speed ([0-9.]{1,5})GT/s[^,]{0,30}, Width x(\\d{1,2}).*$");
    private static final Pattern INDENTED = Pattern.compile(
            "^[\\t ]+(?:Subsystem|Control|Status|Latency|Interrupt|IOMMU|Region|Capabilities|Kernel|Flags|Memory at|LnkCap|LnkCtl|DevCap|DevCtl|DevSta|Physical Slot|NUMA).*$");

    @Override
    public String kind() {
        return "buses";
    }

    @Override
    public void read(Page page) {
        for (int i = 1; i <= page.size(); i++) {
            if (!page.isFree(i)) {
                continue;
            }
            String line = page.line(i);
            Matcher usb = USB.matcher(line);
            Matcher tree = USB_TREE.matcher(line);
            Matcher pci = PCI.matcher(line);
            if (usb.matches()) {
                page.board("usb", device(usb.group(1), usb.group(2).strip(), null), i);
            } else if (tree.matches()) {
                String text = tree.group(1) + (tree.group(2).isBlank() ? "" : ", " + tree.group(2));
                page.board("usb", device(null, text, Math.round(Double.parseDouble(tree.group(3)) * 1e6 / 8)), i);
            } else if (pci.matches()) {
                i = pcie(page, i, pci);
            }
        }
    }

    /** One device with the lines that stand under it; the last of them. */
    private static int pcie(Page page, int first, Matcher pci) {
        String id = pci.group(1);
        Matcher ids = IDS.matcher(pci.group(3));
        while (ids.find()) {
            id = ids.group(1);
        }
        Long rate = null;
        int last = first;
        while (last < page.size() && page.isFree(last + 1)) {
            Matcher link = LINK.matcher(page.line(last + 1));
            if (link.matches()) {
                rate = Math.round(Double.parseDouble(link.group(1)) * 1e9 / 8 * Integer.parseInt(link.group(2)));
            } else if (!INDENTED.matcher(page.line(last + 1)).matches()) {
                break;
            }
            page.claim(++last);
        }
        page.board("pcie", device(id, pci.group(2) + ": " + pci.group(3), rate), first);
        return last;
    }

    private static Map<String, Object> device(String id, String text, Long rate) {
        Map<String, Object> device = new LinkedHashMap<>();
        device.put("id", id);
        device.put("text", text);
        device.put("rate", rate);
        return device;
    }
}
