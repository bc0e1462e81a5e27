// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.intents;

import exordium.core.finding.UnreadableInput;
import java.nio.charset.StandardCharsets;
import java.security.SecureRandom;
import org.apache.commons.codec.digest.Crypt;
import org.apache.commons.codec.digest.Sha2Crypt;

/** SHA-512 crypt (crypt(5), "sha512crypt"), the only form in which a password is kept. */
public final class PasswordHash {
    private static final String LETTERS = "./0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz";
    private static final int SALT = 16;
    private static final int SHORTEST = 8;

    private PasswordHash() {}

    /** With a salt nobody chose. @throws UnreadableInput when it is one that everybody tries, or shorter than 8 */
    public static String of(String password, String account) throws UnreadableInput {
        if (password.length() < SHORTEST || password.equalsIgnoreCase(account)) {
            throw new UnreadableInput("The password of " + account + " is "
                    + (password.length() < SHORTEST ? "shorter than 8 characters" : "the name of the account itself")
                    + "; take a longer one, or better a public key.");
        }
        SecureRandom random = new SecureRandom();
        StringBuilder salt = new StringBuilder();
        for (int i = 0; i < SALT; i++) {
            salt.append(LETTERS.charAt(random.nextInt(LETTERS.length())));
        }
        return with(password, salt.toString());
    }

    /** With a salt of up to 16 of crypt's letters. */
    public static String with(String password, String salt) {
        return Sha2Crypt.sha512Crypt(password.getBytes(StandardCharsets.UTF_8), "$6$" + salt);
    }

    public static boolean matches(String password, String hash) {
        return hash.startsWith("$6$")
                && Crypt.crypt(password.getBytes(StandardCharsets.UTF_8), hash).equals(hash);
    }
}
