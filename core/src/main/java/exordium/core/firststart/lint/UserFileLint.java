// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.lint;

import static exordium.core.firststart.lint.TextFlaws.caution;
import static exordium.core.firststart.lint.TextFlaws.shown;
import static exordium.core.firststart.lint.TextFlaws.stop;

import exordium.core.finding.Finding;
import exordium.core.finding.Subject;
import exordium.core.firststart.settings.LineFinding;
import exordium.core.firststart.settings.SettingsDocument;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;

/** Looks through the file that makes an account at the first start: one line, "name:hash" (crypt(5) for the hash). */
public final class UserFileLint {
    private static final Pattern NAME = Pattern.compile("[a-z_][a-z0-9_-]{0,31}");
    private static final Pattern HASH = Pattern.compile("\\$[0-9a-z]{1,2}\\$[./0-9A-Za-z=,$-]+");
    private static final TriedPasswords TRIED = TriedPasswords.shipped();

    private UserFileLint() {}

    public static List<LineFinding> of(byte[] content) {
        Optional<Finding> broken = TextFlaws.notText(content);
        if (broken.isPresent()) {
            return List.of(LineFinding.of(broken.get(), 1));
        }
        List<LineFinding> found = new ArrayList<>();
        for (SettingsDocument.Line line : SettingsDocument.parse(content).lines()) {
            if (line.ending().startsWith("\r")
                    && found.stream().noneMatch(each -> each.finding().isAbout(Subject.LINE_ENDS))) {
                found.add(LineFinding.of(
                                stop(
                                                "crlf",
                                                "Line " + line.number()
                                                        + ": lines end in CR LF; the carriage return becomes part of the hash.")
                                        .about(Subject.LINE_ENDS),
                                line.number())
                        .mendedBy(line.text(), "end it in LF"));
            }
            if (!line.blank()) {
                line(line.plain(), line.number()).ifPresent(each -> found.add(LineFinding.of(each, line.number())));
            }
        }
        return found;
    }

    private static Optional<Finding> line(String line, int number) {
        int colon = line.indexOf(':');
        if (colon < 0) {
            return Optional.of(caution(
                            "key-without-value",
                            "Line " + number + ": \"" + shown(line) + "\" is no \"name:hash\"; no account is made.")
                    .about(Subject.SPOILED_LINE));
        }
        String name = line.substring(0, colon);
        String secret = line.substring(colon + 1);
        if (!NAME.matcher(name).matches()) {
            return Optional.of(stop(
                    "user-name-malformed",
                    "Line " + number + ": \"" + shown(name)
                            + "\" is no name for an account: small letters, digits, - and _."));
        }
        return HASH.matcher(secret).matches() || locked(secret)
                ? Optional.empty()
                : Optional.of(inClear(name, secret, "Line " + number + ": "));
    }

    /** A password that stands there as it is typed. Never shown. */
    static Finding inClear(String name, String secret, String at) {
        return TRIED.has(secret, name)
                ? caution(
                        "default-login",
                        at + "the password of " + shown(name)
                                + " stands there in clear, and is one that everybody tries first.")
                : caution(
                        "password-in-clear",
                        at + "the password of " + shown(name)
                                + " stands there in clear; put its SHA-512 crypt there, or better a public key.");
    }

    /** What is no hash and lets nobody in by a password (shadow(5)). */
    static boolean locked(String text) {
        return text.startsWith("!") || text.startsWith("*");
    }

    static boolean isHash(String secret) {
        return HASH.matcher(secret).matches();
    }
}
