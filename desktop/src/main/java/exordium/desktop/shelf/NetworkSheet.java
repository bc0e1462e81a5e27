// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.finding.BadArgument;
import exordium.core.finding.Sentence;
import exordium.core.finding.UnreadableInput;
import exordium.core.network.NetworkPlan;
import exordium.core.quantity.ByteSize;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.desk.Request;
import exordium.desktop.part.FormSheet;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import exordium.jobs.bench.Workbench;
import exordium.jobs.network.NetworkFacts;
import exordium.jobs.network.NetworkJob;
import exordium.jobs.network.NetworkKit;
import exordium.store.Boards;
import exordium.store.Images;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextArea;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;

/** The plan of a network start: the server, what boards start from it, from which image, with which kind of root. */
public final class NetworkSheet extends FormSheet {
    private final TextField name = new TextField();
    private final TextField address = new TextField();
    private final TextField folder = new TextField();
    private final TextField room = new TextField();
    private final CheckBox router = new CheckBox("A router hands out addresses already");
    private final ComboBox<String> image = new ComboBox<>();
    private final ComboBox<NetworkPlan.Root> root = new ComboBox<>();
    private final Map<String, CheckBox> boards = new LinkedHashMap<>();
    private final TextArea files = new TextArea();
    private final NetworkJob.Offer asked;

    private NetworkSheet(House house, Runnable close, NetworkJob.Offer asked) {
        super(
                house,
                close,
                "Have boards start over the network",
                "Its files are made in the workspace's folder network, each to be looked at before it goes to the server. Nothing of this"
                        + " machine is changed.");
        this.asked = asked;
        Optional<NetworkPlan.Server> server = asked.plan().map(NetworkPlan::server);
        name.setId("network-name");
        name.setText(server.map(NetworkPlan.Server::name).orElse("server"));
        field("Server", name);
        address.setId("network-address");
        address.setText(server.map(NetworkPlan.Server::address).orElse(""));
        address.setPromptText("such as 192.168.40.2");
        field("Its address", address);
        folder.setId("network-folder");
        folder.setText(server.map(NetworkPlan.Server::folder).orElse("/srv/boards"));
        field("Folder on it", folder);
        room.setId("network-room");
        room.setText(
                server.flatMap(NetworkPlan.Server::room).map(ByteSize::said).orElse(""));
        room.setPromptText("such as 240 GB, where known");
        field("Room on it", room);
        router.setSelected(server.map(NetworkPlan.Server::besideRouter).orElse(false));
        field("", router);
        image.setId("network-image");
        image.getItems().setAll(asked.images().stream().map(Images.Image::file).toList());
        image.setValue(asked.images().isEmpty() ? null : asked.images().get(0).file());
        field("New boards get", image);
        root.setId("network-root");
        root.getItems().setAll(NetworkPlan.Root.values());
        root.setValue(NetworkPlan.Root.OWN);
        WordCell.in(root, NetworkPlan.Root::said);
        field("with", root);
        besideIt();
        VBox list = new VBox(6);
        for (Boards.Board each : asked.boards()) {
            CheckBox box = new CheckBox(each.name());
            box.setId("network-board-" + each.id());
            box.setSelected(asked.plan().flatMap(plan -> plan.client(each.id())).isPresent());
            boards.put(each.id(), box);
            list.getChildren().add(box);
        }
        ScrollPane scroll = new ScrollPane(list);
        scroll.setFitToWidth(true);
        scroll.setPrefHeight(230);
        under(Parts.label("Boards that can start from it", "heading"));
        scroll.setPrefWidth(430);
        under(scroll);
        String others = String.join(
                ", ",
                asked.plan().map(NetworkPlan::clients).orElse(List.of()).stream()
                        .map(NetworkPlan.Client::id)
                        .filter(id -> !boards.containsKey(id))
                        .toList());
        if (!others.isEmpty()) {
            under(Parts.paragraph("Not among the boards here, and stay in it: " + others + ".", "soft", "small"));
        }
        files.setId("network-files");
        files.setEditable(false);
        files.setAccessibleText("The files as they would be");
        files.setPrefRowCount(10);
        files.setVisible(false);
        files.setManaged(false);
        Parts.tabGoesOn(files);
        Button look = Parts.button("Show the files first", this::showFiles);
        look.setId("network-show");
        getChildren().addAll(getChildren().size() - 1, List.of(look, files));
        deedIs("Make the kit");
    }

