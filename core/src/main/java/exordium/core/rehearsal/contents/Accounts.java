// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.contents;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.MissingNode;
import com.fasterxml.jackson.dataformat.yaml.YAMLFactory;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/**
 * Whether anybody gets in over the network: an account with a shell, not locked and not barred, with a password or a key that
 * the remote login takes (passwd(5), shadow(5), sshd_config(5)); or one that the start partition has made at the first start.
 */
final class Accounts {
    private static final List<String> NO_SHELL = List.of("nologin", "false", "true", "sync", "halt", "shutdown");
    private static final String KEYS_RULE = "authorizedkeysfile";
    private static final int LARGEST_CLOUD_FILE = 1 << 20;

    private Accounts() {}

    /** In a root; no account file counts as none. */
    static boolean in(RootFacts.Contents files) throws IOException {
        String passwd = text(files, "/etc/passwd");
        Map<String, String[]> shadow = new HashMap<>();
        for (String line : text(files, "/etc/shadow").split("\n")) {
            String[] fields = line.strip().split(":", -1);
            if (fields.length > 1) {
                shadow.put(fields[0], fields);
            }
        }
        Map<String, String> rules = rules(files);
        for (String line : passwd.split("\n")) {
            String[] fields = line.strip().split(":", -1);
            if (fields.length >= 6 && getsIn(fields, shadow.get(fields[0]), rules, files)) {
                return true;
            }
        }
        return false;
    }

    private static boolean getsIn(String[] fields, String[] secret, Map<String, String> rules, RootFacts.Contents files)
            throws IOException {
        String name = fields[0];
        String shell = fields.length > 6 ? fields[6].strip() : "";
        String program = shell.substring(shell.lastIndexOf('/') + 1);
        String hash = secret != null ? secret[1] : fields[1].equals("x") ? "" : fields[1];
        boolean expired = secret != null && secret.length > 7 && isPast(secret[7]);
        if (NO_SHELL.contains(program) || expired || barred(name, rules)) {
            return false;
        }
        boolean root = fields[2].equals("0");
        boolean passwords = !"no".equals(rules.get("passwordauthentication"));
        String rootRule = rules.getOrDefault("permitrootlogin", "prohibit-password");
        boolean password = hash.startsWith("$") && passwords && (!root || rootRule.equals("yes"));
        // A locked password bars the account itself, unless PAM is asked, which looks at the account and not at its
        // password.
        boolean locked = hash.startsWith("!") && !"yes".equalsIgnoreCase(rules.get("usepam"));
        boolean key = !locked
                && !"no".equalsIgnoreCase(rules.get("pubkeyauthentication"))
                && hasKey(name, fields[5], rules, files)
                && (!root || !rootRule.equals("no"));
        return password || key;
    }

    /** sshd_config(5), AuthorizedKeysFile: several files, from the home folder on; %u stands for the account, %h for its home. */
    private static boolean hasKey(String name, String home, Map<String, String> rules, RootFacts.Contents files)
            throws IOException {
        for (String pattern :
                rules.getOrDefault(KEYS_RULE, ".ssh/authorized_keys").split("\\s+")) {
            String path = pattern.replace("%u", name).replace("%h", home);
            if (!text(files, path.startsWith("/") ? path : home + "/" + path).isBlank()) {
                return true;
            }
        }
        return false;
    }

    /** Accounts whose keys lie outside their homes, whether or not they are made yet. */
    static Set<String> keyed(RootFacts.Contents files) throws IOException {
        Set<String> keyed = new TreeSet<>();
        for (String pattern : rules(files).getOrDefault(KEYS_RULE, "").split("\\s+")) {
            if (pattern.startsWith("/") && pattern.endsWith("/%u")) {
                String folder = pattern.substring(0, pattern.length() - "/%u".length());
                for (String name : files.list(folder)) {
                    if (!text(files, folder + "/" + name).isBlank()) {
                        keyed.add(name);
                    }
                }
            }
        }
        return keyed;
    }

    /** Names that the start partition's user file makes, whatever their password. */
    static Set<String> named(Optional<byte[]> userFile) {
        Set<String> names = new TreeSet<>();
        userFile.map(bytes -> new String(bytes, StandardCharsets.UTF_8)).ifPresent(text -> text.lines()
                .filter(line -> line.indexOf(':') > 0)
                .forEach(line -> names.add(line.substring(0, line.indexOf(':')).strip())));
        return names;
    }

    /** Days since 1970 on which an account ends: anything before this program was made is over (shadow(5)). */
    private static boolean isPast(String day) {
        return day.matches("\\d{1,6}")
                && Long.parseLong(day) < java.time.LocalDate.of(2025, 1, 1).toEpochDay();
    }

    private static boolean barred(String name, Map<String, String> rules) {
        boolean denied = rules.containsKey("denyusers")
                && List.of(rules.get("denyusers").split("\\s+")).contains(name);
        boolean notAllowed = rules.containsKey("allowusers")
                && !List.of(rules.get("allowusers").split("\\s+")).contains(name);
        return denied || notAllowed;
    }

