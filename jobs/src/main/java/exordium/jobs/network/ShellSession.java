// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.network;

import exordium.core.finding.NotPossible;
import java.io.BufferedReader;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.concurrent.TimeUnit;

/** A shell that is told one thing after the other. What it started ends with it. */
final class ShellSession implements Closeable {
    private static final String OVER = "--- over ";
    private static final int MOST = 1 << 20;

    private final Process process;
    private final Writer in;
    private final BufferedReader out;

    private ShellSession(Process process) {
        this.process = process;
        this.in = new OutputStreamWriter(process.getOutputStream(), StandardCharsets.UTF_8);
        this.out = new BufferedReader(new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8));
    }

    static ShellSession of(String... command) throws IOException {
        ProcessBuilder builder = new ProcessBuilder(command).redirectErrorStream(true);
        builder.environment().put("LC_ALL", "C");
        builder.environment().merge("PATH", "/usr/sbin:/sbin", (path, more) -> path + ":" + more);
        return new ShellSession(builder.start());
    }

    /** How a command ended. */
    record Ended(int exit, String output) {}

    Ended run(String command) throws IOException {
        in.write("{ " + command + "\n}\necho; echo \"" + OVER + "$?\"\n");
        in.flush();
        StringBuilder said = new StringBuilder();
        for (String line = out.readLine(); line != null; line = out.readLine()) {
            if (line.startsWith(OVER)) {
                return new Ended(Integer.parseInt(line.substring(OVER.length()).strip()), said.toString());
            }
            if (said.length() < MOST) {
                said.append(line).append('\n');
            }
        }
        throw new NotPossible(
                "The shell ended before it was done: " + said.toString().strip());
    }

    @Override
    public void close() throws IOException {
        process.descendants().forEach(ProcessHandle::destroyForcibly);
        process.destroyForcibly();
        try {
            process.waitFor(10, TimeUnit.SECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        out.close();
    }
}
