// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FileBody;
import exordium.core.finding.Subject;
import exordium.core.firststart.intents.Intents;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.firststart.kernelline.IpWord;
import exordium.core.firststart.kernelline.KernelLine;
import exordium.core.firststart.settings.LineFinding;
import exordium.core.firststart.settings.SettingsDocument;
import exordium.core.quantity.Coded;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * "It started, but …": what of a medium's settings explains it, and the intents that mend it. Where nothing on the medium does,
 * that is said, with where to look next. Common practice, no source.
 */
public final class StartedBut {

    private final FirstStartFiles found;
    private final MediumFiles files;
    private final BoardProfile board;
    private final List<Reason> reasons = new ArrayList<>();

    private StartedBut(FirstStartFiles found, BoardProfile board) {
        this.found = found;
        this.files = found.files();
        this.board = board;
    }

    /** What people see. */
    public enum Symptom implements Coded {
        NO_PICTURE("There is no picture"),
        BLACK_BORDERS("The picture has black borders"),
        KEYS_SWAPPED("Y and Z are swapped"),
        NO_NETWORK("There is no network"),
        WRONG_ADDRESS("It has another address"),
        LOGIN_REFUSED("The login is refused"),
        TIME_WRONG("The time is wrong");

        private final String title;

        Symptom(String title) {
            this.title = title;
        }

        public String title() {
            return title;
        }
    }

    /**
     * What explains it.
     *
     * @param sure whether it is read off the medium; else only where to look next
     * @param mend what to want, so that it goes away; empty where the medium has no part in it
     */
    public record Reason(String text, boolean sure, Optional<Intents> mend) {}

    /** The likeliest first. */
    public static List<Reason> of(Symptom symptom, FirstStartFiles found, BoardProfile board) {
        StartedBut why = new StartedBut(found, board);
        switch (symptom) {
            case NO_PICTURE -> why.noPicture();
            case BLACK_BORDERS -> why.borders();
            case KEYS_SWAPPED -> why.keys();
            case NO_NETWORK -> why.noNetwork();
            case WRONG_ADDRESS -> why.address();
            case LOGIN_REFUSED -> why.login();
            case TIME_WRONG -> why.time();
        }
        return List.copyOf(why.reasons);
    }

    private void sure(String text, Map<String, ?> mend) {
        reasons.add(new Reason(text, true, Optional.of(IntentsReader.of(mend))));
    }

    private void sure(String text) {
        reasons.add(new Reason(text, true, Optional.empty()));
    }

    private void look(String text) {
        reasons.add(new Reason(text, false, Optional.empty()));
    }

    private Optional<SettingsDocument> settings() {
        return board.startFiles().settings().flatMap(files::body).map(body -> SettingsDocument.parse(body.bytes()));
    }

    private boolean sets(String key, String value) {
        return settings().filter(file -> file.sets(key, value)).isPresent();
    }

    private Optional<KernelLine> line() {
        return files.body(files.kernelLine())
                .flatMap(body -> KernelLine.in(body.text(), board.startFiles().kernelLineForm()));
    }

    private String text(String path) {
        return files.body(path).filter(body -> !body.link()).map(FileBody::text).orElse("");
    }

    /** Lines of the settings file that an editor spoiled: what they were to set does not take effect. */
    private void spoiled() {
        for (String path : files.bodies().keySet().stream().sorted().toList()) {
            List<LineFinding> broken =
                    StartFilesLint.file(path, files.bodies().get(path).bytes(), files.kernelLine(), board).stream()
                            .filter(each -> each.finding().isAbout(Subject.SPOILED_LINE)
                                    || each.finding().isAbout(Subject.LINE_ENDS))
                            .toList();
            if (!broken.isEmpty()) {
                sure(path + ", line " + broken.get(0).line() + ": "
                        + broken.get(0).finding().text()
                        + " What that line wanted does not take effect; mend it under Files.");
            }
        }
    }

    private void noPicture() {
        if (sets("hdmi_ignore_hotplug", "1")) {
            sure(
                    "hdmi_ignore_hotplug=1 keeps the picture off even with a monitor.",
                    Map.of("display", Map.of("withoutMonitor", true)));
        }
        if (!sets("hdmi_force_hotplug", "1") && board.startFiles().settings().isPresent()) {
            sure(
                    "Nothing asks for a picture without a monitor: a monitor that is switched on after the board, or through an"
                            + " adapter, stays dark.",
                    Map.of("display", Map.of("withoutMonitor", true, "mode", "1920x1080@60")));
        }
        line().flatMap(line -> line.value("video"))
                .ifPresent(video -> sure(
                        "The kernel line fixes the mode " + video + "; a monitor that does not know it stays dark.",
                        Map.of("display", Map.of("mode", "1280x720@60"))));
        spoiled();
        look(
                "The monitor's own input, its cable, and the socket next to the power: boards with two sockets show the start on one.");
    }

    private void borders() {
        if (!sets("disable_overscan", "1")) {
            sure("Nothing switches the black borders off.", Map.of("display", Map.of("borders", false)));
        }
        settings().ifPresent(file -> file.lines().stream()
                .filter(each ->
                        each.key().filter(key -> key.startsWith("overscan_")).isPresent())
                .findFirst()
                .ifPresent(each -> sure("Line " + each.number() + " of the settings sets a border: "
                        + each.text().strip() + ".")));
        spoiled();
        look("The monitor: many cut or shrink the picture themselves; look for overscan or picture size in its menu.");
    }

