// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.contents;

import exordium.core.filesystem.FileSystemReader;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.lint.TriedPasswords;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Who gets into a system by a password (passwd(5), shadow(5)).
 *
 * @param account whether any person has a password on it yet; else the first start asks for one
 * @param open accounts, root among them, whose password is none at all, their own name, or one that everybody tries first
 */
record Logins(boolean account, List<String> open) {
    static final Logins NONE = new Logins(false, List.of());

    private static final int FIRST_PERSON = 1000;
    private static final int BEHIND_PERSONS = 60_000;
    /** Trying takes time by design of the hashes; more accounts than this are not tried. */
    private static final int MOST_TRIED = 8;

    /** Where words: what everybody tries first. */
    static Logins of(FileSystemReader files, TriedPasswords words) throws IOException {
        Map<String, String> hashes = new LinkedHashMap<>();
        String accounts;
        try {
            for (String line : text(files, "/etc/shadow").split("\\R")) {
                String[] fields = line.split(":", 3);
                if (fields.length > 2) {
                    hashes.put(fields[0], fields[1]);
                }
            }
            accounts = text(files, "/etc/passwd");
        } catch (UnreadableInput e) {
            // A broken root tells nothing of who gets in.
            return NONE;
        }
        boolean account = false;
        List<String> open = new ArrayList<>();
        int tried = 0;
        for (String line : accounts.split("\\R")) {
            String[] fields = line.split(":");
            String hash = hashes.get(fields[0]);
            if (fields.length < 3 || hash == null || !fields[2].matches("\\d{1,5}")) {
                continue;
            }
            int number = Integer.parseInt(fields[2]);
            boolean person = number >= FIRST_PERSON && number < BEHIND_PERSONS;
            account |= person && (hash.isEmpty() || hash.startsWith("$"));
            if ((person || number == 0) && tried++ < MOST_TRIED && (hash.isEmpty() || words.opens(hash, fields[0]))) {
                open.add(fields[0]);
            }
        }
        return new Logins(account, List.copyOf(open));
    }

    private static String text(FileSystemReader files, String path) throws IOException {
        return files.read(path)
                .map(bytes -> new String(bytes, StandardCharsets.UTF_8))
                .orElse("");
    }
}
