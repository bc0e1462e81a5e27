// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Changes that are worked out first and carried out by a journal: whole, in part, torn, or on the wrong medium. */
class PageJournalTest {
    private static final int BYTES = 100_000;

    @TempDir
    Path folder;

    private final Random random = new Random(20261125);
    private Path file;
    private byte[] before;

    @BeforeEach
    void medium() throws IOException {
        before = new byte[BYTES];
        random.nextBytes(before);
        file = Files.write(folder.resolve("medium"), before);
    }

    private FileDevice open() throws IOException {
        return FileDevice.forWriting(file, ByteSize.of(BYTES));
    }

    private static PageJournal journal(PageJournal.Direction direction, StagedDevice staged) {
        return new PageJournal(new PageJournal.Head(direction, "/drives/medium", "medium", BYTES, 7), staged.changes());
    }

    /** Random writes of any length at any place give what they give on an array. */
    @Test
    void aStagedDeviceReadsAsIfItHadBeenWrittenAndTouchesNothing() throws IOException {
        try (FileDevice device = open()) {
            StagedDevice staged = new StagedDevice(device);
            byte[] model = before.clone();
            for (int i = 0; i < 300; i++) {
                int at = random.nextInt(BYTES);
                int length = 1 + random.nextInt(Math.min(9000, BYTES - at));
                byte[] bytes = new byte[length];
                random.nextBytes(bytes);
                staged.write(at, ByteBuffer.wrap(bytes));
                System.arraycopy(bytes, 0, model, at, length);
                int from = random.nextInt(BYTES);
                int many = 1 + random.nextInt(BYTES - from);
                assertThat(staged.bytes(from, many)).isEqualTo(Arrays.copyOfRange(model, from, from + many));
            }
            assertThat(device.bytes(0, BYTES)).isEqualTo(before);
            journal(PageJournal.Direction.FORWARD, staged).apply(device);
            assertThat(device.bytes(0, BYTES)).isEqualTo(model);
        }
    }

    private StagedDevice changed(BlockDevice device) throws IOException {
        StagedDevice staged = new StagedDevice(device);
        staged.write(100, ByteBuffer.wrap(new byte[] {1, 2, 3}));
        staged.write(50_000, ByteBuffer.wrap(new byte[10_000]));
        staged.write(BYTES - 2, ByteBuffer.wrap(new byte[] {9, 9}));
        return staged;
    }

    @Test
    void itIsReadBackAsItWasPutDownAndHalfOfOneIsNone() throws IOException {
        Path kept = folder.resolve("deeds/7.pages");
        try (FileDevice device = open()) {
            PageJournal journal = journal(PageJournal.Direction.BACK, changed(device));
            journal.save(kept);
            PageJournal again = PageJournal.load(kept);
            assertThat(again.head()).isEqualTo(journal.head());
            assertThat(again.pages()).hasSameSizeAs(journal.pages());
            assertThat(again.pages().get(1).after())
                    .isEqualTo(journal.pages().get(1).after());
        }
        byte[] all = Files.readAllBytes(kept);
        for (int length : List.of(0, 3, 40, all.length / 2, all.length - 1)) {
            Path half = Files.write(folder.resolve("half"), Arrays.copyOf(all, length));
            assertThatThrownBy(() -> PageJournal.load(half)).isInstanceOf(UnreadableInput.class);
        }
        for (int i = 0; i < 500; i++) {
            byte[] bad = all.clone();
            bad[random.nextInt(bad.length)] ^= (byte) (1 + random.nextInt(255));
            Path spoiled = Files.write(folder.resolve("bad"), bad);
            assertThatThrownBy(() -> PageJournal.load(spoiled)).isInstanceOf(UnreadableInput.class);
        }
    }

    /** Any mixture of old, new and torn pages is brought to one end. */
    @Test
    void whatWasCutOffIsBroughtToItsEnd() throws IOException {
        for (PageJournal.Direction direction : PageJournal.Direction.values()) {
            for (int run = 0; run < 50; run++) {
                Files.write(file, before);
                try (FileDevice device = open()) {
                    PageJournal journal = journal(direction, changed(device));
                    byte[] wanted = before.clone();
                    for (StagedDevice.Page page : journal.pages()) {
                        if (direction == PageJournal.Direction.FORWARD) {
                            System.arraycopy(page.after(), 0, wanted, (int) page.position(), page.after().length);
                        }
                        int torn = random.nextInt(page.after().length / 512 + 1) * 512;
                        device.write(
                                page.position(), ByteBuffer.wrap(page.after(), 0, Math.min(torn, page.after().length)));
                    }
                    assertThat(journal.settle(device)).isEqualTo(PageJournal.Settled.DONE);
                    assertThat(device.bytes(0, BYTES)).isEqualTo(wanted);
                }
            }
        }
    }

    @Test
    void aMediumThatHoldsSomethingElseByNowIsLeftAlone() throws IOException {
        byte[] other = new byte[BYTES];
        random.nextBytes(other);
        try (FileDevice device = open()) {
            PageJournal journal = journal(PageJournal.Direction.FORWARD, changed(device));
            device.write(0, ByteBuffer.wrap(other));
            assertThat(journal.settle(device)).isEqualTo(PageJournal.Settled.NOT_THAT_MEDIUM);
            assertThat(device.bytes(0, BYTES)).isEqualTo(other);
        }
    }

    @Test
    void onePlaceThatRefusesDoesNotKeepTheOthersFromBeingPutBack() throws IOException {
        try (FileDevice device = open()) {
            PageJournal journal = journal(PageJournal.Direction.BACK, changed(device));
            journal.apply(device);
            BlockDevice worn = new DelegatingDevice(device) {
                @Override
                public void write(long position, ByteBuffer source) throws IOException {
                    if (position == 49_152) {
                        throw new MediumException(name(), position, "worn");
                    }
                    super.write(position, source);
                }
            };
            assertThatThrownBy(() -> journal.takeBack(worn)).isInstanceOf(MediumException.class);
            assertThat(device.bytes(100, 3)).isEqualTo(Arrays.copyOfRange(before, 100, 103));
            assertThat(device.bytes(BYTES - 2, 2)).isEqualTo(Arrays.copyOfRange(before, BYTES - 2, BYTES));
        }
    }
}
