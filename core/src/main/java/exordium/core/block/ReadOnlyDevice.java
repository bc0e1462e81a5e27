// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.ByteBuffer;

/** The frame of a device that is only ever read, such as what an image holds; only the reading is left to be written. */
public abstract class ReadOnlyDevice implements BlockDevice {
    private final String name;
    private final ByteSize size;
    private final int sectorSize;

    protected ReadOnlyDevice(String name, ByteSize size, int sectorSize) {
        this.name = name;
        this.size = size;
        this.sectorSize = sectorSize;
    }

    @Override
    public final String name() {
        return name;
    }

    @Override
    public final ByteSize size() {
        return size;
    }

    @Override
    public final int sectorSize() {
        return sectorSize;
    }

    @Override
    public final boolean readOnly() {
        return true;
    }

    @Override
    public final void write(long position, ByteBuffer source) throws IOException {
        throw new MediumException(name, position, "it is only read");
    }

    @Override
    public final void flush() {}

    @Override
    public final boolean readsPastCache() {
        return false;
    }

    @Override
    public void close() throws IOException {}
}
