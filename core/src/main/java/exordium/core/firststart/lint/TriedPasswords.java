// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.lint;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.OverBound;
import exordium.core.finding.Step;
import exordium.core.profile.InputFile;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.Optional;
import java.util.Set;
import org.apache.commons.codec.digest.Crypt;

/** Passwords that everybody tries first: a list that ships, and what a user's own of the same name adds (docs/formats/workspace.md). */
public final class TriedPasswords {
    /** Its file in a workspace's folder of profiles. */
    public static final String FILE = "tried-passwords.txt";

    private static final String SHIPPED = "/exordium/profiles/" + FILE;
    private static final long LARGEST = 1 << 16;
    /** Trying takes milliseconds each, by design of the hashes. */
    private static final int MOST = 200;

    private final Set<String> words;

    private TriedPasswords(Set<String> words) {
        this.words = Set.copyOf(words);
    }

    public static TriedPasswords shipped() {
        return new TriedPasswords(words(shippedText()));
    }

    /**
     * With those of a folder, where there is such a file.
     *
     * @throws OverBound when it has more than are tried
     */
    public static TriedPasswords with(Path profiles) throws IOException {
        Set<String> all = words(shippedText());
        Path own = profiles.resolve(FILE);
        if (Files.exists(own)) {
            all.addAll(words(InputFile.text(FILE, InputFile.read(own, LARGEST))));
        }
        if (all.size() > MOST) {
            throw new OverBound(own + " has more passwords than the " + MOST + " that are tried.", MOST);
        }
        return new TriedPasswords(all);
    }

    private static String shippedText() {
        try (InputStream in = TriedPasswords.class.getResourceAsStream(SHIPPED)) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new IllegalStateException("not shipped: " + SHIPPED, e);
        }
    }

    private static Set<String> words(String text) {
        Set<String> words = new LinkedHashSet<>();
        text.lines()
                .map(String::strip)
                .filter(line -> !line.isEmpty() && !line.startsWith("#"))
                .forEach(words::add);
        return words;
    }

    /** Whether a password as it is typed is one of them, or the name of its account. */
    public boolean has(String password, String account) {
        return password.equalsIgnoreCase(account) || words.stream().anyMatch(password::equalsIgnoreCase);
    }

    /** The same of what is kept of one (crypt(5)); hashes of a kind that is not known here are taken for sound. */
    public boolean opens(String hash, String account) {
        if (!hash.matches("\\$[156]\\$(rounds=\\d{4,5}\\$)?[./A-Za-z0-9]{1,16}\\$.+")) {
            return false;
        }
        return Crypt.crypt(account, hash).equals(hash)
                || words.stream().anyMatch(word -> Crypt.crypt(word, hash).equals(hash));
    }

    /** For an account that is to get such a password; none where it is another. */
    public Optional<Finding> judge(String account, Optional<String> hash) {
        return hash.filter(each -> opens(each, account)).map(each -> Finding.caution(
                        "default-login",
                        "The password of " + account
                                + " is one that everybody tries first: take another one, or better a public key.",
                        Basis.practice())
                .mendAt(Step.FIRST_START));
    }
}