    /** Every text file of the kit as the plan would have it; nothing is written. */
    private void showFiles() {
        withPlan(plan -> house.reading().look(() -> text(plan), text -> {
            files.setText(text);
            files.setVisible(true);
            files.setManaged(true);
        }));
    }

    private String text(NetworkPlan plan) throws IOException {
        NetworkFacts facts = new NetworkFacts(house.workbench());
        StringBuilder all = new StringBuilder();
        for (NetworkKit.Shown each : NetworkKit.of(house.workbench()).shown(plan, facts)) {
            all.append("--- ")
                    .append(each.path())
                    .append('\n')
                    .append(each.text())
                    .append('\n');
        }
        return all.toString();
    }

    /** Reads what the form is filled with, then opens it. */
    public static void read(House house, Runnable close, Consumer<NetworkSheet> open) {
        house.reading()
                .read(
                        () -> new NetworkJob(house.workbench(), NetworkKit.of(house.workbench())).offer(),
                        asked -> open.accept(new NetworkSheet(house, close, asked)));
    }

    @Override
    protected void carryOut() {
        withPlan(plan -> {
            close.run();
            Request<Void> making =
                    Request.deed("Making the kit for " + plan.server().name(), meter -> {
                        NetworkKit kit = NetworkKit.of(house.workbench());
                        kit.bringTo(plan, NetworkKit.Roots.TAR, meter);
                        house.reading()
                                .say("The kit is in " + kit.folder() + "; what to do with it is in its STEPS.txt.");
                    });
            house.jobs().start(making, done -> {
                house.facts().refresh();
                house.navigation().go(Place.Shelf.NETWORK);
            });
        });
    }

    /** What is typed as a plan; where it is none, what is wrong is said and the sheet stays. */
    private void withPlan(Consumer<NetworkPlan> then) {
        house.reading().problemProperty().set("");
        try {
            NetworkPlan.Server server = server();
            List<String> wanted = boards.entrySet().stream()
                    .filter(each -> each.getValue().isSelected())
                    .map(Map.Entry::getKey)
                    .toList();
            Optional<String> file = Optional.ofNullable(image.getValue());
            NetworkPlan.Root kind = root.getValue();
            house.reading().look(() -> plan(server, wanted, file, kind), then);
        } catch (UnreadableInput e) {
            house.reading().problemProperty().set(Sentence.of(e));
        }
    }

    private NetworkPlan.Server server() throws UnreadableInput {
        Optional<NetworkPlan.Server> before = asked.plan().map(NetworkPlan::server);
        Optional<ByteSize> space = Parts.size(room.getText());
        if (name.getText().isBlank()
                || address.getText().isBlank()
                || folder.getText().isBlank()) {
            throw new BadArgument("Give the server's name, its address and the folder on it.", address.getText());
        }
        return new NetworkPlan.Server(
                name.getText().strip(),
                address.getText().strip(),
                before.map(NetworkPlan.Server::prefix).orElse(0),
                before.flatMap(NetworkPlan.Server::router),
                before.map(NetworkPlan.Server::device).orElse("eth0"),
                folder.getText().strip(),
                router.isSelected(),
                before.flatMap(NetworkPlan.Server::medium),
                space,
                before.flatMap(NetworkPlan.Server::link),
                before.flatMap(NetworkPlan.Server::diskRate),
                before.flatMap(NetworkPlan.Server::powerOverEthernet));
    }

    /** Boards that are in the plan stay as they are; those of no register as well. */
    private NetworkPlan plan(
            NetworkPlan.Server server, List<String> wanted, Optional<String> file, NetworkPlan.Root kind)
            throws IOException {
        Workbench workbench = house.workbench();
        NetworkJob job = new NetworkJob(workbench, NetworkKit.of(workbench));
        List<NetworkPlan.Client> clients = new ArrayList<>();
        for (NetworkPlan.Client each : asked.plan().map(NetworkPlan::clients).orElse(List.of())) {
            if (!boards.containsKey(each.id()) || wanted.contains(each.id())) {
                clients.add(each);
            }
        }
        for (String id : wanted) {
            if (clients.stream().noneMatch(each -> each.id().equals(id))) {
                String from = file.orElseThrow(() -> new BadArgument("Take an image onto the shelf first.", id));
                clients.add(job.ofRegister(id, from, Optional.of(kind)));
            }
        }
        NetworkPlan plan = new NetworkPlan(
                server, asked.plan().flatMap(NetworkPlan::root), asked.plan().flatMap(NetworkPlan::growth), clients);
        return job.checked(plan);
    }
}
