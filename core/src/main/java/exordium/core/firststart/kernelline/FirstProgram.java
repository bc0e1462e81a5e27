// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.kernelline;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * The program a kernel line has started in the place of the system (Linux kernel documentation, kernel parameters, {@code init=}). Newest
 * stock images name one that grows the medium once and starts again; a flasher card names one that writes the board's own storage (both
 * common practice, no source).
 */
public record FirstProgram(String path) {
    private static final List<String> USUAL = List.of(
            "/sbin/init",
            "/usr/sbin/init",
            "/etc/init",
            "/bin/init",
            "/init",
            "/bin/systemd",
            "/lib/systemd/systemd",
            "/usr/lib/systemd/systemd",
            "/bin/sh",
            "/bin/bash");
    private static final Pattern ONCE =
            Pattern.compile(".*(first[-_.]?(boot|run|start)|grow|resize|expand|init[-_]?setup|oneshot).*");
    private static final Pattern FLASHER = Pattern.compile(".*(flash(er)?([-_.].*|\\b)|.*[-_.]to[-_.]emmc).*");

    /** The one a line names, where it is another than a system's usual one; the last word counts. */
    public static Optional<FirstProgram> in(KernelLine line) {
        return line.value("init")
                .map(String::strip)
                .filter(path -> !path.isEmpty() && !USUAL.contains(path))
                .map(FirstProgram::new);
    }

    private String name() {
        return path.toLowerCase(Locale.ROOT);
    }

    /** By what it is called: it makes the medium ready once, and starts again. */
    public boolean calledOnce() {
        return ONCE.matcher(name()).matches();
    }

    /** By what it is called: it writes the storage that sits on the board. */
    public boolean calledFlasher() {
        return isFlasher(path);
    }

    /** The same of a service's name. */
    public static boolean isFlasher(String name) {
        String plain = name.toLowerCase(Locale.ROOT);
        return FLASHER.matcher(plain.substring(plain.lastIndexOf('/') + 1)).matches();
    }

    /** Whether a word of a kernel line is one that must not come along into another root: it would grow what is not there. */
    public static boolean isOnce(String word) {
        return word.equals("resize")
                || (word.startsWith("init=")
                        && in(KernelLine.parse(word))
                                .filter(FirstProgram::calledOnce)
                                .isPresent());
    }
}
