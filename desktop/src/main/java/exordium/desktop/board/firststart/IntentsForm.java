// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firststart;

import exordium.core.board.BoardProfile;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.dialect.SwitchableParts;
import exordium.core.firststart.intents.Intents;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.PasswordField;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;

/** What is wanted, field by field. A box with a dash in it leaves things as they are on the medium. */
final class IntentsForm extends VBox {
    private static final Map<Intents.Way, String> WAYS = Map.of(
            Intents.Way.AUTOMATIC, "Wired, from the router",
            Intents.Way.FIXED, "Wired, fixed here",
            Intents.Way.RESERVED, "Wired, reserved in the router",
            Intents.Way.STRAIGHT_CABLE, "Straight cable from a PC",
            Intents.Way.WIFI, "Wi-Fi");
    private static final Map<Intents.Updates, String> UPDATES = Map.of(
            Intents.Updates.NONE, "nothing",
            Intents.Updates.LISTS, "refresh the lists",
            Intents.Updates.ALL, "update everything");

    private final FirstStartDraft draft;
    private final BoardProfile board;
    private final Runnable changed;
    private final Consumer<String> problem;
    private VBox group = new VBox();

    /** Where problem: is told what is wrong with a secret that was typed. */
    IntentsForm(FirstStartDraft draft, BoardProfile board, Runnable changed, Consumer<String> problem) {
        super(12);
        this.draft = draft;
        this.board = board;
        this.changed = changed;
        this.problem = problem;
        getStyleClass().add("intents");
        build();
    }

    /** Shows the draft as it is now. */
    void build() {
        getChildren().clear();
        group("Login");
        three("login", "Remote login on", "remoteLogin");
        text("account", "Account", "account.name", "none; such as keeper");
        text("key", "Public key", "account.keys", "a line of a .pub file");
        secret("password", "Password", "account.passwordHash", draft::password);
        group("Who it is");
        text("host-name", "Host name", "hostName", "as it is");
        text("time-zone", "Time zone", "timeZone", "as it is; such as Europe/Lisbon");
        text("keyboard", "Keyboard", "keyboard", "as it is; such as us or de");
        group("Network");
        network();
        group("Medium");
        two("root-by-id", "Name the root by its identifier", "rootByIdentifier");
        two("own-identity", "An identity no other card has", "ownIdentity");
        two("grow", "Fill the medium", "grow");
        group("Picture");
        three("no-borders", "No black borders", "display.borders", true);
        text("mode", "Fixed mode", "display.mode", "as it is; such as 1920x1080@60");
        three("without-monitor", "A picture without a monitor", "display.withoutMonitor");
        three("remote-screen", "Remote screen on", "remoteScreen");
        group("Switched off");
        things();
        group("Board");
        number("clock", "Clock in MHz", "clock.mhz", "as it is; needs real cooling");
        pcie();
        number("graphics", "Memory for graphics, MB", "graphicsMemory", "as it is");
        if (board.bitLine().isPresent()) {
            three("start-bit", "Line that sets the start bit", "startBit");
        }
        group("Writing less");
        three("overlay-root", "Read-only overlay over the root", "overlay.root");
        three("overlay-start", "Start partition read-only", "overlay.start");
        three("logs", "Logs in memory", "logsInMemory");
        choice("updates", "Software at the first start", "updates", Intents.Updates.values(), UPDATES::get);
    }

    private void group(String title) {
        group = new VBox(5, Parts.label(title, "strong", "small"));
        getChildren().add(group);
    }

    private void want(String path, Object value) {
        draft.set(path, value);
        changed.run();
    }

    /** On, off, or as it is. */
    private void three(String id, String words, String path) {
        three(id, words, path, false);
    }

    private void three(String id, String words, String path, boolean turned) {
        CheckBox box = new CheckBox(words);
        box.setId(id);
        box.setAllowIndeterminate(true);
        Optional<Boolean> now = draft.get(path).map(each -> each.asBoolean() != turned);
        box.setIndeterminate(now.isEmpty());
        box.setSelected(now.orElse(false));
        box.setOnAction(event -> want(path, box.isIndeterminate() ? null : (Object) (box.isSelected() != turned)));
        Parts.hint(box, "A dash leaves it as it is on the medium.");
        group.getChildren().add(box);
    }

    private void two(String id, String words, String path) {
        CheckBox box = new CheckBox(words);
        box.setId(id);
        box.setSelected(draft.get(path).filter(each -> each.asBoolean()).isPresent());
        box.setOnAction(event -> want(path, box.isSelected() ? Boolean.TRUE : null));
        group.getChildren().add(box);
    }

    private TextField field(String id, String words, String prompt) {
        TextField field = new TextField();
        labelled(id, words, field);
        field.setPromptText(prompt);
        return field;
    }

    private void labelled(String id, String words, javafx.scene.control.Control control) {
        control.setId(id);
        control.setAccessibleText(words);
        control.setMaxWidth(Double.MAX_VALUE);
        group.getChildren().addAll(Parts.label(words, "soft", "small"), control);
    }

    private void text(String id, String words, String path, String prompt) {
        TextField field = field(id, words, prompt);
        boolean list = path.endsWith("keys");
        field.setText(list ? draft.get(path).map(each -> each.path(0).asText()).orElse("") : draft.text(path));
        field.textProperty().addListener((property, before, now) -> {
            String text = now.strip();
            want(path, text.isEmpty() ? null : list ? List.of(text) : text);
        });
    }

