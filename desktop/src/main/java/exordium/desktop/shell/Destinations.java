// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shell;

import exordium.core.access.Ability;
import exordium.core.daysheet.BoardRow;
import exordium.core.daysheet.DaySheet;
import exordium.core.finding.Step;
import exordium.desktop.desk.Place;
import exordium.store.Images;
import exordium.store.Media;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Everything the go-anywhere field finds. */
public final class Destinations {
    private static final int MOST_SHOWN = 9;

    private final List<Destination> all = new ArrayList<>();

    /** One line of the field's list. */
    public record Destination(String text, String hint, Place place) {}

    public Destinations(DaySheet sheet, List<Media.Medium> media, List<Images.Image> images) {
        all.add(new Destination("Day sheet", "all boards and steps", new Place.Sheet()));
        for (BoardRow board : sheet.boards()) {
            all.add(new Destination(
                    board.name(), board.place() + ", " + board.profile(), new Place.Station(board.id(), Step.STORAGE)));
            for (Step step : Step.values()) {
                all.add(new Destination(
                        board.name() + ": " + step.title().toLowerCase(Locale.ROOT),
                        board.cell(step).reason(),
                        new Place.Station(board.id(), step)));
            }
            all.add(new Destination(
                    board.name() + ": name a wish, or go on with its passage",
                    "the ways to it, and the job card",
                    new Place.Passage(board.id())));
            all.add(new Destination(
                    board.name() + ": change what is known of it",
                    "name, place, memory, supply, serial, firmware, order, carrier",
                    new Place.BoardForm(board.id(), Place.BoardForm.FormKind.EDIT)));
            all.add(new Destination(
                    board.name() + ": what is in it",
                    "plug a medium in or take it out: which one is in which port",
                    new Place.BoardForm(board.id(), Place.BoardForm.FormKind.PORTS)));
            all.add(new Destination(
                    board.name() + ": what is known of its family",
                    "its fields, where each is from, and what nobody looked at",
                    new Place.BoardForm(board.id(), Place.BoardForm.FormKind.FAMILY)));
            if (!board.way().can(Ability.ALWAYS_READ)) {
                all.add(new Destination(
                        board.name() + ": tell what it shows",
                        "what was seen at the board",
                        new Place.BoardForm(board.id(), Place.BoardForm.FormKind.TOLD)));
            }
        }
        sheet.tasks()
                .forEach(task -> all.add(new Destination(
                        task.action() + ": " + task.title(),
                        task.reason(),
                        new Place.Station(task.board(), task.step()))));
        for (Place.Shelf shelf : Place.Shelf.values()) {
            all.add(new Destination(shelf.title(), shelf.hint(), shelf));
        }
        for (Place.Form form : Place.Form.values()) {
            all.add(new Destination(form.title(), "opens a short form", form));
        }
        media.forEach(each -> all.add(
                new Destination(each.name() + " " + each.serial(), "medium, " + each.place(), Place.Shelf.MEDIA)));
        images.forEach(each -> all.add(new Destination(each.title(), "image, " + each.file(), Place.Shelf.IMAGES)));
    }

    /** Other words people use for what is found here; common practice, no source. */
    private static final Map<String, String> OTHER_WORDS = Map.ofEntries(
            Map.entry("flash", "image"),
            Map.entry("burn", "image"),
            Map.entry("write", "image"),
            Map.entry("iso", "image"),
            Map.entry("backup", "copies"),
            Map.entry("back-up", "copies"),
            Map.entry("clone", "copies"),
            Map.entry("restore", "copies"),
            Map.entry("boot", "order"),
            Map.entry("bootloader", "firmware"),
            Map.entry("eeprom", "firmware"),
            Map.entry("bios", "firmware"),
            Map.entry("update", "firmware"),
            Map.entry("upgrade", "firmware"),
            Map.entry("ssh", "first"),
            Map.entry("login", "first"),
            Map.entry("wifi", "first"),
            Map.entry("wlan", "first"),
            Map.entry("headless", "first"),
            Map.entry("card", "media"),
            Map.entry("sd", "media"),
            Map.entry("ssd", "storage"),
            Map.entry("disk", "drive"),
            Map.entry("simulate", "rehearsal"),
            Map.entry("test", "rehearsal"),
            Map.entry("history", "logbook"),
            Map.entry("journal", "logbook"),
            Map.entry("settings", "rules"),
            Map.entry("preferences", "rules"),
            Map.entry("options", "rules"),
            Map.entry("schedule", "calendar"),
            Map.entry("add", "new"),
            Map.entry("create", "new"),
            Map.entry("edit", "change"),
            Map.entry("rename", "change"),
            Map.entry("export", "along"),
            Map.entry("import", "make a workspace"),
            Map.entry("open", "another"),
            Map.entry("buy", "passages"),
            Map.entry("shopping", "passages"),
            Map.entry("goal", "wish"),
            Map.entry("migrate", "wish"),
            Map.entry("move", "wish"),
            Map.entry("spare", "wish"));

    private static boolean holds(String text, String word) {
        String other = OTHER_WORDS.get(word);
        return text.contains(word) || (other != null && text.contains(other));
    }

    /** Those that hold every word typed, or another word for it, shorter texts first. */
    public List<Destination> find(String typed) {
        List<String> words = Arrays.stream(typed.toLowerCase(Locale.ROOT).split("\\s+"))
                .filter(word -> !word.isEmpty())
                .toList();
        return all.stream()
                .filter(each ->
                        words.stream().allMatch(word -> holds(each.text().toLowerCase(Locale.ROOT), word)))
                .sorted((a, b) -> words.isEmpty()
                        ? 0
                        : Integer.compare(a.text().length(), b.text().length()))
                .limit(MOST_SHOWN)
                .toList();
    }
}
