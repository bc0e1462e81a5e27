// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.block.TransferWatch;
import exordium.core.board.BoardProfile;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Sentence;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.Channel;
import exordium.core.firmware.FirmwareRelease;
import exordium.core.firmware.PublishedReleases;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.part.FormSheet;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import exordium.jobs.firmware.ReleaseIntake;
import java.io.File;
import java.io.IOException;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.zip.ZipFile;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;
import javafx.stage.DirectoryChooser;
import javafx.stage.FileChooser;

/** A firmware release for the shelf: its bundle, or what its maker says of it, typed in. */
public final class ReleaseSheet extends FormSheet {
    private final TextField file = new TextField();
    private final ComboBox<BoardProfile> family = new ComboBox<>();
    private final TextField date = new TextField();
    private final ComboBox<Channel> channel = new ComboBox<>();
    private final TextField notes = new TextField();
    private final VBox found = new VBox(4);
    private final CheckBox proposed = new CheckBox();
    private Optional<PublishedReleases.Read> read = Optional.empty();

    public ReleaseSheet(House house, Runnable close) {
        super(
                house,
                close,
                "Firmware releases",
                "As their maker publishes them: a package, an archive, a folder, or an image with a system that keeps them; looked at"
                        + " first, with the recovery set among them. Without one, a date, a channel and what it brings are enough to judge a"
                        + " board by.");
        file.setId("release-file");
        file.setPromptText("/home/…/loader.deb, where there is one");
        file.textProperty().addListener((property, before, now) -> forget());
        field("Published", file);
        Button browse = Parts.button("Look for a file …", () -> {
            File chosen = new FileChooser().showOpenDialog(getScene().getWindow());
            if (chosen != null) {
                file.setText(chosen.getPath());
            }
        });
        browse.setId("release-browse");
        Button folder = Parts.button("Or a folder …", () -> {
            File chosen = new DirectoryChooser().showDialog(getScene().getWindow());
            if (chosen != null) {
                file.setText(chosen.getPath());
            }
        });
        folder.setId("release-folder");
        under(Parts.row(8, browse, folder));
        family.setId("release-family");
        family.getItems().setAll(house.workbench().profiles().all());
        WordCell.in(family, BoardProfile::title);
        family.valueProperty().addListener((property, before, now) -> forget());
        field("For", family);
        date.setId("release-date");
        date.setPromptText("such as 2026-09-02");
        field("Date", date);
        channel.setId("release-channel");
        channel.getItems().setAll(Channel.values());
        channel.setValue(Channel.DEFAULT);
        WordCell.in(channel, Channel::code);
        field("Channel", channel);
        notes.setId("release-notes");
        field("What it brings", notes);
        found.setId("release-found");
        proposed.setId("release-proposed");
        proposed.setSelected(true);
        proposed.setVisible(false);
        proposed.setManaged(false);
        under(found);
        under(proposed);
        deedIs("Put it on the shelf");
    }

    /** What was looked at is not what stands there now. */
    private void forget() {
        read = Optional.empty();
        found.getChildren().clear();
        proposed.setVisible(false);
        proposed.setManaged(false);
        deedIs(file.getText().isBlank() ? "Put it on the shelf" : "Look at it");
    }

    @Override
    public void carryOut() {
        house.reading().problemProperty().set("");
        ReleaseIntake intake = new ReleaseIntake(house.workbench());
        try {
            String typed = file.getText().strip();
            if (!typed.isEmpty()) {
                published(intake, Path.of(typed));
                return;
            }
            FirmwareRelease release = release();
            done(() -> {
                intake.add(release);
                return release.version();
            });
        } catch (UnreadableInput e) {
            house.reading().problemProperty().set(Sentence.of(e));
        } catch (InvalidPathException e) {
            house.reading().problemProperty().set("\"" + file.getText() + "\" is no path of a file.");
        }
    }

    /** A bundle says itself whose it is; all else is looked at first, and taken when its user has seen what is in it. */
    private void published(ReleaseIntake intake, Path path) throws UnreadableInput {
        if (isBundle(path)) {
            done(() -> intake.take(path).bundle().manifest().version());
            return;
        }
        if (family.getValue() == null) {
            throw new BadArgument("Say for which family these releases are.", "");
        }
        String board = family.getValue().id();
        if (read.isEmpty()) {
            house.reading()
                    .look(() -> intake.read(path, board, Map.of(), house.targets(), TransferWatch.NONE), this::show);
            return;
        }
        PublishedReleases.Read what = read.get();
        boolean counts = proposed.isSelected();
        done(() -> {
            intake.take(String.valueOf(path.getFileName()), board, what, counts);
            return house.workbench().today();
        });
    }

    private static boolean isBundle(Path path) {
        try (ZipFile zip = new ZipFile(path.toFile())) {
            return zip.getEntry("manifest.json") != null;
        } catch (IOException e) {
            return false;
        }
    }

    private void show(PublishedReleases.Read what) {
        read = Optional.of(what);
        List<String> lines = new ArrayList<>();
        lines.add(what.releases().size() + " releases: "
                + String.join(
                        ", ",
                        what.releases().stream()
                                .map(each -> each.release().version() + " "
                                        + each.release().channel().code())
                                .toList()));
        what.recovery()
                .ifPresent(set -> lines.add((what.complete() ? "Recovery set, whole: " : "Recovery set, not whole: ")
                        + String.join(
                                ", ",
                                set.files().stream()
                                        .map(each ->
                                                each.file() + " (" + each.part().code() + ")")
                                        .toList())));
        what.findings().forEach(each -> lines.add(each.text()));
        found.getChildren()
                .setAll(lines.stream()
                        .map(each -> Parts.paragraph(each, "small"))
                        .toList());
        boolean any = !what.proposals().isEmpty();
        proposed.setText("Its notes seem to say what starts since when: that counts ("
                + what.proposals().stream()
                        .filter(each -> !each.enables().isEmpty())
                        .map(each -> each.enables().get(0).code() + " since " + each.version())
                        .collect(Collectors.joining(", "))
                + ")");
        proposed.setWrapText(true);
        proposed.setVisible(any);
        proposed.setManaged(any);
        deedIs("Take it onto the shelf");
    }

    /** The sheet stays open with what was typed where it could not be done. */
    private void done(exordium.desktop.desk.Reading.Source<LocalDate> work) {
        house.reading().look(work, version -> {
            close.run();
            house.facts().refresh();
            house.navigation().go(Place.Shelf.FIRMWARE);
        });
    }

    private FirmwareRelease release() throws UnreadableInput {
        Optional<LocalDate> version = Parts.date(date.getText());
        if (family.getValue() == null || version.isEmpty() || notes.getText().isBlank()) {
            throw new BadArgument(
                    "Name what its maker publishes, or the family, the date and what the release brings.", "");
        }
        return new FirmwareRelease(
                List.of(family.getValue().id()),
                version.get(),
                channel.getValue(),
                notes.getText().strip());
    }
}
