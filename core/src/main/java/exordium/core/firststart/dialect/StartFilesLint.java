// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FileBody;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.firststart.kernelline.KernelLine;
import exordium.core.firststart.lint.CloudLint;
import exordium.core.firststart.lint.KernelLineLint;
import exordium.core.firststart.lint.SettingsLint;
import exordium.core.firststart.lint.TextFlaws;
import exordium.core.firststart.lint.UserFileLint;
import exordium.core.firststart.settings.LineFinding;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** All files of a start partition that decide about the first start, looked through, each by its own rules. */
public final class StartFilesLint {
    private static final String PART_UUID = "PARTUUID=";

    private StartFilesLint() {}

    /** Of the whole medium. */
    public static List<Finding> of(FirstStartFiles found, BoardProfile board) {
        List<Finding> findings = new ArrayList<>();
        MediumFiles files = found.files();
        marker(files, findings);
        for (String path : files.bodies().keySet().stream().sorted().toList()) {
            file(path, files.bodies().get(path).bytes(), files.kernelLine(), board)
                    .forEach(each -> findings.add(each.finding()));
        }
        rootElsewhere(found, board).ifPresent(findings::add);
        return findings;
    }

    /** Of one file, by its name; nothing for those that have no rules. */
    public static List<LineFinding> file(String path, byte[] content, String kernelLine, BoardProfile board) {
        BoardProfile.StartFiles files = board.startFiles();
        if (files.settings().filter(path::equalsIgnoreCase).isPresent()) {
            return SettingsLint.of(content, board);
        }
        if (kernelLine.equalsIgnoreCase(path)) {
            return KernelLineLint.of(content, files.kernelLineForm());
        }
        if (files.userFile().filter(path::equalsIgnoreCase).isPresent()) {
            return UserFileLint.of(content);
        }
        if (files.cloudFile().filter(path::equalsIgnoreCase).isPresent()) {
            return CloudLint.userData(content);
        }
        return path.equalsIgnoreCase(NoCloud.NETWORK) && files.cloudFile().isPresent()
                ? CloudLint.network(content)
                : List.of();
    }

    private static void marker(MediumFiles files, List<Finding> findings) {
        if (files.has(PlainFiles.MARKER + ".txt")) {
            findings.add(Finding.caution(
                    "marker-with-extension",
                    "There is a file ssh.txt; the board looks for ssh, with nothing after it.",
                    Basis.practice()));
        }
        if (files.body(PlainFiles.MARKER)
                .map(FileBody::bytes)
                .filter(bytes -> bytes.length > 0)
                .isPresent()) {
            findings.add(Finding.note(
                    "marker-not-empty",
                    "The file ssh, which switches remote login on, holds something; it works, and an empty one would do.",
                    Basis.practice()));
        }
    }

    /** A root named by an identifier that no partition of this medium has: it is on another one, if on any. */
    private static Optional<Finding> rootElsewhere(FirstStartFiles found, BoardProfile board) {
        BoardProfile.StartFiles files = board.startFiles();
        Optional<String> wanted = found.files()
                .body(found.files().kernelLine())
                .flatMap(body -> KernelLine.in(body.text(), files.kernelLineForm()))
                .flatMap(line -> line.value("root"))
                .map(String::strip)
                .filter(root -> root.startsWith(PART_UUID) && root.indexOf("/") < 0)
                .map(root -> root.substring(PART_UUID.length()));
        boolean here = found.partUuids().isEmpty()
                || wanted.isEmpty()
                || found.partUuids().stream().anyMatch(wanted.get()::equalsIgnoreCase);
        return here
                ? Optional.empty()
                : Optional.of(TextFlaws.caution(
                        "root-not-on-medium",
                        "The root is PARTUUID=" + TextFlaws.shown(wanted.get())
                                + ", and no partition of this medium has that identifier; it has "
                                + String.join(", ", found.partUuids()) + "."));
    }
}