    /** The first setting of a key counts. */
    private static Map<String, String> rules(RootFacts.Contents files) throws IOException {
        Map<String, String> rules = new HashMap<>();
        StringBuilder all = new StringBuilder();
        for (String line : text(files, "/etc/ssh/sshd_config").split("\n")) {
            if (line.strip().matches("(?i)include\\s+(/etc/ssh/)?sshd_config\\.d/\\*\\.conf")) {
                for (String name : new TreeSet<>(files.list("/etc/ssh/sshd_config.d"))) {
                    all.append(text(files, "/etc/ssh/sshd_config.d/" + name)).append('\n');
                }
            }
            all.append(line).append('\n');
        }
        for (String line : all.toString().split("\n")) {
            String[] words = line.strip().split("[\\s=]+", 2);
            if (words.length == 2 && !words[0].startsWith("#")) {
                rules.putIfAbsent(words[0].toLowerCase(Locale.ROOT), words[1].strip());
            }
        }
        return rules;
    }

    private static String text(RootFacts.Contents files, String path) throws IOException {
        return files.read(path)
                .map(bytes -> new String(bytes, StandardCharsets.UTF_8))
                .orElse("");
    }

    /** A line "name:hash", as the start partition's user file holds it. */
    static boolean inUserFile(Optional<byte[]> file) {
        return file.map(bytes -> new String(bytes, StandardCharsets.UTF_8))
                .filter(text -> Arrays.stream(text.split("\n"))
                        .map(String::strip)
                        .anyMatch(line -> line.matches("[a-z_][a-z0-9_-]*:\\$[0-9a-z]+\\$.+")))
                .isPresent();
    }

    /** Whether an image's own settings for the cloud make a user that gets in: with a key, or a password that is not locked. */
    static boolean cloudUser(Optional<byte[]> settings) {
        if (settings.isEmpty() || settings.get().length > LARGEST_CLOUD_FILE) {
            return false;
        }
        try {
            JsonNode all =
                    new ObjectMapper(new YAMLFactory()).readTree(new String(settings.get(), StandardCharsets.UTF_8));
            JsonNode user = all == null
                    ? MissingNode.getInstance()
                    : all.path("system_info").path("default_user");
            boolean hash = user.hasNonNull("passwd")
                    || user.hasNonNull("hashed_passwd")
                    || user.hasNonNull("plain_text_passwd");
            boolean locked = !user.has("lock_passwd") || isOn(user.path("lock_passwd"));
            boolean passwords = all != null && isOn(all.path("ssh_pwauth"));
            return !user.path("ssh_authorized_keys").isEmpty() || (hash && !locked && passwords);
        } catch (JsonProcessingException e) {
            return false;
        }
    }

    /** What a cloud file switches on: remote login, and an account one gets into (cloud-init documentation, modules). */
    record Cloud(boolean remoteLogin, boolean account) {
        static final Cloud NONE = new Cloud(false, false);
    }

    static Cloud inCloudFile(Optional<byte[]> file) {
        if (file.isEmpty() || file.get().length > LARGEST_CLOUD_FILE) {
            return Cloud.NONE;
        }
        String text = new String(file.get(), StandardCharsets.UTF_8);
        if (!text.startsWith("#cloud-config")) {
            return Cloud.NONE;
        }
        try {
            JsonNode all = new ObjectMapper(new YAMLFactory()).readTree(text);
            if (all == null || !all.isObject()) {
                return Cloud.NONE;
            }
            boolean passwords = isOn(all.path("ssh_pwauth"));
            boolean keys = !all.path("ssh_authorized_keys").isEmpty();
            boolean account = keys || (passwords && all.hasNonNull("password"));
            for (JsonNode user : all.path("users")) {
                boolean key = !user.path("ssh_authorized_keys").isEmpty();
                boolean hash = user.hasNonNull("passwd")
                        || user.hasNonNull("hashed_passwd")
                        || user.hasNonNull("plain_text_passwd");
                boolean locked = !user.has("lock_passwd") || isOn(user.path("lock_passwd"));
                keys |= key;
                account |= key || (hash && !locked && passwords);
            }
            for (JsonNode user : all.path("chpasswd").path("users")) {
                boolean set = user.hasNonNull("password")
                        || user.path("type").asText("").equalsIgnoreCase("RANDOM");
                account |= set && passwords;
            }
            boolean listed = all.path("chpasswd").path("list").isTextual()
                    ? all.path("chpasswd").path("list").asText().contains(":")
                    : !all.path("chpasswd").path("list").isEmpty();
            account |= listed && passwords;
            boolean service = isOn(all.path("enable_ssh")) || all.path("ssh").isObject();
            return new Cloud(passwords || keys || service, account);
        } catch (JsonProcessingException e) {
            // Not understood by the board either.
            return Cloud.NONE;
        }
    }

    private static boolean isOn(JsonNode value) {
        return value.isBoolean()
                ? value.booleanValue()
                : List.of("yes", "true", "1", "on").contains(value.asText());
    }
}
