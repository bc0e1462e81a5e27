// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import picocli.CommandLine;

/** Runs commands in this process and keeps what they print. */
final class Terminal {
    private final Path workspace;

    Terminal(Path workspace) {
        this.workspace = workspace;
    }

    /** On a demo workspace made there. */
    static Terminal ofDemo(Path workspace) {
        Terminal terminal = new Terminal(workspace);
        Ran made = terminal.json("demo");
        if (made.code() != 0) {
            throw new AssertionError(made.err());
        }
        return terminal;
    }

    /** What a command printed and how it ended. */
    record Ran(int code, String out, String err) {
        JsonNode json() {
            if (out.isBlank()) {
                throw new AssertionError("nothing on standard output: " + err);
            }
            try {
                return new ObjectMapper().readTree(out);
            } catch (JsonProcessingException e) {
                throw new AssertionError("not one JSON document: " + out, e);
            }
        }

        /** The sentence on standard error, which is all there is of it. */
        String sentence() {
            return err.strip();
        }
    }

    Ran run(String... words) {
        List<String> all = new ArrayList<>(Arrays.asList(words));
        if (all.size() > 0 && !all.get(0).startsWith("-")) {
            all.add("--workspace");
            all.add(workspace.toString());
        }
        StringWriter out = new StringWriter();
        StringWriter err = new StringWriter();
        String[] args = all.toArray(String[]::new);
        CommandLine line = Main.commandLine(args);
        line.setOut(new PrintWriter(out, true));
        line.setErr(new PrintWriter(err, true));
        int code = line.execute(args);
        return new Ran(code, out.toString(), err.toString());
    }

    Ran json(String... words) {
        String[] all = Arrays.copyOf(words, words.length + 1);
        all[words.length] = "--json";
        return run(all);
    }
}
