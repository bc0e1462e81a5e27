// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.contents;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.FileDevice;
import exordium.core.firststart.lint.TriedPasswords;
import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Hashes are made by openssl passwd, a general tool; places and fields after passwd(5) and shadow(5). */
class LoginsTest {
    @TempDir
    private Path folder;

    private static String hash(String kind, String password) {
        return GeneralTools.run("openssl", "passwd", kind, "-salt", "aBcDeF12", password)
                .strip();
    }

    private StartKit kit(String passwd, String shadow) throws IOException {
        Path disk = new DiskBuilder(folder)
                .root("etc/passwd", passwd)
                .root("etc/shadow", shadow)
                .build("login-" + Integer.toHexString(shadow.hashCode()) + ".img");
        try (FileDevice device = FileDevice.forReading(disk)) {
            return StartKit.of(device, List.of(Benches.profile("plover-5")), TriedPasswords.shipped());
        }
    }

    @Test
    void aPasswordThatEverybodyTriesFirstIsNamed() throws IOException {
        StartKit kit = kit(
                "root:x:0:0::/root:/bin/sh\nkeeper:x:1000:1000::/:/bin/sh\nwarden:x:1001:1001::/:/bin/sh\n"
                        + "tide:x:1002:1002::/:/bin/sh\ndaemon:x:1:1::/:/bin/false\n",
                "root:*:1::::::\nkeeper:" + hash("-6", "keeper") + ":1::::::\nwarden:" + hash("-5", "low water 1741")
                        + ":1::::::\ntide:" + hash("-1", "changeme") + ":1::::::\ndaemon::1::::::\n");
        assertThat(kit.openLogins()).containsExactly("keeper", "tide");
        assertThat(kit.account()).isTrue();
        assertThat(kit.said()).contains("everybody knows the password of keeper and tide");
    }

    @Test
    void aLockedAccountIsNoneAndAnEmptyPasswordIsOpen() throws IOException {
        StartKit locked = kit("keeper:x:1000:1000::/:/bin/sh\n", "keeper:!:1::::::\nroot:*:1::::::\n");
        assertThat(locked.account()).isFalse();
        assertThat(locked.openLogins()).isEmpty();
        assertThat(locked.said()).contains("no account yet").doesNotContain("everybody");
        StartKit empty = kit("root:x:0:0::/root:/bin/sh\n", "root::1::::::\n");
        assertThat(empty.openLogins()).containsExactly("root");
    }

    @Test
    void aHashThatIsNotKnownOrBrokenIsTakenForSound() throws IOException {
        StartKit kit = kit(
                "keeper:x:1000:1000::/:/bin/sh\nwarden:x:abc:1::/:/bin/sh\nshort\n",
                "keeper:$y$j9T$salt$hash:1::::::\nwarden:$6$:1::::::\nshort\n");
        assertThat(kit.openLogins()).isEmpty();
        assertThat(kit.account()).isTrue();
    }
}
