// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.settings;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A file with everything mended that can be.
 *
 * @param done what was mended, in its order
 * @param left what only its owner can mend
 */
public record Mended(byte[] content, List<LineFinding> done, List<LineFinding> left) {
    private static final int MOST = 10_000;

    /** What looks a file through. */
    public interface Linter {
        List<LineFinding> lint(byte[] content);
    }

    /** One after the other, since each changes what stands behind it. */
    public static Mended all(byte[] content, Linter linter) {
        byte[] now = content;
        List<LineFinding> found = linter.lint(now);
        List<LineFinding> done = new ArrayList<>();
        while (done.size() < MOST) {
            Optional<LineFinding> next =
                    found.stream().filter(each -> each.mend().isPresent()).findFirst();
            if (next.isEmpty()) {
                break;
            }
            done.add(next.get());
            now = SettingsDocument.parse(now)
                    .with(next.get().mend().orElseThrow())
                    .bytes();
            found = linter.lint(now);
        }
        return new Mended(now, done, found);
    }
}
