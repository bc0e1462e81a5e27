// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.network;

import exordium.core.block.PrivateFiles;
import exordium.core.block.TransferWatch;
import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FileBody;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.network.ClientFiles;
import exordium.core.network.NetworkPlan;
import exordium.core.network.RootTar;
import exordium.core.quantity.ByteSize;
import exordium.jobs.bench.Folders;
import exordium.jobs.bench.Workbench;
import java.io.BufferedOutputStream;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.concurrent.CompletableFuture;

/** Roots of a kit: one a board, or one for all boards of an image with what is a board's own beside it; as tars, or unpacked. */
record KitRoots(Workbench workbench, Path folder, KitSeal seal) {

    void put(
            Path half,
            NetworkPlan.Client client,
            ClientFiles files,
            KitImage image,
            BoardProfile profile,
            NetworkKit.Roots roots,
            TransferWatch watch)
            throws IOException {
        ByteSize used = image.rootUsed(profile);
        boolean state = client.rootKind() == NetworkPlan.Root.STATE;
        String name = ClientFiles.rootName(client);
        boolean shared = client.rootKind().shared();
        Path tells = folder.resolve("roots/" + name + ".image");
        String mark = new NetworkFacts(workbench).mark(client);
        // Made once for all boards of an image, and anew when the image is another.
        boolean there =
                shared && Files.isRegularFile(tells) && Files.readString(tells).equals(mark);
        if (!there) {
            if (shared && Files.isDirectory(folder.resolve("roots/" + name))) {
                Folders.delete(folder.resolve("roots/" + name));
            }
            RootTar.Part part = state ? new RootTar.Part("var", false) : RootTar.Part.ALL;
            // A root that is shared is no board's own: it stands in place at once.
            Path place = shared ? folder.resolve("roots") : half.resolve("roots");
            pack(place, name, image.root(profile), part, files.root(), used, roots, watch);
            if (shared && roots == NetworkKit.Roots.TAR) {
                seal.seal(
                        folder.resolve("roots/" + name + ".sha256"), List.of(folder.resolve("roots/" + name + ".tar")));
            }
            if (shared) {
                NetworkKit.write(tells, mark.getBytes(StandardCharsets.UTF_8));
            }
        }
        if (state) {
            pack(
                    half.resolve("state"),
                    client.host(),
                    image.root(profile),
                    new RootTar.Part("var", true),
                    files.root(),
                    used,
                    roots,
                    watch);
        }
    }

    private static void pack(
            Path place,
            String name,
            FileSystemReader root,
            RootTar.Part part,
            Map<String, Optional<FileBody>> changes,
            ByteSize used,
            NetworkKit.Roots roots,
            TransferWatch watch)
            throws IOException {
        Files.createDirectories(place);
        if (roots == NetworkKit.Roots.TAR) {
            Path working = place.resolve(name + ".tar.new");
            Files.deleteIfExists(working);
            // Whoever may read it finds all password hashes and keys.
            Files.createFile(
                    working, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
            try (OutputStream out = new WatchedStream(
                    new BufferedOutputStream(Files.newOutputStream(working), 1 << 16), used.bytes(), watch)) {
                RootTar.write(root, part, changes, out);
            } catch (IOException | RuntimeException e) {
                Files.deleteIfExists(working);
                throw e;
            }
            Files.move(working, place.resolve(name + ".tar"), StandardCopyOption.ATOMIC_MOVE);
            return;
        }
        // Programs that run as their owner, and devices, are in it: nobody else comes near them here.
        PrivateFiles.folder(place);
        Path to = Files.createDirectories(place.resolve(name));
        Process tar = new ProcessBuilder(
                        "tar", "-C", to.toString(), "--numeric-owner", "--xattrs", "--xattrs-include=*", "-xpf", "-")
                .redirectErrorStream(true)
                .start();
        // Read as it comes, so that tar never waits for whoever listens; the first line says it.
        CompletableFuture<String> said = CompletableFuture.supplyAsync(() -> firstLine(tar));
        IOException broken = null;
        try (OutputStream out =
                new WatchedStream(new BufferedOutputStream(tar.getOutputStream(), 1 << 16), used.bytes(), watch)) {
            RootTar.write(root, part, changes, out);
        } catch (IOException e) {
            // Where tar gave up, that it takes no more is not the reason.
            broken = e;
        } catch (RuntimeException e) {
            tar.destroy();
            throw e;
        }
        try {
            if (tar.waitFor() != 0) {
                throw new IOException(
                        "tar could not unpack the root of " + name + ": " + said.join() + ". Nothing of it was kept.",
                        broken);
            }
            if (broken != null) {
                throw broken;
            }
        } catch (InterruptedException e) {
            tar.destroy();
            Thread.currentThread().interrupt();
            throw new CancellationException();
        }
    }

    private static String firstLine(Process tar) {
        String first = "";
        try (BufferedReader lines = tar.inputReader()) {
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                first = first.isEmpty() ? line.replaceAll("\\p{Cntrl}", "?").replaceFirst("\\.\\z", "") : first;
            }
        } catch (IOException e) {
            return first;
        }
        return first.isEmpty() ? "it does not say why" : first;
    }
}
