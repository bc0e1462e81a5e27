// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.model;

import exordium.core.finding.Finding;
import exordium.core.image.ImageFile;
import exordium.core.writing.WritePlan;
import exordium.jobs.Targets;
import exordium.store.Media;
import java.io.IOException;
import java.util.List;
import java.util.Optional;

/** A write being prepared: image, target, the name typed; what would be lost and whether it may begin. */
public final class WriteDraft {
    private final BoardDetail board;
    private Optional<ImageSource> image = Optional.empty();
    private Optional<Targets.Target> target = Optional.empty();
    private String typed = "";

    public WriteDraft(BoardDetail board) {
        this.board = board;
    }

    public void image(ImageSource chosen) {
        image = Optional.ofNullable(chosen);
    }

    public void target(Targets.Target chosen) {
        target = Optional.ofNullable(chosen);
        typed = "";
    }

    public void typed(String name) {
        typed = name.strip();
    }

    public Optional<ImageSource> image() {
        return image;
    }

    public Optional<Targets.Target> target() {
        return target;
    }

    /** What the target is called on screen. */
    public String targetName(Targets.Target each) {
        return board.registered(each)
                .map(medium -> medium.name() + ", " + place(medium))
                .orElse(each.description().id());
    }

    private String place(Media.Medium medium) {
        return Optional.ofNullable(board.inServiceAt().get(medium.file())).orElse(medium.place());
    }

    /** The button's words: what is done to what. */
    public String deed() {
        if (image.isEmpty() || target.isEmpty()) {
            return "Choose an image and a target";
        }
        String name = board.registered(target.get())
                .map(Media.Medium::name)
                .orElse(target.get().description().id());
        return "Write " + image.get().title() + " to " + name;
    }

    /** The plan with what the register knows of the target; empty until both are chosen. */
    public Optional<WritePlan> plan() throws IOException {
        if (image.isEmpty() || target.isEmpty()) {
            return Optional.empty();
        }
        ImageSource source = image.get();
        return Optional.of(WritePlan.of(
                ImageFile.open(source.file()),
                source.size(),
                target.get().description(),
                WritePlan.Options.USUAL,
                typed));
    }

    public boolean ready(Optional<WritePlan> plan) {
        return plan.isPresent() && !Finding.anyStops(plan.get().findings());
    }

    /** Findings without the one about the name, as long as nothing was typed. */
    public List<Finding> advice(Optional<WritePlan> plan) {
        return plan.map(WritePlan::findings).orElse(List.of()).stream()
                .filter(finding -> !finding.code().equals("target-not-confirmed") || !typed.isEmpty())
                .toList();
    }
}
