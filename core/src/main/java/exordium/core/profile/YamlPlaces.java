// SPDX-License-Identifier: Apache-2.0
package exordium.core.profile;

import exordium.core.finding.OverBound;
import exordium.core.finding.UnreadableInput;
import java.io.StringReader;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.yaml.snakeyaml.LoaderOptions;
import org.yaml.snakeyaml.Yaml;
import org.yaml.snakeyaml.constructor.SafeConstructor;
import org.yaml.snakeyaml.error.MarkedYAMLException;
import org.yaml.snakeyaml.error.YAMLException;
import org.yaml.snakeyaml.nodes.MappingNode;
import org.yaml.snakeyaml.nodes.Node;
import org.yaml.snakeyaml.nodes.NodeTuple;
import org.yaml.snakeyaml.nodes.ScalarNode;
import org.yaml.snakeyaml.nodes.SequenceNode;

/** Where each field of a YAML file stands, so that what is wrong with it can be said by its line. */
final class YamlPlaces {
    private final Node root;

    private YamlPlaces(Node root) {
        this.root = root;
    }

    /** @throws UnreadableInput with the line: no YAML, a key that stands twice, or a second document */
    static YamlPlaces of(String name, String text) throws UnreadableInput {
        Yaml yaml = new Yaml(new SafeConstructor(new LoaderOptions()));
        List<Node> documents = new ArrayList<>();
        try {
            for (Node document : yaml.composeAll(new StringReader(text))) {
                documents.add(document);
                if (documents.size() > 1) {
                    throw new UnreadableInput(
                            name + ", line " + line(document) + ": a second document begins here; one file holds one.");
                }
            }
        } catch (MarkedYAMLException e) {
            int line = e.getProblemMark() == null ? 1 : e.getProblemMark().getLine() + 1;
            throw new UnreadableInput(name + ", line " + line + ": this is no YAML: " + plain(e.getProblem()) + ".", e);
        } catch (YAMLException e) {
            throw new UnreadableInput(name + " is no YAML that can be read: " + plain(e.getMessage()) + ".", e);
        }
        if (documents.isEmpty()) {
            throw new UnreadableInput(name + " is empty.");
        }
        if (!(documents.get(0) instanceof MappingNode)) {
            throw new UnreadableInput(
                    name + ", line " + line(documents.get(0)) + ": fields such as \"name: value\" are wanted.");
        }
        new Walk(name).requireOnce(documents.get(0), 0);
        return new YamlPlaces(documents.get(0));
    }

    private static String plain(String message) {
        return message == null ? "it breaks off" : message.split("\n")[0].replaceAll("\\.$", "");
    }

    /** Over all of a document, once. */
    private static final class Walk {
        private static final int DEEPEST = 64;
        private static final int MOST = 20_000;

        private final String name;
        private int nodes;

        Walk(String name) {
            this.name = name;
        }

        void requireOnce(Node node, int depth) throws UnreadableInput {
            if (depth > DEEPEST) {
                throw new UnreadableInput(name + ", line " + line(node) + ": fields stand too deep in one another.");
            }
            nodes++;
            if (nodes > MOST) {
                throw new OverBound(name + " has more than " + MOST + " fields.", MOST);
            }
            if (node instanceof MappingNode mapping) {
                Set<String> seen = new HashSet<>();
                for (NodeTuple tuple : mapping.getValue()) {
                    if (tuple.getKeyNode() instanceof ScalarNode key && !seen.add(key.getValue())) {
                        throw new UnreadableInput(name + ", line " + line(key) + ": \"" + key.getValue()
                                + "\" stands here for the second time.");
                    }
                    requireOnce(tuple.getValueNode(), depth + 1);
                }
            } else if (node instanceof SequenceNode sequence) {
                for (Node each : sequence.getValue()) {
                    requireOnce(each, depth + 1);
                }
            }
        }
    }

    private static int line(Node node) {
        return node.getStartMark().getLine() + 1;
    }

    /** The line of a field, or of the nearest one around it that is there; the path is made of names and numbers from 0. */
    int line(List<String> path) {
        Node at = root;
        int line = line(root);
        for (String step : path) {
            Optional<Node> next = next(at, step);
            if (next.isEmpty()) {
                return line;
            }
            at = next.get();
            line = line(at);
        }
        return line;
    }

    /** What stands in a field, where it is a single word. */
    Optional<String> text(List<String> path) {
        Node at = root;
        for (String step : path) {
            Optional<Node> next = next(at, step);
            if (next.isEmpty()) {
                return Optional.empty();
            }
            at = next.get();
        }
        return at instanceof ScalarNode scalar ? Optional.of(scalar.getValue()) : Optional.empty();
    }

    private static Optional<Node> next(Node at, String step) {
        if (at instanceof MappingNode mapping) {
            return mapping.getValue().stream()
                    .filter(tuple -> tuple.getKeyNode() instanceof ScalarNode key
                            && key.getValue().equals(step))
                    .map(NodeTuple::getValueNode)
                    .findFirst();
        }
        if (at instanceof SequenceNode sequence && step.matches("\\d{1,6}")) {
            int index = Integer.parseInt(step);
            return index < sequence.getValue().size()
                    ? Optional.of(sequence.getValue().get(index))
                    : Optional.empty();
        }
        return Optional.empty();
    }
}
