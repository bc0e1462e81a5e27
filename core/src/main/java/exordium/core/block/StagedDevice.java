// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * A device as it would be: what is written stays in memory, page by page, and is read back from there; the device behind it is
 * not touched. So a deed of several writes is worked out whole before its first byte moves, and is then carried out by a
 * {@link PageJournal} that can be gone on with or taken back.
 *
 * <p>Memory: two pages of 4 KiB for each that is changed, at most {@link #MOST_PAGES} of them.
 */
public final class StagedDevice extends DelegatingDevice {
    static final int PAGE = AlignedBuffers.ALIGNMENT;
    static final int MOST_PAGES = 8192;

    private final BlockDevice behind;
    private final TreeMap<Long, Page> pages = new TreeMap<>();

    /** One page as it is and as it is to be; the last of a device may be shorter. */
    public record Page(long position, byte[] before, byte[] after) {}

    public StagedDevice(BlockDevice behind) {
        super(behind);
        this.behind = behind;
    }

    @Override
    public boolean readOnly() {
        return false;
    }

    @Override
    public void read(long position, ByteBuffer target) throws IOException {
        requireInside(position, target.remaining());
        int start = target.position();
        int length = target.remaining();
        behind.read(position, target);
        for (Map.Entry<Long, Page> each : pages.subMap(position / PAGE * PAGE, true, position + length, false)
                .entrySet()) {
            byte[] now = each.getValue().after();
            long from = Math.max(position, each.getKey());
            long to = Math.min(position + length, each.getKey() + now.length);
            if (from < to) {
                target.slice(start + (int) (from - position), (int) (to - from))
                        .put(now, (int) (from - each.getKey()), (int) (to - from));
            }
        }
    }

    /** What is behind, and the pages that were changed. */
    @Override
    public Optional<List<FileExtents.Extent>> stretches() throws IOException {
        return behind.stretches().map(all -> {
            List<FileExtents.Extent> with = new ArrayList<>(all);
            pages.forEach((at, page) -> with.add(new FileExtents.Extent(at, page.after().length)));
            with.sort(Comparator.comparingLong(FileExtents.Extent::at));
            return with;
        });
    }

    @Override
    public void readBack(long position, ByteBuffer target) throws IOException {
        read(position, target);
    }

    @Override
    public void write(long position, ByteBuffer source) throws IOException {
        requireInside(position, source.remaining());
        long at = position;
        while (source.hasRemaining()) {
            long begin = at / PAGE * PAGE;
            Page page = page(begin);
            int offset = (int) (at - begin);
            int length = Math.min(source.remaining(), page.after().length - offset);
            source.get(page.after(), offset, length);
            at += length;
        }
    }

    private Page page(long begin) throws IOException {
        Page page = pages.get(begin);
        if (page == null) {
            if (pages.size() >= MOST_PAGES) {
                throw new MediumException(name(), begin, "more of it would change at once than is done in one step");
            }
            byte[] now = behind.bytes(begin, (int) Math.min(PAGE, size().bytes() - begin));
            page = new Page(begin, now, now.clone());
            pages.put(begin, page);
        }
        return page;
    }

    /** Nothing is on its way to the medium yet. */
    @Override
    public void flush() {}

    /** What is to be changed, in rising order. */
    public List<Page> changes() {
        List<Page> changed = new ArrayList<>();
        for (Page page : pages.values()) {
            if (!Arrays.equals(page.before(), page.after())) {
                changed.add(page);
            }
        }
        return changed;
    }

    /** The device behind it stays open. */
    @Override
    public void close() {}
}
