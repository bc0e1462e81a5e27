// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.image;

import exordium.core.finding.Finding;
import exordium.core.finding.Subject;
import exordium.core.inspection.UsedMap;
import exordium.core.writing.WriteMode;
import exordium.core.writing.WritePlan;
import exordium.jobs.bench.Targets;
import exordium.jobs.writing.WriteJob;
import exordium.store.Media;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/** A write being prepared: image, target, the name typed; what would be lost and whether it may begin. */
public final class WriteDraft {
    private ImageModel model;
    private Optional<ImageSource> image = Optional.empty();
    private Optional<ImageSource.Opened> opened = Optional.empty();
    private Optional<Targets.Target> target = Optional.empty();
    private final List<Targets.Target> also = new ArrayList<>();
    private WriteMode mode = WriteMode.WHOLE;
    private Optional<UsedMap> used = Optional.empty();
    private String typed = "";

    public WriteDraft(ImageModel model) {
        this.model = model;
    }

    public void image(ImageSource chosen) {
        image = Optional.ofNullable(chosen);
        opened = Optional.empty();
        used = Optional.empty();
    }

    /** The image's file, opened off the interface thread; nothing is planned before. */
    public void opened(ImageSource.Opened file) {
        opened = Optional.of(file);
    }

    /** New facts about the board. */
    public void model(ImageModel fresh) {
        model = fresh;
    }

    /** The target that is chosen already, as it is now. */
    public void sameTarget(Targets.Target now) {
        target = Optional.of(now);
    }

    /** The names of all drives it would write to. */
    public Set<String> drives() {
        return targets().stream().map(each -> each.description().id()).collect(Collectors.toSet());
    }

    public void mode(WriteMode chosen) {
        mode = chosen;
    }

    public WriteMode mode() {
        return mode;
    }

    /** Whether the image's used map has to be read before anything can be planned. */
    public boolean wantsUsedMap() {
        return mode == WriteMode.USED && used.isEmpty() && image.isPresent();
    }

    public void used(UsedMap map) {
        used = Optional.of(map);
    }

    /** Further targets that are written from the same reading of the image. */
    public List<Targets.Target> also() {
        return List.copyOf(also);
    }

    public void addAlso(Targets.Target further) {
        if (!target.filter(further::equals).isPresent() && !also.contains(further)) {
            also.add(further);
        }
    }

    public void removeAlso(Targets.Target further) {
        also.remove(further);
    }

    public void target(Targets.Target chosen) {
        target = Optional.ofNullable(chosen);
        also.remove(chosen);
        typed = "";
    }

    public void typed(String name) {
        typed = name;
    }

    public Optional<ImageSource> image() {
        return image;
    }

    public Optional<Targets.Target> target() {
        return target;
    }

    /** What the target is called on screen. */
    public String targetName(Targets.Target each) {
        return model.registered(each)
                .map(medium -> medium.name() + ", " + place(medium))
                .orElse(each.description().id());
    }

    private String place(Media.Medium medium) {
        return Optional.ofNullable(model.inServiceAt().get(medium.file())).orElse(medium.place());
    }

    /** The button's words: what is done to what. */
    public String deed() {
        if (image.isEmpty() || target.isEmpty()) {
            return "Choose an image and a target";
        }
        return "Write " + image.get().title() + " to " + shortName(target.get())
                + (also.isEmpty() ? "" : " and " + also.size() + " more");
    }

    public String shortName(Targets.Target each) {
        return model.registered(each)
                .map(Media.Medium::name)
                .orElse(each.description().id());
    }

    /** What has to be typed: the target's own name, or the names of all in their order. */
    public String names() {
        return targets().stream().map(each -> each.description().id()).collect(Collectors.joining(", "));
    }

    private List<Targets.Target> targets() {
        List<Targets.Target> all = new ArrayList<>();
        target.ifPresent(all::add);
        all.addAll(also);
        return all;
    }

    /** A plan for every target; none until image and target are chosen and what is in use is known. */
    public List<WriteJob.Planned> plans() throws IOException {
        if (opened.isEmpty() || target.isEmpty() || wantsUsedMap()) {
            return List.of();
        }
        String[] typedNames = also.isEmpty() ? new String[] {typed} : typed.split("[,;\\s]+");
        List<WriteJob.Planned> plans = new ArrayList<>();
        for (Targets.Target each : targets()) {
            String name = plans.size() < typedNames.length ? typedNames[plans.size()] : "";
            plans.add(new WriteJob.Planned(
                    WritePlan.of(
                            opened.get().file(),
                            opened.get().size(),
                            each.description(),
                            new WritePlan.Options(mode, true, false, used),
                            name),
                    each));
        }
        return plans;
    }

    /** The write to this target that was cut off, where there is one. */
    public Optional<WriteJob.Unfinished> unfinished() {
        return target.flatMap(each -> model.unfinished().stream()
                .filter(cut ->
                        cut.write().deed().target().equals(each.description().id()))
                .findFirst());
    }

    /** Whether the name typed is that of the target alone. */
    public boolean named() {
        return target.filter(each -> each.description().id().equals(typed)).isPresent();
    }

    public boolean ready(List<WriteJob.Planned> plans) {
        return !plans.isEmpty()
                && plans.stream().noneMatch(each -> Finding.anyStops(each.plan().findings()));
    }

    /** Findings without the one about the name, as long as nothing was typed. */
    public List<Finding> advice(List<WriteJob.Planned> plans) {
        return plans.stream()
                .flatMap(each -> each.plan().findings().stream())
                .distinct()
                .filter(finding -> !finding.isAbout(Subject.TARGET_NAME) || !typed.isEmpty())
                .toList();
    }
}
