// SPDX-License-Identifier: Apache-2.0
package exordium.core.board;

import java.util.Collection;
import java.util.regex.Pattern;

/** Names of files as profiles write them: {@code *} stands for anything but a slash, and capitals count as small letters. */
public final class NamePattern {
    private NamePattern() {}

    public static boolean isLike(String name, String pattern) {
        return Pattern.compile(Pattern.quote(pattern).replace("*", "\\E[^/]*\\Q"), Pattern.CASE_INSENSITIVE)
                .matcher(name)
                .matches();
    }

    /** The same where capitals count, as on a server's file system. */
    public static boolean isSpeltLike(String name, String pattern) {
        return Pattern.matches(Pattern.quote(pattern).replace("*", "\\E[^/]*\\Q"), name);
    }

    public static boolean isLikeAny(String name, Collection<String> patterns) {
        return patterns.stream().anyMatch(pattern -> isLike(name, pattern));
    }
}
