// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import exordium.core.filesystem.FileBody;
import exordium.core.finding.Finding;
import exordium.core.firststart.intents.Intents;
import exordium.core.firststart.kernelline.KernelLine;
import java.util.List;
import java.util.Optional;

/**
 * The dialect of plain files: marker, user file and kernel line of the start partition, and the root's own files for what that
 * has none for. Everything stands on the medium before its first start; no program of ours runs at it.
 */
final class PlainFiles {
    /** The empty file that switches remote login on; exactly this name, nothing after it. Common practice, no source. */
    static final String MARKER = "ssh";

    private static final String KEYS_FOLDER = "/etc/ssh/authorized_keys/";
    private static final String KEYS_RULE = "/etc/ssh/sshd_config.d/50-first-start.conf";
    private static final String HOSTS = "/etc/hosts";
    private static final String OWN_HOST = "127.0.1.1";
    private static final String KEYBOARD = "/etc/default/keyboard";
    private static final String CONSOLE = "/etc/vconsole.conf";
    private static final String CONNECTIONS = "/etc/NetworkManager/";
    private static final String CONNECTION = CONNECTIONS + "system-connections/first-start.nmconnection";
    private static final String SUPPLICANT = "/etc/wpa_supplicant/";
    private static final String SUPPLICANT_FILE = SUPPLICANT + "wpa_supplicant-wlan0.conf";
    private static final String REGION = "cfg80211.ieee80211_regdom";
    private static final String JOURNAL = "/etc/systemd/journald.conf.d/50-first-start.conf";
    private static final String UNITS = "/etc/systemd/system/";
    private static final String WANTED = UNITS + "multi-user.target.wants/";
    private static final String UPDATES = "first-start-updates.service";

    private final Draft draft;
    private final Intents intents;

    PlainFiles(Draft draft, Intents intents) {
        this.draft = draft;
        this.intents = intents;
    }

    void put() {
        intents.remoteLogin().ifPresent(this::remoteLogin);
        intents.account().ifPresent(this::account);
        intents.hostName().ifPresent(this::hostName);
        intents.keyboard().ifPresent(this::keyboard);
        intents.timeZone().ifPresent(this::timeZone);
        intents.wantedNetwork().ifPresent(this::network);
        intents.remoteScreen().ifPresent(this::remoteScreen);
        intents.logsInMemory().ifPresent(this::logs);
        intents.updates().ifPresent(this::updates);
    }

    private void remoteLogin(boolean on) {
        if (!on) {
            draft.remove(MARKER);
            if (draft.has(WANTED + "ssh.service") || draft.has(WANTED + "sshd.service")) {
                draft.note(
                        "login-in-system", "The system on this medium switches remote login on by itself; that stays.");
            }
        }
    }

    private void account(Intents.Account account) {
        Optional<String> userFile = draft.profile().startFiles().userFile();
        if (account.passwordHash().isPresent()) {
            if (userFile.isPresent()) {
                draft.put(
                        userFile.get(),
                        account.name() + ":" + account.passwordHash().get() + "\n");
            } else {
                draft.caution(
                        "account-not-made",
                        draft.profile().title() + " reads no user file: make " + account.name()
                                + " at the first login.");
            }
        } else if (userFile.isPresent() && !hasAccount(account.name(), draft.text(userFile.get()))) {
            // crypt(5): no password hashes to an asterisk. The account is made, and keys alone open it.
            draft.put(userFile.get(), account.name() + ":*\n");
        }
        if (!account.keys().isEmpty() && draft.root("the public keys of " + account.name())) {
            draft.put(KEYS_FOLDER + account.name(), String.join("\n", account.keys()) + "\n");
            // sshd_config(5): AuthorizedKeysFile may name several files, %u stands for the account.
            draft.put(
                    KEYS_RULE,
                    "AuthorizedKeysFile .ssh/authorized_keys " + KEYS_FOLDER.replaceFirst("/$", "/%u") + "\n");
            boolean read = draft.text("/etc/ssh/sshd_config").lines().anyMatch(line -> line.strip()
                    .matches("(?i)include\\s+.*sshd_config\\.d/.*"));
            if (!read) {
                draft.put(
                        "/etc/ssh/sshd_config",
                        "Include /etc/ssh/sshd_config.d/*.conf\n" + draft.text("/etc/ssh/sshd_config"));
            }
        }
    }

    private boolean hasAccount(String name, String userFile) {
        return java.util.stream.Stream.concat(draft.text("/etc/passwd").lines(), userFile.lines())
                .anyMatch(line -> line.startsWith(name + ":"));
    }

