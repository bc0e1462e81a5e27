// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import exordium.core.profile.ProfileReader;
import java.util.List;
import java.util.Optional;

/** Things of a board that can be switched off, as data: the lines that do it in a settings file, and the services that go. */
public record SwitchableParts(List<Thing> things) {
    private static final String RESOURCE = "/exordium/profiles/things.yaml";

    /**
     * One of them.
     *
     * @param settings lines "key=value" with which it is off
     * @param instead lines that stand for on and go when it is switched off
     * @param services of systemd that are left out where there is no settings file
     * @param words of the kernel line with which it is off everywhere
     */
    public record Thing(
            String code,
            String title,
            List<String> settings,
            List<String> instead,
            List<String> services,
            List<String> words) {}

    private static final class Shipped {
        static final SwitchableParts ALL = new ProfileReader().shipped(RESOURCE, SwitchableParts.class);
    }

    public static SwitchableParts shipped() {
        return Shipped.ALL;
    }

    public Optional<Thing> find(String code) {
        return things.stream().filter(each -> each.code().equals(code)).findFirst();
    }
}
