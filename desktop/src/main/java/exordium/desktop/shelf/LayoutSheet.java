// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.board.BoardProfile;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Finding;
import exordium.core.finding.Sentence;
import exordium.core.finding.TypedName;
import exordium.core.finding.UnreadableInput;
import exordium.core.multiboot.LayoutPlan;
import exordium.core.multiboot.StartSets;
import exordium.core.quantity.ByteSize;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Request;
import exordium.desktop.draw.strip.LayoutPicture;
import exordium.desktop.part.FormSheet;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import exordium.jobs.bench.TargetHistory;
import exordium.jobs.bench.Targets;
import exordium.jobs.multiboot.LayoutJob;
import exordium.store.Images;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;

/** Several systems on one drive: which, how large, drawn to scale as it is typed, then put together, written and read back. */
public final class LayoutSheet extends FormSheet {
    private static final int MOST = 3;
    private static final String BY_ITSELF = "by the number of partitions";
    private static final List<String> USUAL_NAMES = List.of("everyday", "trial", "rescue");

    private final ComboBox<BoardProfile> family = new ComboBox<>();
    private final ComboBox<Targets.Target> drive = new ComboBox<>();
    private final ComboBox<String> table = new ComboBox<>();
    private final ComboBox<LayoutPlan.Choose> choose = new ComboBox<>();
    private final TextField data = new TextField();
    private final TextField confirm = new TextField();
    private final List<SystemRow> systems = new ArrayList<>();
    private final VBox picture = new VBox(4);
    private final Label lost = Parts.paragraph("", "alarm", "small");
    private final LayoutJob job;

    /** What the form is filled with. */
    private record Offer(List<BoardProfile> families, List<Targets.Target> drives, List<Images.Image> images) {}

    /** One system of the form. */
    private record SystemRow(ComboBox<Images.Image> image, TextField name, TextField size) {}

    private LayoutSheet(House house, Runnable close, Offer offer) {
        super(
                house,
                close,
                "Put several systems on one drive",
                "A root for each system, and one menu, or entries in the firmware's own list. It is put together as an image, each system is rehearsed, then"
                        + " it is written and read back.");
        this.job = new LayoutJob(house.workbench());
        family.setId("layout-family");
        family.getItems().setAll(offer.families());
        WordCell.in(family, BoardProfile::title);
        field("Family of boards", family);
        drive.setId("layout-drive");
        drive.getItems().setAll(offer.drives());
        WordCell.in(
                drive,
                each -> each.description().id() + ", "
                        + each.description().size().said());
        field("Drive", drive);
        table.setId("layout-table");
        table.getItems().setAll(BY_ITSELF, "mbr", "gpt");
        table.setValue(BY_ITSELF);
        field("Partition table", table);
        choose.setId("layout-choose");
        choose.getItems().setAll(LayoutPlan.Choose.values());
        choose.setValue(LayoutPlan.Choose.MENU);
        WordCell.in(choose, LayoutPlan.Choose::said);
        field("Chosen by", choose);
        data.setId("layout-data");
        data.setPromptText("none, or such as 2 GB");
        field("Data for all", data);
        confirm.setId("layout-confirm");
        confirm.getStyleClass().add("confirm");
        under(lost);
        field("The drive's name", confirm);
        besideIt();
        for (int i = 0; i < MOST; i++) {
            systems.add(system(i, offer.images()));
        }
        getChildren().add(getChildren().size() - 2, picture);
        deedIs("Put them together and write them");
        family.setOnAction(event -> judge());
        drive.setOnAction(event -> judge());
        table.setOnAction(event -> judge());
        choose.setOnAction(event -> judge());
        data.textProperty().addListener((property, before, now) -> judge());
        offer.families().stream()
                .filter(each -> each.startFiles().kernelLineForm() != BoardProfile.KernelLineForm.PLAIN)
                .findFirst()
                .ifPresent(family::setValue);
        judge();
    }

    private SystemRow system(int number, List<Images.Image> images) {
        ComboBox<Images.Image> image = new ComboBox<>();
        image.setId("layout-image-" + number);
        image.setPromptText(number < 2 ? "choose an image" : "a third one, if wanted");
        image.getItems().setAll(images);
        WordCell.in(image, Images.Image::id);
        field(number == 0 ? "First system" : number == 1 ? "Second system" : "Third system", image);
        TextField name = new TextField(USUAL_NAMES.get(number));
        name.setId("layout-name-" + number);
        TextField size = new TextField();
        size.setId("layout-size-" + number);
        size.setPromptText("of its root: as the image, the last one what is left");
        field("its name in the menu", name);
        field("its room", size);
        image.setOnAction(event -> judge());
        name.textProperty().addListener((property, before, now) -> judge());
        size.textProperty().addListener((property, before, now) -> judge());
        return new SystemRow(image, name, size);
    }

