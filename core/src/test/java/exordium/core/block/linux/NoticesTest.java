// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.testing.GeneralTools;
import exordium.core.testing.Needs;
import java.io.BufferedReader;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A session's message bus of its own (dbus-daemon(1)), with dbus-monitor(1) listening: the call is as the specification has it. */
class NoticesTest {
    @TempDir
    private Path folder;

    /** What the child process does; its environment names the bus. */
    static final class Shows {
        private Shows() {}

        public static void main(String[] words) {
            System.out.println(Notices.show(words[0], words[1]) ? "taken" : "nobody");
        }
    }

    private static String child(String address) throws IOException {
        ProcessBuilder builder = new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-cp",
                System.getProperty("java.class.path"),
                Shows.class.getName(),
                "A copy is due",
                "Tide clock, Hall: bring Tidewell 32");
        builder.environment().put("DBUS_SESSION_BUS_ADDRESS", address);
        Process process = builder.redirectErrorStream(true).start();
        process.getOutputStream().close();
        return new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8).strip();
    }

    @Test
    void aNoticeGoesOutAndASessionWithoutAServiceIsNoTrouble() throws IOException {
        Needs.here(GeneralTools.exitOf("dbus-daemon", "--version") == 0, "no dbus-daemon here");
        assertThat(child("unix:path=" + folder.resolve("none"))).isEqualTo("nobody");
        Process bus = new ProcessBuilder(
                        "dbus-daemon",
                        "--session",
                        "--nofork",
                        "--address=unix:path=" + folder.resolve("bus"),
                        "--print-address")
                .start();
        Process monitor = null;
        try (BufferedReader said = bus.inputReader()) {
            String address = said.readLine();
            Path heard = folder.resolve("heard");
            monitor = new ProcessBuilder(
                            "dbus-monitor", "--address", address, "interface=org.freedesktop.Notifications")
                    .redirectErrorStream(true)
                    .redirectOutput(heard.toFile())
                    .start();
            String all = "";
            // Whether the monitor listens yet is not told; the call is made until it is heard.
            while (!all.contains("member=Notify") || !all.contains("int32 -1")) {
                assertThat(child(address)).as("there is no service on this bus").isEqualTo("nobody");
                all = Files.readString(heard);
            }
            assertThat(all)
                    .contains("destination=org.freedesktop.Notifications")
                    .contains("string \"Exordium\"")
                    .contains("string \"A copy is due\"")
                    .contains("bring Tidewell 32");
        } finally {
            if (monitor != null) {
                monitor.destroy();
            }
            bus.destroy();
        }
    }
}
