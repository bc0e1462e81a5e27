// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Addresses of a machine, and what a login's client says when it does not get in: ip(8), ifconfig(8), ssh(1). */
final class NetworkTexts implements TextParser {
    private static final Pattern LINK = Pattern.compile("^\\d{1,3}: ([A-Za-z0-9@._-]{1,32}): <.*$");
    private static final Pattern OLD_LINK = Pattern.compile("^([a-z][a-z0-9]{1,15}): flags=.*$");
    private static final Pattern MAC = Pattern.compile("^\\s+(?:link/)?ether ((?:[0-9a-f]{2}:){5}[0-9a-f]{2})\\b.*$");
    private static final Pattern ADDRESS =
            Pattern.compile("^\\s+inet (\\d{1,3}(?:\\.\\d{1,3}){3})(?:/\\d{1,2})?\\b.*$");
    private static final Pattern MORE =
            Pattern.compile("^\\s+(?:link/|inet6 |valid_lft |RX |TX |altname |loop |unspec ).*$");
    private static final Pattern BRIEF =
            Pattern.compile("^([a-z][A-Za-z0-9@._-]{1,31}) +(?:UP|DOWN|UNKNOWN|LOWERLAYERDOWN|DORMANT)(?: +(.*))? *$");
    private static final Pattern OURS = Pattern.compile("^(?:eth|end|en|wlan|wl|usb)[a-z0-9@._-]*$");

    /** What viewers of remote screens say. */
    private static final Pattern SCREEN =
            Pattern.compile("(?i)^(?:\\S{1,30}: ?)?(?:unable|failed|could not|cannot) (?:to )?connect\\b.{0,200}$");

    private record Fault(Pattern said, String fault) {}

    private static final Fault[] FAULTS = {
        fault("[Cc]onnection (?:was )?refused", "refused"),
        fault("[Cc]onnection timed out|Operation timed out", "timed-out"),
        fault("No route to host|Network is unreachable|Host is down", "unreachable"),
        fault("REMOTE HOST IDENTIFICATION HAS CHANGED|Host key verification failed", "key-changed"),
        fault("Permission denied \\(|Permission denied, please try again|Too many authentication failures", "denied"),
        fault("Could not resolve hostname|Name or service not known", "no-such-name")
    };

    private static Fault fault(String said, String fault) {
        return new Fault(Pattern.compile(said), fault);
    }

    @Override
    public String kind() {
        return "network";
    }

    @Override
    public void read(Page page) {
        String link = "";
        for (int i = 1; i <= page.size(); i++) {
            if (!page.isFree(i)) {
                link = "";
                continue;
            }
            String line = page.line(i);
            Matcher brief = BRIEF.matcher(line);
            if (brief.matches()) {
                brief(page, i, brief);
                continue;
            }
            Matcher next = LINK.matcher(line);
            Matcher old = OLD_LINK.matcher(line);
            if (next.matches() || old.matches()) {
                link = next.matches() ? next.group(1) : old.group(1);
                page.claim(i);
            } else if (link.isEmpty() || !below(page, i, line, link)) {
                link = line.isBlank() ? link : "";
                login(page, i, line);
            }
        }
    }

    /** ip -br: one line a link. */
    private static void brief(Page page, int number, Matcher brief) {
        page.claim(number);
        if (!OURS.matcher(brief.group(1)).matches()) {
            return;
        }
        for (String word : brief.group(2).strip().split("\\s+")) {
            String plain = word.replaceFirst("/\\d{1,2}$", "");
            if (word.matches("(?:[0-9a-f]{2}:){5}[0-9a-f]{2}")) {
                page.board("mac", word, number);
            } else if (plain.matches("\\d{1,3}(\\.\\d{1,3}){3}") && isAddress(plain)) {
                page.board("address", plain, number);
            }
        }
    }

    private static boolean below(Page page, int number, String line, String link) {
        Matcher mac = MAC.matcher(line);
        Matcher address = ADDRESS.matcher(line);
        boolean ours = OURS.matcher(link).matches();
        if (mac.matches()) {
            page.claim(number);
            if (ours) {
                page.board("mac", mac.group(1).toLowerCase(Locale.ROOT), number);
            }
            return true;
        }
        if (address.matches()) {
            page.claim(number);
            if (ours && isAddress(address.group(1))) {
                page.board("address", address.group(1), number);
            }
            return true;
        }
        if (MORE.matcher(line).matches()) {
            page.claim(number);
            return true;
        }
        return false;
    }

    private static boolean isAddress(String text) {
        for (String part : text.split("\\.")) {
            if (Integer.parseInt(part) > 255) {
                return false;
            }
        }
        return !text.startsWith("127.");
    }

    private static void login(Page page, int number, String line) {
        boolean client = line.startsWith("ssh: ")
                || line.contains("@")
                || line.startsWith("Host key ")
                || line.startsWith("Permission denied")
                || line.startsWith("Received disconnect")
                || line.startsWith("kex_exchange")
                || SCREEN.matcher(line).matches();
        for (Fault each : FAULTS) {
            if (client && each.said().matcher(line).find()) {
                page.board("loginFault", each.fault(), number);
                return;
            }
        }
    }
}
