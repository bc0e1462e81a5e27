// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.contents;

import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.InstalledSystem;
import exordium.core.layout.DiskIdentifier;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;

/** What is different on a medium since it was read the time before, in sentences; what matters most first. */
public final class ChangedSince {
    private static final int MOST_NAMES = 4;

    private ChangedSince() {}

    /** Empty where nothing that was looked at differs. */
    public static List<String> between(MediumContents before, MediumContents now) {
        List<String> words = new ArrayList<>();
        DriveInspection was = before.inspection();
        DriveInspection is = now.inspection();
        said(
                        "Its disk identifier",
                        was.table().diskId().map(DiskIdentifier::text),
                        is.table().diskId().map(DiskIdentifier::text))
                .ifPresent(words::add);
        said("Its system", was.system().map(InstalledSystem::title), is.system().map(InstalledSystem::title))
                .ifPresent(words::add);
        if (was.partitions().size() != is.partitions().size()) {
            words.add("It had " + was.partitions().size() + " partitions and has "
                    + is.partitions().size() + ".");
        }
        file("Its kernel line", before, now, MediumContents.StartPartition::kernelLine)
                .ifPresent(words::add);
        file("Its settings", before, now, MediumContents.StartPartition::settings)
                .ifPresent(words::add);
        file("Its user file", before, now, MediumContents.StartPartition::userFile)
                .ifPresent(words::add);
        file("Its first-start file", before, now, MediumContents.StartPartition::cloudFile)
                .ifPresent(words::add);
        names(before, now, words);
        long more = is.used().bytes() - was.used().bytes();
        if (more != 0) {
            words.add("It holds "
                    + exordium.core.quantity.ByteSize.of(Math.abs(more)).said() + (more > 0 ? " more." : " less."));
        }
        return List.copyOf(words);
    }

    private static Optional<String> said(String what, Optional<String> was, Optional<String> is) {
        return was.equals(is)
                ? Optional.empty()
                : Optional.of(what + " was " + was.orElse("none") + " and is " + is.orElse("none") + ".");
    }

    private static Optional<String> file(
            String what,
            MediumContents before,
            MediumContents now,
            Function<MediumContents.StartPartition, Optional<byte[]>> of) {
        Optional<byte[]> was = before.start().flatMap(of);
        Optional<byte[]> is = now.start().flatMap(of);
        if (was.isEmpty() && is.isEmpty()) {
            return Optional.empty();
        }
        if (was.isPresent() && is.isPresent()) {
            return Arrays.equals(was.get(), is.get()) ? Optional.empty() : Optional.of(what + " changed.");
        }
        return Optional.of(what + (is.isPresent() ? " is new." : " is gone."));
    }

    private static void names(MediumContents before, MediumContents now, List<String> words) {
        TreeSet<String> was = new TreeSet<>(
                before.start().map(MediumContents.StartPartition::names).orElse(List.of()));
        TreeSet<String> is = new TreeSet<>(
                now.start().map(MediumContents.StartPartition::names).orElse(List.of()));
        TreeSet<String> fresh = new TreeSet<>(is);
        fresh.removeAll(was);
        was.removeAll(is);
        if (!fresh.isEmpty()) {
            words.add("New in its start partition: " + some(fresh) + ".");
        }
        if (!was.isEmpty()) {
            words.add("Gone from its start partition: " + some(was) + ".");
        }
    }

    private static String some(Set<String> names) {
        String first = String.join(", ", names.stream().limit(MOST_NAMES).toList());
        return names.size() > MOST_NAMES ? first + " and " + (names.size() - MOST_NAMES) + " more" : first;
    }
}
