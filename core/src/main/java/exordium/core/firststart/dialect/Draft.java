// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FileBody;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.finding.Subject;
import exordium.core.firststart.kernelline.KernelLine;
import exordium.core.firststart.settings.SettingsDocument;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;

/** The files of a medium while they are being set up, and what is found on the way. */
final class Draft {
    private final MediumFiles found;
    private final BoardProfile profile;
    private final Map<String, Optional<FileBody>> changed = new LinkedHashMap<>();
    private final List<Finding> findings = new ArrayList<>();

    Draft(MediumFiles found, BoardProfile profile) {
        this.found = found;
        this.profile = profile;
    }

    BoardProfile profile() {
        return profile;
    }

    String kernelLine() {
        return found.written(found.kernelLine());
    }

    private BoardProfile.StartFiles files() {
        return profile.startFiles();
    }

    Optional<FileBody> body(String path) {
        String name = found.written(path);
        return changed.containsKey(name) ? changed.get(name) : found.body(name);
    }

    String text(String path) {
        return body(path).filter(body -> !body.link()).map(FileBody::text).orElse("");
    }

    boolean has(String path) {
        String name = found.written(path);
        return changed.containsKey(name) ? changed.get(name).isPresent() : found.has(name);
    }

    Stream<String> in(String folder) {
        TreeSet<String> names = new TreeSet<>(found.in(folder).toList());
        changed.forEach((name, body) -> {
            if (body.isPresent() && name.startsWith(folder) && name.indexOf('/', folder.length()) < 0) {
                names.add(name);
            } else {
                names.remove(name);
            }
        });
        return names.stream();
    }

    /** A file that is there keeps its permissions. */
    void put(String path, FileBody body) {
        String name = found.written(path);
        Optional<FileBody> before = found.body(name);
        boolean same = before.isPresent() && before.get().link() == body.link() && !body.link();
        changed.put(name, Optional.of(same ? before.get().with(body.bytes()) : body));
    }

    void put(String path, String text) {
        put(path, FileBody.of(text));
    }

    void remove(String path) {
        if (has(path)) {
            changed.put(found.written(path), Optional.empty());
        }
    }

    /** In the root; where that cannot be changed, what is wanted is said to be left. */
    boolean root(String what) {
        if (found.rootFault().isEmpty()) {
            return true;
        }
        caution(
                "root-not-changed",
                "Not set here: " + what + ". The root cannot be changed, because "
                        + found.rootFault().get() + "; set it after the first login.");
        return false;
    }

    /** The kernel line changed; where there is none, a stop. */
    void kernel(UnaryOperator<KernelLine> change) {
        String path = kernelLine();
        Optional<KernelLine> line = body(path).flatMap(body -> KernelLine.in(latin(body), files().kernelLineForm()));
        if (line.isEmpty()) {
            if (findings.stream().noneMatch(each -> each.isAbout(Subject.KERNEL_LINE))) {
                add(Finding.stop(
                                "kernel-line-missing",
                                "There is no " + kernelLine() + " in the start partition to change.",
                                Basis.computed("the start partition"))
                        .about(Subject.KERNEL_LINE));
            }
            return;
        }
        KernelLine now = change.apply(line.get());
        if (!now.equals(line.get())) {
            String whole = now.putInto(latin(body(path).orElseThrow()), files().kernelLineForm());
            put(path, FileBody.of(whole.getBytes(StandardCharsets.ISO_8859_1)));
        }
    }

    boolean hasKernelLine() {
        return body(kernelLine())
                .flatMap(body -> KernelLine.in(latin(body), files().kernelLineForm()))
                .isPresent();
    }

    /** Every byte stands for itself, so that those nobody touches stay what they are. */
    private static String latin(FileBody body) {
        return new String(body.bytes(), StandardCharsets.ISO_8859_1);
    }

    /** The settings file changed, or made; where the family has none, that is said. */
    boolean settings(String what, UnaryOperator<SettingsDocument> change) {
        if (files().settings().isEmpty()) {
            note("no-settings-file", "Not set here: " + what + ". " + profile.title() + " reads no settings file.");
            return false;
        }
        String path = files().settings().get();
        byte[] before = body(path).map(FileBody::bytes).orElse(new byte[0]);
        byte[] after = change.apply(SettingsDocument.parse(before)).bytes();
        if (!java.util.Arrays.equals(before, after)) {
            put(path, FileBody.of(after));
        }
        return true;
    }

    Optional<SettingsDocument> settings() {
        return files().settings().flatMap(this::body).map(body -> SettingsDocument.parse(body.bytes()));
    }

    void add(Finding finding) {
        findings.add(finding);
    }

    void caution(String code, String words) {
        add(Finding.caution(code, words, Basis.practice()).mendAt(Step.FIRST_START));
    }

    void note(String code, String words) {
        add(Finding.note(code, words, Basis.practice()));
    }

    List<Finding> findings() {
        return findings;
    }

    List<FileEdit> edits() {
        return changed.entrySet().stream()
                .map(each -> new FileEdit(each.getKey(), found.body(each.getKey()), each.getValue()))
                .filter(edit -> !edit.before().equals(edit.after()))
                .toList();
    }
}
