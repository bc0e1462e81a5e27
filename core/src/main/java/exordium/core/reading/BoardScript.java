// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import java.util.List;
import java.util.stream.Collectors;

/**
 * One portable script of shell that asks a board for all that is read here, each answer under the command it is from, between two marks.
 * It changes nothing, needs no rights of its own, and asks only for what is there (POSIX, sh; command -v). The same text is pasted, laid on
 * the start partition, and sent over a login.
 */
public final class BoardScript {
    public static final String BEGIN = "---- begin: what this board says ----";
    public static final String END = "---- end: what this board says ----";

    /**
     * A question.
     *
     * @param needs a program or a file that must be there
     * @param asks the command, as it stands above the answer
     */
    private record Question(String needs, String asks) {
        String shell() {
            String test = needs.startsWith("/") ? "[ -r " + needs + " ]" : "command -v " + needs + " > /dev/null 2>&1";
            return test + " && ask '" + asks + "'\n";
        }
    }

    private static final List<Question> QUESTIONS = List.of(
            new Question("hostname", "hostname"),
            new Question("/proc/device-tree/model", "cat /proc/device-tree/model"),
            new Question("/proc/device-tree/serial-number", "cat /proc/device-tree/serial-number"),
            new Question("/proc/cmdline", "cat /proc/cmdline"),
            new Question("/etc/os-release", "cat /etc/os-release"),
            new Question("/proc/meminfo", "grep MemTotal /proc/meminfo"),
            new Question("lsblk", "lsblk -b -P -o NAME,SIZE,TYPE,MODEL,TRAN,MOUNTPOINT"),
            new Question("/proc/partitions", "cat /proc/partitions"),
            new Question("/proc/mounts", "cat /proc/mounts"),
            new Question("df", "df -P -k"),
            new Question("ip", "ip addr"),
            new Question("systemd-analyze", "systemd-analyze"),
            new Question("journalctl", "journalctl --list-boots"),
            new Question("efibootmgr", "efibootmgr"),
            new Question("fw_printenv", "fw_printenv boot_targets"),
            new Question("lsusb", "lsusb"),
            new Question("lsusb", "lsusb -t"),
            new Question("lspci", "lspci"),
            new Question("/sys/block/mmcblk0/device/life_time", "cat /sys/block/mmcblk0/device/life_time"),
            new Question("/sys/block/mmcblk1/device/life_time", "cat /sys/block/mmcblk1/device/life_time"),
            new Question("dmesg", "dmesg"));

    private BoardScript() {}

    /** The whole of it, as a file. */
    public static String text() {
        return "#!/bin/sh\n"
                + "# Asks this board what it is and how it started. It reads, and changes nothing.\n"
                + "# Paste all it prints into the program, or lay it on the start partition as a file.\n"
                + "LC_ALL=C\nexport LC_ALL\n"
                + "ask() {\n  echo \"== $1 ==\"\n  sh -c \"$1\" 2> /dev/null | tr -d '\\000' | tail -n 400\n  echo\n}\n"
                + "echo '" + BEGIN + "'\n"
                + QUESTIONS.stream().map(Question::shell).collect(Collectors.joining())
                + "echo '" + END + "'\n";
    }

    /** What it runs, for whoever wants to see that first. */
    public static List<String> commands() {
        return QUESTIONS.stream().map(Question::asks).toList();
    }
}
