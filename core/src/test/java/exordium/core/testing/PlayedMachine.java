// SPDX-License-Identifier: Apache-2.0
package exordium.core.testing;

import exordium.core.block.Machine;
import exordium.core.block.MachineDrives;
import exordium.core.block.linux.LinuxMachine;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;

/** A machine played by a tree of files in the form sysfs and procfs have; its device nodes are files of the test's. */
public final class PlayedMachine {
    private final Path root;

    public PlayedMachine(Path root) throws IOException {
        this.root = root;
        Files.createDirectories(root.resolve("sys/block"));
        Files.createDirectories(root.resolve("dev"));
        put("proc/self/mountinfo", "22 28 0:20 / /proc rw shared:5 - proc proc rw\n");
        put("proc/swaps", "Filename Type Size Used Priority\n");
    }

    public void put(String path, String content) throws IOException {
        Path file = root.resolve(path);
        Files.createDirectories(file.getParent());
        Files.writeString(file, content);
    }

    public Machine machine() {
        return new LinuxMachine(root);
    }

    public MachineDrives drives() {
        return machine().drives();
    }

    /** Plugs a drive in; without a serial where that is empty. */
    public Path plug(String id, long bytes, String serial) throws IOException {
        put("sys/block/" + id + "/size", bytes / 512 + "\n");
        put("sys/block/" + id + "/ro", "0\n");
        put("sys/block/" + id + "/removable", "1\n");
        put("sys/block/" + id + "/queue/logical_block_size", "512\n");
        put("sys/block/" + id + "/device/model", "BRACK STICK \n");
        if (!serial.isEmpty()) {
            put("sys/block/" + id + "/device/serial", serial + "\n");
        }
        Files.createDirectories(root.resolve("sys/block/" + id + "/holders"));
        Path node = root.resolve("dev").resolve(id);
        try (RandomAccessFile file = new RandomAccessFile(node.toFile(), "rw")) {
            file.setLength(bytes);
        }
        return node;
    }

    public void unplug(String id) throws IOException {
        GeneralTools.run("rm", "-r", root.resolve("sys/block/" + id).toString());
    }
}
