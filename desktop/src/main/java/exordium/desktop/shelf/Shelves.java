// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.daysheet.Pennant;
import exordium.core.firmware.FirmwareRelease;
import exordium.core.image.PublishedChecksum;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.desk.Reading;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.draw.time.CopyLane;
import exordium.desktop.part.Page;
import exordium.desktop.part.Parts;
import exordium.desktop.passage.PassagesView;
import exordium.jobs.copies.schedule.CopyYear;
import exordium.jobs.media.OpenedSource;
import exordium.jobs.shelf.ImageUse;
import exordium.store.Images;
import exordium.store.Logbook;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.function.Consumer;
import java.util.function.Function;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;

/** The shelves and books: media, images, firmware, calendar, logbook. Each is a list with its own line. */
public final class Shelves {
    private static final int MOST_NAMED = 3;
    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm", Locale.ROOT);

    private final House house;
    private final Consumer<OpenedSource.Subject> inside;

    /** Where inside: lays an image or a drive open over the window. */
    public Shelves(House house, Consumer<OpenedSource.Subject> inside) {
        this.house = house;
        this.inside = inside;
    }

    public Page page(Place.Shelf shelf) {
        return switch (shelf) {
            case PASSAGES -> new PassagesView(house);
            case MEDIA -> new MediaView(house, inside);
            case STORAGE_PLAN -> new StoragePlanView(house);
            case IMAGES ->
                page(
                        shelf,
                        () -> ImageUse.of(house.workbench()),
                        this::image,
                        each -> each.image().title(),
                        each -> lookInside(each.image()));
            case FIRMWARE ->
                page(
                        shelf,
                        () -> house.workbench().firmware().releases(),
                        this::release,
                        each -> each.version() + " " + each.notes());
            case CALENDAR ->
                page(shelf, () -> CopyYear.of(house.workbench(), house.sheets()), this::due, CopyYear.Line::name);
            case NETWORK -> new NetworkView(house);
            case RULES -> new RulesView(house);
            case LOGBOOK -> page(shelf, this::newestFirst, this::entry, Logbook.Entry::text);
        };
    }

    private List<Logbook.Entry> newestFirst() {
        List<Logbook.Entry> all =
                new java.util.ArrayList<>(house.workbench().records().log());
        java.util.Collections.reverse(all);
        return all;
    }

    /** What can be added to a shelf, or made of what is on it. */
    private static List<Place.Form> forms(Place.Shelf shelf) {
        return switch (shelf) {
            case IMAGES -> List.of(Place.Form.SHELVE_IMAGE, Place.Form.SEVERAL_SYSTEMS);
            case FIRMWARE -> List.of(Place.Form.ADD_RELEASE);
            default -> List.of();
        };
    }

    private <T> Page page(
            Place.Shelf shelf, Reading.Source<List<T>> source, Function<T, Node> line, Function<T, String> words) {
        return page(shelf, source, line, words, each -> {});
    }

    private <T> Page page(
            Place.Shelf shelf,
            Reading.Source<List<T>> source,
            Function<T, Node> line,
            Function<T, String> words,
            Consumer<T> entered) {
        return new ShelfPage<>(house, shelf, forms(shelf), new ShelfPage.Contents<>(source, line, words, entered));
    }

    private Node image(ImageUse.Used used) {
        Images.Image image = used.image();
        Button look = Parts.button("Look inside", () -> lookInside(image), "small");
        look.setId("inside-" + image.id());
        Pennant state =
                switch (image.checksum()) {
                    case AGREES -> Pennant.PROVEN;
                    case DIFFERS -> Pennant.FAILING;
                    case NONE_KNOWN -> Pennant.UNKNOWN;
                };
        String words = image.checksum() == PublishedChecksum.State.AGREES
                ? "agrees with its published sum"
                : image.checksum() == PublishedChecksum.State.DIFFERS
                        ? "differs from its published sum"
                        : "no published sum known";
        return Parts.row(
                12,
                new PennantGlyph(state),
                Parts.cell(Parts.label(image.title(), "strong"), 150),
                Parts.cell(
                        Parts.label(
                                image.container() + ", " + image.compressed().said(), "figure"),
                        104),
                Parts.cell(
                        Parts.hint(
                                Parts.label("unpacks to " + image.size().said(), "figure"),
                                image.size().exact() + "; fits media of "
                                        + image.least().exact() + " and more"),
                        150),
                Parts.cell(Parts.label(words, "soft"), 190),
                Parts.cell(
                        Parts.hint(
                                Parts.label(
                                        used.boards().isEmpty() ? "in use nowhere" : "at " + few(used.boards()),
                                        "aside",
                                        "small"),
                                String.join(", ", used.boards())),
                        250),
                look);
    }

    /** As many names as a line has room for; the hint has them all. */
    private static String few(List<String> boards) {
        return boards.size() <= MOST_NAMED
                ? String.join(", ", boards)
                : String.join(", ", boards.subList(0, MOST_NAMED - 1)) + " and " + (boards.size() - MOST_NAMED + 1)
                        + " more";
    }

    private void lookInside(Images.Image image) {
        inside.accept(OpenedSource.Subject.of(house.workbench(), image));
    }

    private Node release(FirmwareRelease release) {
        return Parts.row(
                12,
                Parts.cell(Parts.label(release.version().toString(), "figure"), 90),
                Parts.cell(Parts.label(release.channel().code(), "strong"), 70),
                Parts.cell(Parts.label(String.join(", ", release.boards()), "soft"), 150),
                Parts.label(release.notes()));
    }

    private Node due(CopyYear.Line line) {
        boolean overdue = line.due().overdue();
        Label next = Parts.label((overdue ? "since " : "") + line.due().date(), "figure", overdue ? "alarm" : "soft");
        return Parts.row(
                12,
                new PennantGlyph(overdue ? Pennant.DUE : Pennant.PROVEN),
                Parts.cell(
                        Parts.hint(
                                Parts.label(line.name(), "strong"), line.due().reason()),
                        150),
                Parts.grow(new CopyLane(
                        line.name(),
                        line.copies(),
                        line.drills(),
                        line.due(),
                        line.allowed(),
                        line.nextDrill(),
                        house.workbench().today())),
                Parts.cell(Parts.hint(next, line.due().reason()), 130));
    }

    private Node entry(Logbook.Entry entry) {
        String at = TIME.format(
                LocalDateTime.ofInstant(entry.at(), house.workbench().zone()));
        return Parts.row(
                12,
                Parts.cell(Parts.label(at, "figure", "soft"), 130),
                Parts.cell(Parts.label(entry.step(), "soft"), 80),
                Parts.hint(Parts.label(entry.text()), entry.text()));
    }
}
