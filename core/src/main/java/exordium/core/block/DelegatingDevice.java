// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.ByteBuffer;

/** A device that passes everything on; for those that are different in one thing. */
public class DelegatingDevice implements BlockDevice {
    private final BlockDevice inner;

    public DelegatingDevice(BlockDevice inner) {
        this.inner = inner;
    }

    @Override
    public String name() {
        return inner.name();
    }

    @Override
    public ByteSize size() {
        return inner.size();
    }

    @Override
    public int sectorSize() {
        return inner.sectorSize();
    }

    @Override
    public boolean readOnly() {
        return inner.readOnly();
    }

    @Override
    public void read(long position, ByteBuffer target) throws IOException {
        inner.read(position, target);
    }

    @Override
    public void readBack(long position, ByteBuffer target) throws IOException {
        inner.readBack(position, target);
    }

    @Override
    public void write(long position, ByteBuffer source) throws IOException {
        inner.write(position, source);
    }

    @Override
    public void flush() throws IOException {
        inner.flush();
    }

    @Override
    public boolean readsPastCache() {
        return inner.readsPastCache();
    }

    @Override
    public String changeMark() throws IOException {
        return inner.changeMark();
    }

    @Override
    public void close() throws IOException {
        inner.close();
    }
}