    /** Reads what the form is filled with, then opens it. */
    public static void read(House house, Runnable close, Consumer<LayoutSheet> open) {
        house.reading()
                .read(
                        () -> new Offer(
                                house.workbench().profiles().all(),
                                new TargetHistory(house.workbench()).free(house.targets()),
                                house.workbench().records().images()),
                        offer -> open.accept(new LayoutSheet(house, close, offer)));
    }

    /** What is typed as a plan; empty as long as something is missing. */
    private Optional<LayoutPlan> plan() throws UnreadableInput {
        List<LayoutPlan.OneSystem> chosen = new ArrayList<>();
        for (SystemRow each : systems) {
            if (each.image().getValue() != null) {
                chosen.add(new LayoutPlan.OneSystem(
                        StartSets.nameOf(each.name().getText()),
                        each.image().getValue().file(),
                        Parts.size(each.size().getText()),
                        Optional.empty()));
            }
        }
        if (family.getValue() == null || drive.getValue() == null || chosen.size() < 2) {
            return Optional.empty();
        }
        return Optional.of(new LayoutPlan(
                family.getValue().id(),
                drive.getValue().description().size(),
                table.getValue().equals(BY_ITSELF) ? Optional.empty() : Optional.of(table.getValue()),
                Optional.empty(),
                chosen,
                Parts.size(data.getText()),
                Optional.empty(),
                Optional.empty(),
                Optional.of(choose.getValue())));
    }

    /** The drive as it would be, each time something changes. */
    private void judge() {
        Targets.Target target = drive.getValue();
        lost.setText(target == null ? "" : target.description().asked());
        try {
            Optional<LayoutPlan> wanted = plan();
            if (wanted.isEmpty()) {
                picture.getChildren()
                        .setAll(Parts.label(
                                "Choose a drive and two images to see how they share it.", "aside", "small"));
                return;
            }
            house.reading().look(() -> job.laid(wanted.get()), laid -> show(wanted.get(), laid));
        } catch (UnreadableInput e) {
            picture.getChildren().setAll(Parts.paragraph(Sentence.of(e), "alarm", "small"));
        }
    }

    private void show(LayoutPlan asked, LayoutPlan.Laid laid) {
        try {
            if (!plan().equals(Optional.of(asked))) {
                return;
            }
        } catch (UnreadableInput e) {
            return;
        }
        picture.getChildren().setAll(new LayoutPicture(laid, asked.drive()));
        for (LayoutPlan.Part each : laid.parts()) {
            picture.getChildren()
                    .add(Parts.row(
                            10,
                            Parts.cell(Parts.label(String.valueOf(each.number()), "figure", "soft"), 14),
                            Parts.cell(Parts.label(each.name(), "small"), 120),
                            Parts.cell(Parts.label(each.size().said(), "figure", "small"), 90),
                            Parts.cell(
                                    Parts.label(
                                            "from " + ByteSize.of(each.start()).said(), "soft", "small"),
                                    110),
                            Parts.label(
                                    each.least().bytes() == 0
                                            ? ""
                                            : "needs " + each.least().said() + " at least",
                                    "soft",
                                    "small")));
        }
        for (Finding each : laid.findings()) {
            picture.getChildren().add(Parts.paragraph(each.text(), each.stops() ? "alarm" : "soft", "small"));
        }
    }

    @Override
    protected void carryOut() {
        house.reading().problemProperty().set("");
        try {
            Targets.Target target = drive.getValue();
            LayoutPlan wanted = plan().orElseThrow(
                            () -> new BadArgument("Choose a drive and at least two images.", String.valueOf(target)));
            Optional<Finding> wrong =
                    TypedName.check(confirm.getText(), target.description().id());
            if (wrong.isPresent()) {
                throw new BadArgument(wrong.get().text(), confirm.getText());
            }
            String typed = confirm.getText();
            house.reading().look(() -> job.laid(wanted), laid -> {
                Optional<Finding> stop =
                        laid.findings().stream().filter(Finding::stops).findFirst();
                if (stop.isPresent()) {
                    house.reading().problemProperty().set(stop.get().text());
                    return;
                }
                close.run();
                String drive = target.description().id();
                house.jobs()
                        .start(Request.deed("Putting " + wanted.systems().size() + " systems on " + drive, meter -> {
                                    LayoutJob job = new LayoutJob(house.workbench());
                                    LayoutJob.Made made = job.apply(
                                            wanted,
                                            house.targets(),
                                            target.description().path(),
                                            typed,
                                            meter);
                                    house.reading()
                                            .say(made.sentence()
                                                    + job.keepEntries(made, drive)
                                                            .map(file -> " Its entries are in " + file + ".")
                                                            .orElse(""));
                                })
                                .on(drive));
            });
        } catch (IOException e) {
            house.reading().problemProperty().set(Sentence.of(e));
        }
    }
}
