// SPDX-License-Identifier: Apache-2.0
package exordium.core.inspection;

import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;

/** The system on a root partition, from its os-release (freedesktop.org specification "os-release"). */
public record InstalledSystem(String id, String name, String version) {

    static InstalledSystem parse(byte[] osRelease) {
        Map<String, String> fields = new HashMap<>();
        for (String line : new String(osRelease, StandardCharsets.UTF_8).split("\\R")) {
            int equals = line.indexOf('=');
            if (equals > 0 && !line.startsWith("#")) {
                String value = line.substring(equals + 1).trim();
                if (value.length() >= 2 && (value.startsWith("\"") || value.startsWith("'"))) {
                    value = value.substring(1, value.length() - 1);
                }
                fields.put(line.substring(0, equals).trim(), value);
            }
        }
        return new InstalledSystem(
                fields.getOrDefault("ID", ""),
                fields.getOrDefault("NAME", fields.getOrDefault("ID", "")),
                fields.getOrDefault("VERSION_ID", ""));
    }

    public String title() {
        return version.isEmpty() ? name : name + " " + version;
    }
}
