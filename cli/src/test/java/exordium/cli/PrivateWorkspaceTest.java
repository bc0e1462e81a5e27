// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.PrivateFiles;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Hashes, keys and whole drives lie in a workspace: after every kind of deed, nobody but its user reads any of it. */
class PrivateWorkspaceTest extends Commands {
    private List<String> openToOthers() throws IOException {
        Path workspace = folder.resolve("workspace");
        List<String> open = new ArrayList<>();
        try (Stream<Path> all = Files.walk(workspace)) {
            for (Path each : all.toList()) {
                // What is to stand on a server is read there by others; here the folder around it is closed.
                boolean forServer = each.startsWith(workspace.resolve("network"));
                if (!Files.isSymbolicLink(each) && !forServer && !PrivateFiles.isClosed(each)) {
                    open.add(each + " " + Files.getPosixFilePermissions(each, LinkOption.NOFOLLOW_LINKS));
                }
            }
        }
        return open;
    }

    private void does(String... words) throws IOException {
        Terminal.Ran ran = terminal.run(words);
        assertThat(ran.code()).as(String.join(" ", words) + ": " + ran.err()).isZero();
        assertThat(openToOthers()).as(String.join(" ", words)).isEmpty();
    }

    @Test
    void afterEachKindOfDeedNobodyElseReadsAnything() throws IOException {
        Path disk = new DiskBuilder(folder).root("etc/hostname", "first\n").build("marsh.img");
        Path intents = Files.writeString(
                folder.resolve("intents.yaml"),
                "profile: plover-4\nhostName: clock\naccount: {name: keeper, password: a-long-one-9}\nremoteLogin: true\n");
        Path drives = folder.resolve("workspace/drives");
        String card = drives.resolve("card.img").toString();
        does("workspace", "new", "--name", "House");
        does("board", "new", "Tide clock", "--profile", "plover-4", "--memory", "4 GB", "--supply", "5 V 3 A");
        does("drive", "new", card, "--bytes", "80000000", "--bus", "sd");
        does("medium", "take", "card.img", "--name", "Card", "--kind", "card-quick");
        does("board", "attach", "tide-clock", "card", "card");
        does("shelf", "image", disk.toString());
        does("write", disk.toString(), card, "--confirm", "card.img");
        does("firststart", "apply", intents.toString(), card);
        does("firststart", "keep", "usual", intents.toString());
        does("copy", "run", "tide-clock");
        does("copy", "run", "tide-clock", "--plain");
        does("order", "stage", "tide-clock", "0xf1");
        does("board", "restart", "tide-clock");
        does("medium", "read", "card");
        does("firststart", "undo", card, "--profile", "plover-4");
        does("drive", "prove", card, "--confirm", "card.img");
        does("copy", "prune");
        does("vault", "check");
        does("log");
    }

    /** What an earlier version made is closed at the next opening, by whatever command; the vault beside it as well. */
    @Test
    void whatWasOpenIsClosedAtTheNextOpening() throws IOException {
        does("workspace", "new", "--name", "House");
        does("board", "new", "Tide clock", "--profile", "plover-4", "--memory", "4 GB");
        GeneralTools.run("chmod", "-R", "a+rX", folder.resolve("workspace").toString());
        assertThat(openToOthers()).isNotEmpty();
        does("board", "list");
    }
}
