// SPDX-License-Identifier: Apache-2.0
package exordium.core.profile;

import exordium.core.finding.OverBound;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;

/** A small file that a person named: read whole, or said in one sentence why not, and never waited for. */
public final class InputFile {
    private static final String MARK = "\ufeff";

    private InputFile() {}

    /**
     * All of it.
     *
     * @param most bytes it may have
     * @throws UnreadableInput when there is none, or it is a folder, a pipe, a drive or something the kernel makes up
     * @throws OverBound when it has more
     */
    public static byte[] read(Path file, long most) throws IOException {
        if (!Files.isRegularFile(file)) {
            throw new UnreadableInput(
                    Files.exists(file)
                            ? file + " is not a file but a folder, a pipe or something else."
                            : "There is no file " + file + ".");
        }
        long size = Files.size(file);
        if (size > most) {
            throw new OverBound(
                    file.getFileName() + " has " + ByteSize.of(size).said() + "; such a file has at most "
                            + ByteSize.of(most).said() + ".",
                    most);
        }
        try (InputStream in = Files.newInputStream(file)) {
            byte[] bytes = in.readNBytes((int) most + 1);
            if (bytes.length > size) {
                throw new UnreadableInput(
                        file + " is made up by the system or being written at this moment, and is no file to go by.");
            }
            return bytes;
        }
    }

    /**
     * What was read as text in UTF-8, without the mark that some editors put before it.
     *
     * @param name what it is called in the sentence
     * @throws UnreadableInput when it is none
     */
    public static String text(String name, byte[] bytes) throws UnreadableInput {
        try {
            String text = StandardCharsets.UTF_8
                    .newDecoder()
                    .decode(ByteBuffer.wrap(bytes))
                    .toString();
            return text.startsWith(MARK) ? text.substring(MARK.length()) : text;
        } catch (CharacterCodingException e) {
            throw new UnreadableInput(name + " is not text in UTF-8.", e);
        }
    }
}
