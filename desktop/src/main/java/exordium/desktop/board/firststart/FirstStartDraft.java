// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firststart;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.dialect.FirstStartPlan;
import exordium.core.firststart.intents.Intents;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.firststart.intents.PasswordHash;
import exordium.core.firststart.intents.WifiKey;
import exordium.core.layout.DiskIdentifier;
import java.util.Optional;

/** Intents while they are put together, field by field, and what they come to on a medium. */
public final class FirstStartDraft {
    private static final ObjectMapper JSON = new ObjectMapper();

    private ObjectNode fields = JsonNodeFactory.instance.objectNode();

    /** Takes up what was wanted before. */
    public void take(Intents intents) {
        fields = IntentsReader.fields(intents).deepCopy();
    }

    /** Adds what mends something to what is wanted. */
    public void add(Intents intents) {
        fields = IntentsReader.merged(fields, IntentsReader.fields(intents)).deepCopy();
    }

    /** A field by its path, such as "account.name"; null takes it out, and what becomes empty around it. */
    public void set(String path, Object value) {
        String[] names = path.split("\\.");
        ObjectNode at = fields;
        for (int i = 0; i < names.length - 1; i++) {
            at = at.path(names[i]) instanceof ObjectNode there ? there : at.putObject(names[i]);
        }
        if (value == null) {
            at.remove(names[names.length - 1]);
        } else {
            at.set(names[names.length - 1], JSON.valueToTree(value));
        }
        prune(fields);
    }

    private static void prune(ObjectNode node) {
        java.util.List<String> empty = new java.util.ArrayList<>();
        node.fields().forEachRemaining(each -> {
            if (each.getValue() instanceof ObjectNode inner) {
                prune(inner);
            }
            if (each.getValue().isContainerNode() && each.getValue().isEmpty()) {
                empty.add(each.getKey());
            }
        });
        node.remove(empty);
    }

    public Optional<JsonNode> get(String path) {
        JsonNode at = fields;
        for (String name : path.split("\\.")) {
            at = at.path(name);
        }
        return at.isMissingNode() || at.isNull() ? Optional.empty() : Optional.of(at);
    }

    public String text(String path) {
        return get(path).map(JsonNode::asText).orElse("");
    }

    /** A password as it is typed; only its hash is kept. */
    public void password(String typed) throws UnreadableInput {
        set("account.passwordHash", typed.isEmpty() ? null : PasswordHash.of(typed, text("account.name")));
    }

    /** A pass phrase as it is typed; only the key derived from it is kept. */
    public void passPhrase(String typed) throws UnreadableInput {
        set("network.wifi.key", typed.isEmpty() ? null : WifiKey.of(text("network.wifi.name"), typed));
    }

    /** @throws UnreadableInput naming the field that is not right yet */
    public Intents intents() throws UnreadableInput {
        return IntentsReader.read(fields);
    }

    /** What all boards of a batch share. */
    public JsonNode shared() {
        return fields.deepCopy();
    }

    /** What it would come to; the identifier of a fresh disk is chosen when it is done. */
    public FirstStartPlan plan(FirstStartModel model) throws UnreadableInput {
        Optional<DiskIdentifier> fresh = Optional.of(new DiskIdentifier("xxxxxxxx"));
        return FirstStartPlan.of(
                intents(), model.files().orElseThrow(), model.board().at().profile(), model.around(), fresh);
    }

    /** Whether nothing stands against it. */
    public static boolean allowed(FirstStartPlan plan) {
        return plan.stops().isEmpty() && !plan.nothing();
    }
}