    private void hostName(String name) {
        if (!draft.root("the host name")) {
            // kernel-command-line(7): takes precedence over /etc/hostname.
            draft.kernel(now -> now.with("systemd.hostname", name));
            return;
        }
        draft.put("/etc/hostname", name + "\n");
        List<String> lines = new java.util.ArrayList<>(draft.text(HOSTS)
                .lines()
                .filter(line -> !line.strip().startsWith(OWN_HOST + " ")
                        && !line.strip().startsWith(OWN_HOST + "\t"))
                .toList());
        if (lines.isEmpty()) {
            lines.add("127.0.0.1\tlocalhost");
        }
        // Debian policy: a host without a lasting address has its name at 127.0.1.1.
        lines.add(OWN_HOST + "\t" + name);
        draft.put(HOSTS, String.join("\n", lines) + "\n");
    }

    private void keyboard(String layout) {
        if (!draft.root("the keyboard")) {
            // vconsole.conf(5): the kernel line counts before the file.
            draft.kernel(now -> now.with("vconsole.keymap", plain(layout)));
            return;
        }
        String variant = layout.contains("(") ? layout.replaceAll(".*\\(|\\)", "") : "";
        // keyboard(5).
        String file = assigned(draft.text(KEYBOARD), "XKBLAYOUT", plain(layout));
        draft.put(KEYBOARD, assigned(file, "XKBVARIANT", variant));
        if (draft.has(CONSOLE)) {
            draft.put(CONSOLE, assigned(draft.text(CONSOLE), "KEYMAP", plain(layout)));
        }
    }

    private static String plain(String layout) {
        return layout.replaceFirst("\\(.*", "");
    }

    /** A file of shell assignments in which a name has this value; its last line counts and is changed where it stands. */
    static String assigned(String file, String name, String value) {
        String line = name + "=\"" + value + "\"";
        List<String> lines = new java.util.ArrayList<>(file.lines().toList());
        for (int i = lines.size() - 1; i >= 0; i--) {
            if (lines.get(i).strip().startsWith(name + "=")) {
                lines.set(i, line);
                return String.join("\n", lines) + "\n";
            }
        }
        lines.add(line);
        return String.join("\n", lines) + "\n";
    }

    private void timeZone(String zone) {
        if (draft.root("the time zone")) {
            // localtime(5).
            draft.put("/etc/localtime", FileBody.linkTo("../usr/share/zoneinfo/" + zone));
            if (draft.has("/etc/timezone")) {
                draft.put("/etc/timezone", zone + "\n");
            }
        }
    }

    private void network(Intents.Network network) {
        switch (network.kind()) {
            case FIXED, STRAIGHT_CABLE -> {
                if (NetworkWords.sets(network)) {
                    draft.kernel(now -> now.withBeforeRoot("ip", NetworkWords.ip(network, "")));
                }
            }
            case AUTOMATIC, RESERVED -> {
                if (draft.hasKernelLine()) {
                    draft.kernel(PlainFiles::withoutAddress);
                }
            }
            case WIFI -> wifi(network.wifi().orElseThrow());
        }
    }

    /** A root on a server needs its address. */
    private static KernelLine withoutAddress(KernelLine line) {
        return line.value("root").filter("/dev/nfs"::equals).isPresent() ? line : line.without("ip");
    }

    private void wifi(Intents.Wifi wifi) {
        if (!draft.root("the Wi-Fi network")) {
            return;
        }
        if (draft.in(CONNECTIONS).findAny().isPresent()) {
            // nm-settings-keyfile(5); a key of 64 hex digits is taken as it is.
            String secured = wifi.key()
                    .map(key -> "\n[wifi-security]\nkey-mgmt=wpa-psk\npsk=" + key + "\n")
                    .orElse("");
            draft.put(
                    CONNECTION,
                    FileBody.secret("[connection]\nid=first-start\ntype=wifi\n\n[wifi]\nmode=infrastructure\nssid="
                            + escaped(wifi.name()) + "\n" + secured
                            + "\n[ipv4]\nmethod=auto\n\n[ipv6]\nmethod=auto\n"));
            // Linux kernel documentation, cfg80211: the country the radio is in.
            draft.kernel(now -> now.with(REGION, wifi.country()));
        } else if (draft.in(SUPPLICANT).findAny().isPresent() || draft.has("/etc/wpa_supplicant")) {
            // wpa_supplicant.conf(5): a name in hex needs no quoting; psk without quotes is the key.
            draft.put(
                    SUPPLICANT_FILE,
                    FileBody.secret("ctrl_interface=/run/wpa_supplicant\ncountry=" + wifi.country()
                            + "\n\nnetwork={\n\tssid=" + hex(wifi.name()) + "\n\t"
                            + wifi.key().map(key -> "psk=" + key).orElse("key_mgmt=NONE") + "\n}\n"));
            enable("wpa_supplicant@wlan0.service", "wpa_supplicant@.service");
        } else {
            draft.caution(
                    "wifi-not-set",
                    "The system on this medium has nothing that joins a Wi-Fi network; start it wired.");
        }
    }

