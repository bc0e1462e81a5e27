// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firststart;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.intents.IntentsReader;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/** A file that lists several cards; paths in it are relative to it. */
record BatchFile(
        String profile,
        Optional<String> image,
        Optional<String> set,
        Optional<JsonNode> intents,
        List<CardLine> cards) {
    private static final String SCHEMA = "/exordium/profiles/batch.schema.json";

    /** One card as it is written there. */
    record CardLine(
            String target,
            Optional<String> confirm,
            Optional<String> board,
            String hostName,
            Optional<String> address,
            List<String> keys,
            Optional<String> label) {}

    static CardBatch.Batch read(Workbench workbench, Path file) throws IOException {
        BatchFile read = workbench.reader().user(file, SCHEMA, BatchFile.class);
        Path folder = file.toAbsolutePath().getParent();
        JsonNode common = JsonNodeFactory.instance.objectNode();
        if (read.set().isPresent()) {
            IntentSets sets = new IntentSets(workbench.folder());
            common = IntentsReader.fields(sets.over(sets.read(read.set().get())));
        }
        if (read.intents().filter(JsonNode::isObject).isPresent()) {
            // Read for itself first, so that a slip in it is told as one, and secrets are exchanged.
            JsonNode own =
                    IntentsReader.fields(IntentsReader.read(read.intents().get()));
            common = IntentsReader.merged(common, own);
        }
        List<CardBatch.Card> cards = read.cards().stream()
                .map(line -> new CardBatch.Card(
                        folder.resolve(line.target()),
                        line.confirm().orElse(""),
                        line.board(),
                        line.hostName(),
                        line.address(),
                        line.keys(),
                        line.label()))
                .toList();
        if (read.image().isPresent()
                && read.cards().stream().anyMatch(line -> line.confirm().isEmpty())) {
            throw new UnreadableInput(file.getFileName()
                    + ": writing erases every card: give each its confirm:, the target's own name as drives shows it.");
        }
        return new CardBatch.Batch(
                workbench.profiles().require(read.profile()), read.image().map(folder::resolve), common, cards);
    }
}
