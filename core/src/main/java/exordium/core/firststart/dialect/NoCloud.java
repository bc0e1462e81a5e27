// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.fasterxml.jackson.dataformat.yaml.YAMLFactory;
import com.fasterxml.jackson.dataformat.yaml.YAMLGenerator;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.firststart.intents.Intents;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/**
 * The dialect of cloud-init's NoCloud (cloud-init documentation: modules, network config version 2, NoCloud): user-data,
 * meta-data and network-config in the start partition. What they hold already stays, but for comments.
 */
public final class NoCloud {
    static final String USER = "user-data";
    static final String META = "meta-data";
    static final String NETWORK = "network-config";

    private static final String HEAD = "#cloud-config\n";
    private static final String JOURNAL = "/etc/systemd/journald.conf.d/50-first-start.conf";
    private static final ObjectMapper YAML = new ObjectMapper(new YAMLFactory()
            .disable(YAMLGenerator.Feature.WRITE_DOC_START_MARKER)
            .disable(YAMLGenerator.Feature.SPLIT_LINES)
            .enable(YAMLGenerator.Feature.MINIMIZE_QUOTES)
            .enable(YAMLGenerator.Feature.ALWAYS_QUOTE_NUMBERS_AS_STRINGS));

    private final Draft draft;
    private final Intents intents;

    NoCloud(Draft draft, Intents intents) {
        this.draft = draft;
        this.intents = intents;
    }

    void put() {
        String before = draft.text(USER) + draft.text(NETWORK);
        user();
        network();
        String after = draft.text(USER) + draft.text(NETWORK);
        if (!after.isEmpty() && (!after.equals(before) || !draft.has(META))) {
            meta(after);
        }
    }

    /** What a file holds; empty where it is not there, null where it is not to be understood. */
    private ObjectNode read(String path) {
        try {
            JsonNode node = YAML.readTree(draft.text(path));
            if (node instanceof ObjectNode object) {
                return object;
            }
            return node == null || node.isMissingNode() || node.isNull() ? YAML.createObjectNode() : null;
        } catch (JsonProcessingException e) {
            return null;
        }
    }

    private void broken(String path) {
        draft.add(Finding.stop(
                "cloud-not-yaml",
                path + " on this medium cannot be understood; mend it, or take it out, before anything is set in it.",
                Basis.standard("cloud-init documentation")));
    }

    private void write(String path, String head, ObjectNode node) {
        try {
            draft.put(path, head + YAML.writeValueAsString(node));
        } catch (JsonProcessingException e) {
            throw new IllegalStateException(e);
        }
    }

    private void user() {
        ObjectNode user = read(USER);
        if (user == null) {
            broken(USER);
            return;
        }
        ObjectNode before = user.deepCopy();
        intents.hostName().ifPresent(name -> user.put("hostname", name));
        intents.timeZone().ifPresent(zone -> user.put("timezone", zone));
        intents.keyboard().ifPresent(layout -> keyboard(user, layout));
        intents.remoteLogin().ifPresent(on -> login(user, on));
        intents.account().ifPresent(account -> account(user, account));
        intents.logsInMemory().ifPresent(on -> logs(user, on));
        intents.updates().ifPresent(updates -> {
            PlainFiles.tell(draft, updates);
            user.put("package_update", updates != Intents.Updates.NONE);
            user.put("package_upgrade", updates == Intents.Updates.ALL);
        });
        intents.remoteScreen().ifPresent(on -> new PlainFiles(draft, screenOnly(on)).put());
        if (intents.ownIdentity()) {
            user.put("ssh_deletekeys", true);
        }
        if (!user.equals(before)) {
            write(USER, HEAD, user);
        }
    }

    /** cloud-init has no word for it; the service is switched on in the root itself. */
    private static Intents screenOnly(boolean on) {
        return exordium.core.firststart.intents.IntentsReader.of(java.util.Map.of("remoteScreen", on));
    }

    private void keyboard(ObjectNode user, String layout) {
        ObjectNode keyboard = user.putObject("keyboard");
        keyboard.put("layout", layout.replaceFirst("\\(.*", ""));
        if (layout.contains("(")) {
            keyboard.put("variant", layout.replaceAll(".*\\(|\\)", ""));
        }
    }

    private void login(ObjectNode user, boolean on) {
        if (!on) {
            draft.remove(PlainFiles.MARKER);
            user.put("ssh_pwauth", false);
        } else if (intents.account().isEmpty()
                || intents.account().get().passwordHash().isPresent()) {
            user.put("ssh_pwauth", true);
        } else {
            user.put("ssh_pwauth", false);
        }
    }

