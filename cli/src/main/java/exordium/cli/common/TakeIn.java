// SPDX-License-Identifier: Apache-2.0
package exordium.cli.common;

import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import exordium.core.storage.media.Newcomer;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.media.PluggedIn;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import picocli.CommandLine.Option;

/** A drive that is in no register is taken into it with a deed on it, so that what is done belongs to it from the first byte. */
public final class TakeIn {
    @Option(
            names = "--take-in",
            paramLabel = "NAME",
            description = "a drive that is in no register is taken in first, under this name")
    private String name;

    @Option(
            names = "--kind",
            paramLabel = "KIND",
            description = "what it is, with --take-in (default: the likely kind)")
    private String kind;

    public boolean wanted() {
        return name != null;
    }

    /** Where it is asked for; refused targets are not taken in. */
    public void take(Workbench workbench, Targets.Target target) throws IOException {
        if (wanted()) {
            Refused.ifAnyStops(target.description().refusals());
            take(workbench, target, name, Optional.ofNullable(kind));
        }
    }

    /** @throws UnreadableInput when it is in the register already, or no drive of this machine */
    public static void take(Workbench workbench, Targets.Target target, String name, Optional<String> kind)
            throws IOException {
        PluggedIn plugged = new PluggedIn(workbench);
        Newcomer guess = plugged.guesses(List.of(target)).get(target);
        if (guess == null) {
            throw new UnreadableInput(target.description().id()
                    + " is in the register already, or no drive of this machine; leave --take-in out.");
        }
        plugged.takeIn(target, name, kind.isEmpty() ? guess.kind() : workbench.kind(kind.get()));
    }
}
