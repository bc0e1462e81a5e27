// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.daysheet.Flags;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.Finding;
import exordium.core.finding.TypedName;
import exordium.core.storage.media.KnownDrives;
import exordium.core.storage.media.Replacement;
import exordium.desktop.desk.House;
import exordium.jobs.media.HealthJob;
import exordium.jobs.media.MediaRegister;
import exordium.jobs.media.MediaTwins;
import exordium.jobs.media.NewIdentity;
import exordium.jobs.paper.MediaSheets;
import exordium.store.Media;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;

/** The drawer of media: what lies in it, which is looked at, and what is done to it. */
public final class MediaModel {
    private final House house;
    private final MediaRegister register;
    private List<MediaRegister.Entry> entries = List.of();
    private Optional<String> chosen = Optional.empty();
    private boolean never = true;

    public MediaModel(House house) {
        this.house = house;
        this.register = new MediaRegister(house.workbench());
    }

    /** Reads the register, then says so where anything is new in it. */
    public void read(Runnable done) {
        house.reading().read(register::all, now -> {
            if (!never && now.equals(entries)) {
                return;
            }
            never = false;
            entries = now;
            if (chosen().isEmpty()) {
                chosen = entries.stream().findFirst().map(each -> each.medium().id());
            }
            done.run();
        });
    }

    public List<MediaRegister.Entry> entries() {
        return entries;
    }

    public void choose(String medium) {
        chosen = Optional.of(medium);
    }

    public Optional<MediaRegister.Entry> chosen() {
        return entries.stream()
                .filter(each -> chosen.filter(each.medium().id()::equals).isPresent())
                .findFirst();
    }

    public String where(MediaRegister.Entry entry) {
        return switch (entry.details().state()) {
            case LENT ->
                "lent"
                        + (entry.details().note().isEmpty()
                                ? ""
                                : " to " + entry.details().note());
            case RETIRED -> "retired";
            case HERE ->
                entry.board().map(board -> "in " + board).orElse(entry.medium().place());
        };
    }

    public Pennant pennant(MediaRegister.Entry entry) {
        boolean blemished = !entry.faults().isEmpty()
                || !twinsOf(entry).isEmpty()
                || entry.health().replacement().filter(Replacement::soon).isPresent();
        return Flags.ofMedium(
                entry.medium().worn(), blemished, !entry.measurements().isEmpty());
    }

    /** Asks the medium itself how it is. */
    public void ask(MediaRegister.Entry entry) {
        house.facts().perform(() -> {
            new HealthJob(house.workbench()).ask(entry.medium());
        });
    }

    /** Puts down that it failed. */
    public void failed(MediaRegister.Entry entry, String text) {
        house.facts().perform(() -> {
            new HealthJob(house.workbench()).fault(entry.medium(), text);
        });
    }

    public List<Finding> twinsOf(MediaRegister.Entry entry) {
        return MediaTwins.of(entry, entries);
    }

    /** Says whether what is on one goes on the other; the reading happens off the interface thread. */
    public void copyOn(MediaRegister.Entry from, MediaRegister.Entry to, Consumer<Finding> words) {
        if (to != null) {
            house.reading().look(() -> register.copyOn(from.medium(), to.medium()), words);
        }
    }

    /** NVMe drives in a board can be put down as working with its family, or not. */
    public boolean triable(MediaRegister.Entry entry) {
        return family(entry).isPresent()
                && house.workbench()
                        .media()
                        .kind(entry.medium().kind())
                        .filter(kind -> kind.bus().equals("nvme"))
                        .isPresent();
    }

    public Optional<String> family(MediaRegister.Entry entry) {
        return entry.family();
    }

    public void known(MediaRegister.Entry entry, boolean works) {
        String profile = family(entry).orElseThrow();
        house.facts().perform(() -> {
            register.known(new KnownDrives.Known(entry.medium().name(), profile, works, ""));
        });
    }

    public boolean here(MediaRegister.Entry entry) {
        return house.workbench().isHere(entry.medium());
    }

    public void lookIntoAll() {
        house.facts().perform(() -> {
            List<Finding> found = register.lookIntoAll();
            register.tell(
                    "media-looked",
                    found.isEmpty()
                            ? "Every medium that is here was looked into; no two have the same identifier."
                            : found.get(0).text());
        });
    }

    public void printLabels() {
        Path file = house.workbench().folder().resolve("labels.pdf");
        house.facts().perform(() -> {
            int count = new MediaSheets(house.workbench()).labels(file);
            register.tell("media-labels", count + " labels are in " + file + ".");
        });
    }

    private Path table() {
        return house.workbench().folder().resolve("media.csv");
    }

    public void csvOut() {
        house.facts().perform(() -> {
            Files.writeString(table(), new MediaSheets(house.workbench()).csv());
            register.tell("media-csv", "The register of media is in " + table() + ".");
        });
    }

    public void csvIn() {
        house.facts().perform(() -> {
            MediaSheets.TakenIn taken = new MediaSheets(house.workbench()).takeIn(table());
            register.tell("media-csv", taken.changed() + " media taken in from " + table() + ".");
        });
    }

    public void label(MediaRegister.Entry entry, String label) {
        house.facts().perform(() -> register.label(entry.medium(), label));
    }

    public void place(MediaRegister.Entry entry, String place) {
        house.facts().perform(() -> register.place(entry.medium(), place));
    }

    /** Everything known of this entry goes to the other. */
    public void merge(MediaRegister.Entry from, MediaRegister.Entry into) {
        chosen = Optional.of(into.medium().id());
        house.facts().perform(() -> register.merge(from.medium(), into.medium()));
    }

    public void state(MediaRegister.Entry entry, Media.State state, String note) {
        house.facts().perform(() -> register.state(entry.medium(), state, note));
    }

    public void newIdentifier(MediaRegister.Entry entry, String typed) {
        house.facts().perform(() -> {
            TypedName.require(typed, entry.medium().file());
            new NewIdentity(house.workbench(), new SecureRandom()::nextLong).give(entry.medium());
        });
    }
}