    private void number(String id, String words, String path, String prompt) {
        TextField field = field(id, words, prompt);
        field.setText(draft.text(path));
        field.textProperty().addListener((property, before, now) -> {
            String text = now.strip();
            // What is no number is kept as it is typed, and told as such.
            want(path, text.isEmpty() ? null : text.matches("\\d{1,7}") ? (Object) Integer.valueOf(text) : text);
        });
    }

    /** Takes a secret when the field is left; what was typed is gone then. */
    private interface Secret {
        void take(String typed) throws UnreadableInput;
    }

    private void secret(String id, String words, String path, Secret secret) {
        PasswordField field = new PasswordField();
        labelled(id, words, field);
        Runnable prompt = () ->
                field.setPromptText(draft.get(path).isPresent() ? "set; kept as what is derived from it" : "none");
        prompt.run();
        Runnable take = () -> {
            if (!field.getText().isEmpty()) {
                try {
                    secret.take(field.getText());
                    field.clear();
                    prompt.run();
                    changed.run();
                } catch (UnreadableInput e) {
                    problem.accept(e.getMessage());
                }
            }
        };
        field.setOnAction(event -> take.run());
        field.focusedProperty().addListener((property, before, now) -> {
            if (!now) {
                take.run();
            }
        });
    }

    private <T> void choice(
            String id, String words, String path, T[] values, java.util.function.Function<T, String> said) {
        ComboBox<Optional<T>> box = new ComboBox<>();
        labelled(id, words, box);
        List<Optional<T>> all = new ArrayList<>(List.of(Optional.empty()));
        for (T value : values) {
            all.add(Optional.of(value));
        }
        box.getItems().setAll(all);
        WordCell.in(box, each -> each.map(said).orElse("as it is"));
        String now = draft.text(path);
        box.setValue(
                all.stream().filter(each -> code(each).equals(now)).findFirst().orElse(Optional.empty()));
        box.setOnAction(event -> {
            draft.set(path, box.getValue().isPresent() ? code(box.getValue()) : null);
            if (path.equals("network.kind")) {
                draft.set("network", box.getValue().isPresent() ? Map.of("kind", code(box.getValue())) : null);
                build();
                lookup("#network").requestFocus();
            }
            changed.run();
        });
    }

    private static String code(Optional<?> value) {
        return value.map(each -> each.toString().toLowerCase(Locale.ROOT).replace('_', '-'))
                .orElse("");
    }

    private void network() {
        choice("network", "How it comes by its address", "network.kind", Intents.Way.values(), WAYS::get);
        switch (draft.text("network.kind")) {
            case "fixed" -> {
                text("address", "Address", "network.address", "such as 192.168.4.20/24");
                text("gateway", "Router", "network.gateway", "such as 192.168.4.1");
            }
            case "straight-cable" -> text("address", "Address", "network.address", "169.254.1.0 to 169.254.254.255");
            case "reserved" -> text("address", "Address in the router", "network.address", "such as 192.168.4.20");
            case "wifi" -> {
                text("wifi-name", "Name of the network", "network.wifi.name", "as it is announced");
                text("wifi-country", "Country", "network.wifi.country", "two letters, such as PT");
                secret("wifi-phrase", "Pass phrase", "network.wifi.key", draft::passPhrase);
            }
            default ->
                group.getChildren()
                        .add(Parts.paragraph(
                                "A wired first start is the safe choice; it takes 3 to 5 minutes.", "aside", "small"));
        }
    }

    private void things() {
        for (SwitchableParts.Thing thing : SwitchableParts.shipped().things()) {
            CheckBox box = new CheckBox(thing.title());
            box.setId("off-" + thing.code());
            box.setAllowIndeterminate(true);
            boolean off = has("off", thing.code());
            boolean on = has("on", thing.code());
            box.setIndeterminate(!off && !on);
            box.setSelected(off);
            box.setOnAction(event -> {
                list("off", thing.code(), !box.isIndeterminate() && box.isSelected());
                list("on", thing.code(), !box.isIndeterminate() && !box.isSelected());
                changed.run();
            });
            group.getChildren().add(box);
        }
    }

    private boolean has(String path, String code) {
        boolean[] found = {false};
        draft.get(path)
                .ifPresent(
                        list -> list.forEach(each -> found[0] |= each.asText().equals(code)));
        return found[0];
    }

    private void list(String path, String code, boolean there) {
        List<String> codes = new ArrayList<>();
        draft.get(path).ifPresent(list -> list.forEach(each -> codes.add(each.asText())));
        codes.remove(code);
        if (there) {
            codes.add(code);
        }
        draft.set(path, codes.isEmpty() ? null : codes);
    }

    private void pcie() {
        ComboBox<String> box = new ComboBox<>();
        labelled("pcie", "PCIe", box);
        List<String> words = List.of("as it is", "on", "on, generation 2", "on, generation 3 (not rated)", "off");
        box.getItems().setAll(words);
        String generation = draft.text("pcie.generation");
        int now = draft.get("pcie.on").isEmpty()
                ? 0
                : !draft.get("pcie.on").get().asBoolean()
                        ? 4
                        : generation.equals("2") ? 2 : generation.equals("3") ? 3 : 1;
        box.setValue(words.get(now));
        box.setOnAction(event -> {
            int chosen = box.getSelectionModel().getSelectedIndex();
            draft.set("pcie.on", chosen == 0 ? null : (Object) (chosen != 4));
            draft.set("pcie.generation", chosen == 2 || chosen == 3 ? chosen : null);
            changed.run();
        });
    }
}
