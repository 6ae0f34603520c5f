package waterwheel.core.units;

import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;

/** SHA-256 (FIPS 180-4), which every Java platform has. */
public final class Sha256 {
    private Sha256() {}

    /** A digest of nothing yet. */
    public static MessageDigest start() {
        try {
            return MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("Every Java platform has SHA-256.", e);
        }
    }
}