    private void account(ObjectNode user, Intents.Account account) {
        ArrayNode users = user.path("users") instanceof ArrayNode there ? there : user.putArray("users");
        ObjectNode entry = null;
        for (JsonNode each : users) {
            if (each instanceof ObjectNode object
                    && object.path("name").asText().equals(account.name())) {
                entry = object;
            }
        }
        if (entry == null) {
            entry = users.addObject();
        }
        entry.put("name", account.name());
        entry.put("shell", "/bin/bash");
        entry.put("groups", "adm,sudo");
        entry.put("lock_passwd", account.passwordHash().isEmpty());
        if (account.passwordHash().isPresent()) {
            entry.put("passwd", account.passwordHash().get());
            entry.put("sudo", "ALL=(ALL) ALL");
        } else {
            entry.remove("passwd");
            // Nobody could type a password that is not there.
            entry.put("sudo", "ALL=(ALL) NOPASSWD:ALL");
        }
        entry.remove("ssh_authorized_keys");
        if (!account.keys().isEmpty()) {
            ArrayNode keys = entry.putArray("ssh_authorized_keys");
            account.keys().forEach(keys::add);
        }
    }

    private static void logs(ObjectNode user, boolean inMemory) {
        ArrayNode files = user.path("write_files") instanceof ArrayNode there ? there : user.putArray("write_files");
        for (int i = files.size() - 1; i >= 0; i--) {
            if (files.get(i).path("path").asText().equals(JOURNAL)) {
                files.remove(i);
            }
        }
        if (inMemory) {
            ObjectNode file = files.addObject();
            file.put("path", JOURNAL);
            file.put("permissions", "0644");
            file.put("content", "[Journal]\nStorage=volatile\nRuntimeMaxUse=32M\n");
        } else if (files.isEmpty()) {
            user.remove("write_files");
        }
    }

    private void network() {
        if (intents.wantedNetwork().isEmpty()) {
            return;
        }
        Intents.Network wanted = intents.wantedNetwork().get();
        ObjectNode file = read(NETWORK);
        if (file == null) {
            broken(NETWORK);
            return;
        }
        ObjectNode before = file.deepCopy();
        ObjectNode network = file.path("network") instanceof ObjectNode inner ? inner : file;
        network.put("version", 2);
        ObjectNode wired = child(child(network, "ethernets"), "eth0");
        boolean fixed = NetworkWords.sets(wanted);
        wired.removeAll();
        wired.put("dhcp4", !fixed);
        if (fixed) {
            wired.putArray("addresses").add(NetworkWords.address(wanted) + "/" + NetworkWords.bits(wanted));
            wanted.gateway().ifPresent(gateway -> {
                ObjectNode route = wired.putArray("routes").addObject();
                route.put("to", "default");
                route.put("via", gateway);
            });
            if (!wanted.nameServers().isEmpty()) {
                ArrayNode servers = wired.putObject("nameservers").putArray("addresses");
                wanted.nameServers().forEach(servers::add);
            }
        }
        if (wanted.wifi().isPresent()) {
            wired.put("optional", true);
            wifi(child(child(network, "wifis"), "wlan0"), wanted.wifi().get());
        }
        if (!file.equals(before)) {
            write(NETWORK, "", file);
        }
    }

    private static void wifi(ObjectNode radio, Intents.Wifi wifi) {
        radio.removeAll();
        radio.put("dhcp4", true);
        radio.put("regulatory-domain", wifi.country());
        ObjectNode point = radio.putObject("access-points").putObject(wifi.name());
        wifi.key().ifPresent(key -> point.put("password", key));
    }

    private static ObjectNode child(ObjectNode node, String name) {
        return node.path(name) instanceof ObjectNode there ? there : node.putObject(name);
    }

    /** cloud-init acts once for each instance-id: another content gets another. */
    private void meta(String content) {
        ObjectNode meta = read(META);
        if (meta == null) {
            broken(META);
            return;
        }
        meta.put("instance-id", "first-start-" + digest(content));
        intents.hostName().ifPresent(name -> meta.put("local-hostname", name));
        write(META, "", meta);
    }

    private static String digest(String content) {
        try {
            byte[] sum = MessageDigest.getInstance("SHA-256").digest(content.getBytes(StandardCharsets.UTF_8));
            return HexFormat.of().formatHex(sum, 0, 8);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }

    /** Whether the system on a medium takes its first start this way: it says so by its files. */
    static boolean spokenBy(MediumFiles files) {
        return files.has(USER) || files.has(META) || files.has("/etc/cloud/cloud.cfg");
    }
}
