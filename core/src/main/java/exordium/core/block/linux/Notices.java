// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import java.io.IOException;

/** Short words on the user's screen, by the session's notification service (Desktop Notifications Specification) where it has one. */
final class Notices {
    private static final String SERVICE = "org.freedesktop.Notifications";

    private Notices() {}

    /** Whether they were taken; a session without such a service takes none. */
    static boolean show(String title, String words) {
        try (MessageBus bus = MessageBus.ofSession()) {
            bus.notify(SERVICE, "/org/freedesktop/Notifications", "Exordium", title, words);
            return true;
        } catch (IOException e) {
            return false;
        }
    }
}
