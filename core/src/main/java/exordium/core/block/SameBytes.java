// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Subject;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * All that a path leads to: the thing itself, and by way of loop devices everything that has the same bytes. A mounted loop
 * device and the file behind it are one and the same to whoever writes.
 *
 * @param self empty for a file that is not there yet
 */
public record SameBytes(Path path, Optional<FileIdentity> self, Set<FileIdentity> all) {

    public static SameBytes at(Path path) throws IOException {
        if (!Files.exists(path)) {
            return new SameBytes(path, Optional.empty(), Set.of());
        }
        FileIdentity self = FileIdentity.of(path);
        return new SameBytes(path, Optional.of(self), Machine.here().sameBytes(self));
    }

    /** The loop devices other than itself that have the same bytes. */
    public List<Path> otherNodes() throws IOException {
        List<Path> others = new ArrayList<>();
        for (Path node : Machine.here().nodes(all)) {
            if (self.isEmpty() || !FileIdentity.of(node).equals(self.get())) {
                others.add(node);
            }
        }
        return others;
    }

    public boolean overlaps(SameBytes other) {
        return all.stream().anyMatch(other.all()::contains);
    }

    /** The refusal where the kernel uses these bytes by another name: a loop device over the file, or one over the same file. */
    public Optional<Finding> inUseElsewhere() throws IOException {
        if (self.isEmpty()) {
            return Optional.empty();
        }
        for (Path node : otherNodes()) {
            if (Machine.here().use(node) == Machine.Use.IN_USE) {
                return Optional.of(Finding.stop(
                                "target-in-use",
                                path.getFileName() + " has the same bytes as " + node
                                        + ", which is in use: mounted, or part of" + " something else.",
                                Basis.computed("what stands behind the loop devices"))
                        .about(Subject.OPEN_NOW));
            }
        }
        return Optional.empty();
    }
}
