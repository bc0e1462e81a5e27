// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.intents;

import exordium.core.finding.UnreadableInput;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.util.HexFormat;
import javax.crypto.SecretKeyFactory;
import javax.crypto.spec.PBEKeySpec;

/**
 * From pass phrase to key (IEEE 802.11i, annex H.4): PBKDF2 with HMAC-SHA1, the network's name as salt, 4096 rounds, 256 bits.
 */
public final class WifiKey {
    private static final int ROUNDS = 4096;
    private static final int BITS = 256;
    private static final int SHORTEST = 8;
    private static final int LONGEST = 63;
    private static final int LONGEST_NAME = 32;

    private WifiKey() {}

    /** In 64 small hex digits. @throws UnreadableInput when the phrase is not 8 to 63 printable ASCII characters */
    public static String of(String network, String passPhrase) throws UnreadableInput {
        if (passPhrase.length() < SHORTEST
                || passPhrase.length() > LONGEST
                || !passPhrase.chars().allMatch(c -> c >= ' ' && c <= '~')) {
            throw new UnreadableInput("A Wi-Fi pass phrase has 8 to 63 characters of plain ASCII; this one has "
                    + passPhrase.length() + " characters.");
        }
        byte[] salt = network.getBytes(StandardCharsets.UTF_8);
        if (salt.length == 0 || salt.length > LONGEST_NAME) {
            throw new UnreadableInput(
                    "The name of a Wi-Fi network has 1 to 32 bytes; this one has " + salt.length + ".");
        }
        try {
            byte[] key = SecretKeyFactory.getInstance("PBKDF2WithHmacSHA1")
                    .generateSecret(new PBEKeySpec(passPhrase.toCharArray(), salt, ROUNDS, BITS))
                    .getEncoded();
            return HexFormat.of().formatHex(key);
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("This Java has no PBKDF2 with HMAC-SHA1", e);
        }
    }
}
