// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.desk;

import exordium.core.writing.TransferMeter;
import java.io.IOException;
import java.util.Optional;
import java.util.Set;

/**
 * Something the user asks for, as a whole: whoever offers it says what it is called, what it has in its hands and how it is done.
 *
 * @param board whose station shows it; empty for none
 * @param target the drive it writes to
 * @param drives it has in hand while it runs
 * @param readsBack whether what was written is read back, which belongs to the time left
 * @param work done on a thread of its own
 */
public record Request<T>(
        String title, String board, Optional<String> target, Set<String> drives, boolean readsBack, Work<T> work) {
    /** What is done, telling a meter how far it is. */
    public interface Work<T> {
        T run(TransferMeter meter) throws IOException;
    }

    /** Work that gives nothing back. */
    public interface Deed {
        void run(TransferMeter meter) throws IOException;
    }

    /** Of files, such as an export. */
    public static <T> Request<T> of(String title, Work<T> work) {
        return new Request<>(title, "", Optional.empty(), Set.of(), false, work);
    }

    public static Request<Void> deed(String title, Deed deed) {
        return of(title, meter -> {
            deed.run(meter);
            return null;
        });
    }

    public Request<T> at(String shownAt) {
        return new Request<>(title, shownAt, target, drives, readsBack, work);
    }

    /** Of drives that are in its hands. */
    public Request<T> holding(Set<String> held) {
        return new Request<>(title, board, target, held, true, work);
    }

    /** Of a drive that its board's page, or the shelf, shows in work. */
    public Request<T> on(String drive) {
        return new Request<>(title, board, Optional.of(drive), Set.of(drive), true, work);
    }
}
