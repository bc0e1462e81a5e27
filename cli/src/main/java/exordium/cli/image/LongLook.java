// SPDX-License-Identifier: Apache-2.0
package exordium.cli.image;

import exordium.core.block.TransferWatch;
import exordium.core.quantity.ByteSize;
import java.time.Duration;
import java.util.function.Consumer;

/** Looking into a container that has to be unpacked for it: says when that gets long, and ends it when it gets too long. */
final class LongLook implements TransferWatch {
    private static final ByteSize MUCH = ByteSize.ofGigabytes(64);
    private static final Duration LONGEST = Duration.ofHours(1);

    private final TransferWatch shown;
    private final String name;
    private final Consumer<String> say;
    private final long until = System.nanoTime() + LONGEST.toNanos();
    private boolean told;

    LongLook(TransferWatch shown, String name, Consumer<String> say) {
        this.shown = shown;
        this.name = name;
        this.say = say;
    }

    @Override
    public void moved(Phase phase, long position, int bytes, long nanos, long total) {
        shown.moved(phase, position, bytes, nanos, total);
        if (phase == Phase.UNPACKING && !told && position > MUCH.bytes()) {
            told = true;
            say.accept(name + " has unpacked to " + MUCH.said() + " and goes on"
                    + (total > position ? ", to " + ByteSize.of(total).said() + " by estimate" : "")
                    + ". Ctrl C ends it, and so does an hour; nothing of it is left.");
        }
    }

    boolean tooLong() {
        return System.nanoTime() > until;
    }

    @Override
    public boolean cancelled() {
        return shown.cancelled() || tooLong();
    }
}
