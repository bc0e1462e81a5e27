// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apache.commons.codec.digest.DigestUtils;

/** Digests that come along with files. */
final class Digests {
    /** A digest, and the file it is of (sha256sum(1)). */
    private static final Pattern LISTED = Pattern.compile("^\\\\?([0-9a-fA-F]{64})\\s+[* ]?(?:\\./)?(\\S.*?)\\s*$");

    private Digests() {}

    static String md5(byte[] content) {
        return DigestUtils.md5Hex(content);
    }

    static Map<String, String> listed(byte[] list) {
        Map<String, String> found = new LinkedHashMap<>();
        new String(list, StandardCharsets.UTF_8).lines().forEach(line -> {
            Matcher parts = LISTED.matcher(line);
            if (parts.matches()) {
                found.put(parts.group(2), parts.group(1).toLowerCase(Locale.ROOT));
            }
        });
        return found;
    }
}
