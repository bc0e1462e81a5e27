// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.ByteBuffer;

/** A part of another device, such as one partition. */
final class SliceDevice implements BlockDevice {
    private final BlockDevice whole;
    private final String name;
    private final long start;
    private final ByteSize length;

    SliceDevice(BlockDevice whole, String name, long start, ByteSize length) {
        if (start < 0 || length.bytes() > whole.size().bytes() - start) {
            throw new IllegalArgumentException("slice " + start + "+" + length.bytes() + " is not inside "
                    + whole.name() + " of " + whole.size().bytes());
        }
        this.whole = whole;
        this.name = name;
        this.start = start;
        this.length = length;
    }

    @Override
    public String name() {
        return name;
    }

    @Override
    public ByteSize size() {
        return length;
    }

    @Override
    public int sectorSize() {
        return whole.sectorSize();
    }

    @Override
    public boolean readOnly() {
        return whole.readOnly();
    }

    @Override
    public void read(long position, ByteBuffer target) throws IOException {
        requireInside(position, target.remaining());
        whole.read(start + position, target);
    }

    @Override
    public void write(long position, ByteBuffer source) throws IOException {
        requireInside(position, source.remaining());
        whole.write(start + position, source);
    }

    @Override
    public void flush() throws IOException {
        whole.flush();
    }

    @Override
    public void readBack(long position, ByteBuffer target) throws IOException {
        requireInside(position, target.remaining());
        whole.readBack(start + position, target);
    }

    @Override
    public boolean readsPastCache() {
        return whole.readsPastCache();
    }

    @Override
    public void close() {}
}
