// SPDX-License-Identifier: Apache-2.0
package exordium.core.profile;

import java.security.GeneralSecurityException;
import java.security.KeyFactory;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.security.PrivateKey;
import java.security.PublicKey;
import java.security.Signature;
import java.security.spec.PKCS8EncodedKeySpec;
import java.security.spec.X509EncodedKeySpec;

/** Ed25519 (RFC 8032), with keys as general tools write them (RFC 8410). */
public final class Signatures {
    public static final String ALGORITHM = "Ed25519";

    private Signatures() {}

    public static byte[] sign(byte[] bytes, PrivateKey key) {
        try {
            Signature signature = Signature.getInstance(ALGORITHM);
            signature.initSign(key);
            signature.update(bytes);
            return signature.sign();
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException(e);
        }
    }

    /** Whether the owner of a key signed these very bytes; false for whatever is no signature. */
    public static boolean isBy(byte[] bytes, byte[] signature, PublicKey key) {
        try {
            Signature check = Signature.getInstance(ALGORITHM);
            check.initVerify(key);
            check.update(bytes);
            return check.verify(signature);
        } catch (GeneralSecurityException e) {
            return false;
        }
    }

    public static KeyPair fresh() {
        try {
            return KeyPairGenerator.getInstance(ALGORITHM).generateKeyPair();
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException(e);
        }
    }

    /** @throws GeneralSecurityException when these bytes are no such key */
    public static PublicKey publicKey(byte[] coded) throws GeneralSecurityException {
        return KeyFactory.getInstance(ALGORITHM).generatePublic(new X509EncodedKeySpec(coded));
    }

    /** @throws GeneralSecurityException when these bytes are no such key */
    public static PrivateKey privateKey(byte[] coded) throws GeneralSecurityException {
        return KeyFactory.getInstance(ALGORITHM).generatePrivate(new PKCS8EncodedKeySpec(coded));
    }
}
