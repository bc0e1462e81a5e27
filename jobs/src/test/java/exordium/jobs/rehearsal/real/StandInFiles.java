// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** What stands in for the kernels, start programs and device trees of a drive: they say who they are, and switch off. */
final class StandInFiles {
    private static final int MOST_NAME = 50;
    /** Devicetree specification 0.4, chapter 5: version 17, compatible down to 16. */
    private static final int MAGIC = 0xd00dfeed;

    private StandInFiles() {}

    /** A kernel for U-Boot: says its name and the line it was given. */
    static byte[] kernel(String name) throws IOException {
        return named("kernel.img", "PAYLOAD-ID:default", 11, 52, (byte) 0, name);
    }

    /** A program for UEFI: says its name and switches off. */
    static byte[] program(String name) throws IOException {
        byte[] bytes = named("program.efi", "ID:default", 0, 64, (byte) ' ', name);
        bytes[find(bytes, "r\r\nEFIPAYLOAD")] = 'o';
        return bytes;
    }

    /** A device tree with nothing in it. */
    static byte[] tree() {
        int head = 40;
        int rest = 16;
        byte[] body =
                ByteBuffer.allocate(16).putInt(1).putInt(0).putInt(2).putInt(9).array();
        ByteBuffer out = ByteBuffer.allocate(head + rest + body.length);
        out.putInt(MAGIC).putInt(out.capacity());
        out.putInt(head + rest).putInt(out.capacity()).putInt(head);
        out.putInt(17).putInt(16).putInt(0).putInt(0).putInt(body.length);
        out.position(head + rest);
        out.put(body);
        return out.array();
    }

    private static byte[] named(String resource, String mark, int skip, int room, byte fill, String name)
            throws IOException {
        try (InputStream in = StandInFiles.class.getResourceAsStream("/exordium/real/" + resource)) {
            byte[] bytes = in.readAllBytes();
            byte[] words = name.getBytes(StandardCharsets.US_ASCII);
            int at = find(bytes, mark) + skip;
            Arrays.fill(bytes, at, at + room, fill);
            System.arraycopy(words, 0, bytes, at, Math.min(MOST_NAME, words.length));
            return bytes;
        }
    }

    private static int find(byte[] bytes, String mark) {
        int at = new String(bytes, StandardCharsets.ISO_8859_1).indexOf(mark);
        if (at < 0) {
            throw new IllegalStateException("no " + mark);
        }
        return at;
    }
}
