// SPDX-License-Identifier: Apache-2.0
package exordium.core.testing;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** Runs general system tools, so that results can be compared with something from outside. */
public final class GeneralTools {
    private GeneralTools() {}

    /** Standard output of a command; fails the test when the command does. */
    public static String run(String... command) {
        return run(Path.of("."), command);
    }

    public static String run(Path folder, String... command) {
        try {
            Path errors = Files.createTempFile("tool", ".err");
            Process process = new ProcessBuilder(withPath(command))
                    .directory(folder.toFile())
                    .redirectError(errors.toFile())
                    .start();
            process.getOutputStream().close();
            String output = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
            if (!process.waitFor(60, TimeUnit.SECONDS) || process.exitValue() != 0) {
                throw new AssertionError(String.join(" ", command) + " failed: " + Files.readString(errors) + output);
            }
            Files.delete(errors);
            return output;
        } catch (IOException e) {
            throw new AssertionError(String.join(" ", command), e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new AssertionError(e);
        }
    }

    /** Exit code of a command that may fail. */
    public static int exitOf(String... command) {
        try {
            Process process = new ProcessBuilder(withPath(command))
                    .redirectErrorStream(true)
                    .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                    .start();
            process.waitFor(60, TimeUnit.SECONDS);
            return process.exitValue();
        } catch (IOException e) {
            return 127;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new AssertionError(e);
        }
    }

    /** What a command says, whether or not it fails. */
    public static String said(String... command) {
        try {
            Process process = new ProcessBuilder(withPath(command))
                    .redirectErrorStream(true)
                    .start();
            process.getOutputStream().close();
            return new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            return e.getMessage();
        }
    }

    /** Writes text to a command's standard input. */
    public static void feed(String input, String... command) {
        try {
            Process process = new ProcessBuilder(withPath(command))
                    .redirectErrorStream(true)
                    .start();
            process.getOutputStream().write(input.getBytes(StandardCharsets.UTF_8));
            process.getOutputStream().close();
            String output = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
            if (process.waitFor() != 0) {
                throw new AssertionError(String.join(" ", command) + " failed: " + output);
            }
        } catch (IOException e) {
            throw new AssertionError(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new AssertionError(e);
        }
    }

    /** Tools of the superuser are not on everybody's path. */
    private static List<String> withPath(String... command) {
        List<String> words = new ArrayList<>(Arrays.asList(command));
        if (words.get(0).equals("sfdisk") && !words.get(words.size() - 1).startsWith("/dev/")) {
            // It waits a quarter of a second for a kernel that has nothing to do with a file.
            words.add(1, "--no-tell-kernel");
        }
        for (String folder : List.of("/usr/sbin/", "/sbin/")) {
            if (!words.get(0).contains("/") && Files.isExecutable(Path.of(folder + words.get(0)))) {
                words.set(0, folder + words.get(0));
            }
        }
        return words;
    }
}
