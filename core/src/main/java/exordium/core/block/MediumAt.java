// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;

/** Reading what stands at a path, a file or a drive; where this user may not read a drive, whoever may allow it is asked. */
public final class MediumAt {
    private MediumAt() {}

    /** Whether it is a drive this user may not read without asking. */
    public static boolean asks(Path path) throws IOException {
        return Files.exists(path)
                && !Files.isReadable(path)
                && FileIdentity.of(path).device();
    }

    /** Its bytes; those of a drive that may not be read are known without opening it. */
    public static ByteSize size(Path path) throws IOException {
        return asks(path) ? drive(path).size() : FileDevice.sizeOf(path);
    }

    public static BlockDevice device(Path path) throws IOException {
        return asks(path) ? drive(path).openAsking(false) : FileDevice.forReading(path);
    }

    /** All of it from the first byte on. */
    public static InputStream stream(Path path) throws IOException {
        if (!asks(path)) {
            return Files.newInputStream(path);
        }
        BlockDevice device = device(path);
        return new FilterInputStream(new MediumStream(device)) {
            @Override
            public void close() throws IOException {
                device.close();
            }
        };
    }

    private static MachineDrive drive(Path path) throws IOException {
        return Machine.here()
                .drives()
                .untouched()
                .find(path, Path.of("/"))
                .orElseThrow(() -> new UnreadableInput(path + " may not be read by this user, and is no whole drive."));
    }
}
