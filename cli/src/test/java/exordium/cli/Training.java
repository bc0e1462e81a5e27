// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import java.io.PrintWriter;
import java.io.Writer;
import java.util.ArrayList;
import java.util.List;
import picocli.CommandLine;

/**
 * Runs what is asked for most in one process, so that the archive of loaded classes made at its end has what it all needs and later
 * starts are quick. Called once after a build.
 */
final class Training {
    private Training() {}

    /** Where arguments: a folder of its own, then an image and a target to write it to. */
    public static void main(String[] args) {
        String image = args[1];
        String target = args[2];
        run(args[0], "write", image, target, "--confirm", target.substring(target.lastIndexOf('/') + 1), "--json");
        run(args[0], "verify", image, target);
        String demo = args[0] + "/demo";
        run(demo, "demo");
        run(demo, "due", "--json");
        run(demo, "due");
        run(demo, "board", "list");
        run(demo, "medium", "list");
        run(demo, "log");
        run(demo, "writes");
        run(demo, "drives");
        run(demo, "copy", "list");
        run(demo, "vault");
        run(demo, "order", "decode", "--profile", "plover-5", "0xf416");
        run(demo, "choose", "--board", "wave-tank");
        run(demo, "choose", "--board", "wave-tank", "--json");
        run(demo, "rehearse", "--board", "wave-tank");
        run(demo, "rehearse", "--board", "film-loop", "--json");
        run(demo, "firmware", "status", "ticket-desk");
        run(demo, "inspect", demo + "/drives/tide-clock-card.img");
        run(demo, "lint", image);
    }

    private static void run(String workspace, String... words) {
        List<String> all = new ArrayList<>(List.of(words));
        all.add("--workspace");
        all.add(workspace);
        String[] args = all.toArray(String[]::new);
        CommandLine line = Main.commandLine(args);
        line.setOut(new PrintWriter(Writer.nullWriter()));
        line.setErr(new PrintWriter(Writer.nullWriter()));
        line.execute(args);
    }
}