    private void keys() {
        String layout = text("/etc/default/keyboard")
                .lines()
                .filter(each -> each.startsWith("XKBLAYOUT="))
                .map(each -> each.substring("XKBLAYOUT=".length()).replace("\"", ""))
                .reduce((first, last) -> last)
                .orElse("");
        if (layout.equals("us") || layout.equals("gb")) {
            sure(
                    "The keyboard is set to " + layout
                            + ", where Y and Z stand the other way round than on a German one.",
                    Map.of("keyboard", "de"));
        } else if (layout.equals("de")) {
            sure(
                    "The keyboard is set to de, where Y and Z stand the other way round than on a US one.",
                    Map.of("keyboard", "us"));
        } else if (layout.isEmpty()) {
            sure("No keyboard layout is set on this medium: the usual one is us.", Map.of("keyboard", "de"));
        }
        look("Type a password where it can be seen before it is set: one typed on another layout is another password.");
    }

    private void noNetwork() {
        Optional<String> ip = line().flatMap(line -> line.value("ip"));
        if (ip.isPresent()) {
            IpWord.parse(ip.get().strip())
                    .faults()
                    .forEach(fault -> sure(fault.text(), Map.of("network", Map.of("kind", "automatic"))));
            if (ip.get().startsWith("169.254.")) {
                sure(
                        "The address " + IpWord.parse(ip.get()).client()
                                + " is one for a straight cable: behind a router nobody answers it.",
                        Map.of("network", Map.of("kind", "automatic")));
            }
        }
        if (sets("dtoverlay", "disable-wifi")) {
            sure("Wi-Fi is switched off in the settings.", Map.of("on", List.of("wifi")));
        }
        StartFilesLint.of(found, board).stream()
                .filter(each -> each.isAbout(Subject.RADIO))
                .forEach(each -> sure(each.text()));
        boolean radio =
                files.in("/etc/NetworkManager/system-connections/").findAny().isPresent();
        boolean country =
                line().flatMap(line -> line.value("cfg80211.ieee80211_regdom")).isPresent();
        if (radio && !country) {
            sure("A Wi-Fi network is set, and no country: the radio may not transmit before.");
        }
        spoiled();
        look("The cable and the lights beside its socket; the router's list, by the hardware address.");
    }

    private void address() {
        Optional<String> ip = line().flatMap(line -> line.value("ip"));
        ip.ifPresent(word -> sure(
                "The kernel line fixes " + IpWord.parse(word.strip()).client() + ".",
                Map.of("network", Map.of("kind", "automatic"))));
        String cloud = text(NoCloud.NETWORK);
        if (cloud.contains("addresses:")) {
            sure("network-config on this medium fixes an address.", Map.of("network", Map.of("kind", "automatic")));
        }
        if (ip.isEmpty() && !cloud.contains("addresses:")) {
            sure(
                    "Nothing on this medium fixes an address: the router gives one, and another when it likes. Reserve it there, or fix it.");
        }
        look("Two with one address: the router's list shows whether something else has it.");
    }

    private void login() {
        boolean marker = files.has(PlainFiles.MARKER);
        boolean service = files.in("/etc/systemd/system/multi-user.target.wants/")
                .anyMatch(each -> each.matches(".*/sshd?\\.service"));
        if (!marker && !service && text(NoCloud.USER).isEmpty()) {
            sure(
                    "Remote login is off: there is no file ssh in the start partition, and the system does not switch it on.",
                    Map.of("remoteLogin", true));
        }
        if (files.has(PlainFiles.MARKER + ".txt")) {
            sure("The marker is called ssh.txt; the board looks for ssh.", Map.of("remoteLogin", true));
        }
        boolean userFile = board.startFiles().userFile().filter(files::has).isPresent();
        boolean person = text("/etc/passwd").lines().anyMatch(each -> each.matches("[^:]+:[^:]*:1\\d{3}:.*"));
        if (!userFile && !person && text(NoCloud.USER).isEmpty()) {
            sure("There is no account anybody could log in with: name one, with a public key or a password.");
        }
        board.startFiles().userFile().ifPresent(path -> StartFilesLint.file(
                        path, text(path).getBytes(java.nio.charset.StandardCharsets.UTF_8), files.kernelLine(), board)
                .forEach(each -> sure(each.finding().text())));
        if (text(NoCloud.USER).contains("ssh_pwauth: false")) {
            sure("user-data takes no passwords over the network (ssh_pwauth: false): log in with the key.");
        }
        look(
                "A host key that changed: after a card is written anew the old one has to be forgotten, ssh-keygen -R with its name.");
    }

    private void time() {
        Optional<String> zone = files.body("/etc/localtime")
                .filter(FileBody::link)
                .map(FileBody::text)
                .filter(link -> link.contains("zoneinfo/"))
                .map(link -> link.substring(link.indexOf("zoneinfo/") + 9));
        if (zone.isPresent()) {
            sure("The time zone is " + zone.get() + ": set the one you live in, if it is another.");
        } else {
            sure("No time zone is set on this medium: the system shows UTC.");
        }
        look("Without a network it has no time at all: most boards have no clock that runs while they are off.");
    }
}