    /** nm-settings-keyfile(5): names are taken as they are but for backslashes, and for semicolons that would make a list. */
    private static String escaped(String name) {
        return name.chars().allMatch(c -> c >= ' ' && c <= '~')
                        && !name.contains("\\")
                        && !name.startsWith(" ")
                        && !name.endsWith(" ")
                        && !name.contains(";")
                ? name
                : bytes(name);
    }

    private static String bytes(String name) {
        StringBuilder list = new StringBuilder();
        for (byte each : name.getBytes(java.nio.charset.StandardCharsets.UTF_8)) {
            list.append(each & 0xFF).append(';');
        }
        return list.toString();
    }

    private static String hex(String name) {
        return java.util.HexFormat.of().formatHex(name.getBytes(java.nio.charset.StandardCharsets.UTF_8));
    }

    private void enable(String unit, String template) {
        String home = unitHome(template).orElse("/lib/systemd/system/");
        draft.put(WANTED + unit, FileBody.linkTo(home + template));
    }

    private Optional<String> unitHome(String unit) {
        return List.of("/usr/lib/systemd/system/", "/lib/systemd/system/", UNITS).stream()
                .filter(folder -> draft.has(folder + unit))
                .findFirst();
    }

    /** Services of a remote screen by what they speak: RFB (RFC 6143) or RDP. */
    private void remoteScreen(boolean on) {
        if (!draft.root("the remote screen")) {
            return;
        }
        Optional<String> unit = List.of("/usr/lib/systemd/system/", "/lib/systemd/system/").stream()
                .flatMap(draft::in)
                .map(path -> path.substring(path.lastIndexOf('/') + 1))
                .filter(name -> name.matches("[a-z0-9-]*(vnc|rdp)[a-z0-9-]*\\.service"))
                .filter(name -> !name.contains("@"))
                .sorted()
                .findFirst();
        if (unit.isEmpty()) {
            draft.caution(
                    "remote-screen-missing",
                    "The system on this medium has no service for a remote screen; install one at the first login.");
        } else if (on) {
            enable(unit.get(), unit.get());
        } else {
            draft.remove(WANTED + unit.get());
        }
    }

    private void logs(boolean inMemory) {
        if (draft.root("where logs are kept")) {
            if (inMemory) {
                // journald.conf(5).
                draft.put(JOURNAL, "[Journal]\nStorage=volatile\nRuntimeMaxUse=32M\n");
                draft.note("logs-in-memory", "Logs are gone after every restart: read them before.");
            } else {
                draft.remove(JOURNAL);
            }
        }
    }

    private void updates(Intents.Updates updates) {
        tell(draft, updates);
        if (!draft.root("updates at the first start")) {
            return;
        }
        if (updates == Intents.Updates.NONE) {
            draft.remove(UNITS + UPDATES);
            draft.remove(WANTED + UPDATES);
            return;
        }
        if (!draft.has("/usr/bin/apt-get")) {
            draft.caution(
                    "updates-not-set",
                    "The package tool of the system on this medium is not known here; update at the first login.");
            return;
        }
        String upgrade = updates == Intents.Updates.ALL
                ? "ExecStart=/usr/bin/apt-get -y -o Dpkg::Options::=--force-confold upgrade\n"
                : "";
        // systemd.unit(5), systemd.service(5); apt-get(8).
        draft.put(
                UNITS + UPDATES,
                "[Unit]\nDescription=Software brought up to date once\nWants=network-online.target\nAfter=network-online.target\n"
                        + "ConditionPathExists=!/var/lib/first-start-updates\n\n[Service]\nType=oneshot\n"
                        + "Environment=DEBIAN_FRONTEND=noninteractive\nExecStart=/usr/bin/apt-get update\n" + upgrade
                        + "ExecStart=/usr/bin/touch /var/lib/first-start-updates\n\n[Install]\nWantedBy=multi-user.target\n");
        draft.put(WANTED + UPDATES, FileBody.linkTo(UNITS + UPDATES));
    }

    /** Minutes: common practice, no source. */
    static void tell(Draft draft, Intents.Updates updates) {
        switch (updates) {
            case LISTS -> draft.note("updates-time", "Refreshing the lists adds about a minute to the first start.");
            case ALL ->
                draft.note(
                        "updates-time",
                        "Updating everything adds 5 to 20 minutes to the first start, and it has to stay on and wired meanwhile.");
            case NONE ->
                draft.add(Finding.note(
                        "updates-later",
                        "Nothing is updated at the first start; do it at the first login.",
                        exordium.core.finding.Basis.practice()));
        }
    }
}
