// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.media;

import com.fasterxml.jackson.annotation.JsonIgnore;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Watts;
import java.util.List;
import java.util.Optional;

/**
 * A kind of medium, as the shipped catalogue describes it.
 *
 * @param also other names it is called by in scenarios
 * @param form card, stick, boxed, m2, emmc, network
 * @param bus what it speaks: sd, usb, sata, nvme, emmc, network
 * @param adapters the links it brings along, such as SATA inside a USB enclosure
 * @param marks of a card, such as C10, U3, V30, A2
 * @param readIops random reads of 4 KiB a second
 * @param cycles erase cycles of its flash, where no rating is known
 * @param watts the most it draws
 */
public record MediumKind(
        String id,
        List<String> also,
        String title,
        String form,
        Optional<M2> m2,
        String bus,
        List<Link> adapters,
        Optional<List<String>> marks,
        ByteRate readRate,
        ByteRate writeRate,
        double readIops,
        double writeIops,
        int cycles,
        Watts watts) {
    private static final int RANDOM_BLOCK = 4096;
    private static final double MOST_QUICKER = 4;

    /** Length as its code says it (2242 is 22 mm wide and 42 mm long), and the notches of its connector. */
    public record M2(int length, List<String> keys) {
        public int millimetres() {
            return length % 100;
        }
    }

    /** Made to be written for years, as cards and sticks are not. */
    @JsonIgnore
    public boolean lasting() {
        return !form.equals("card") && !form.equals("stick");
    }

    @JsonIgnore
    public ByteRate randomRead() {
        return new ByteRate(readIops * RANDOM_BLOCK);
    }

    /** All that its flash bears, by size and cycles. */
    public ByteSize flashWrites(ByteSize capacity) {
        return ByteSize.of(Math.round((double) capacity.bytes() * cycles));
    }

    /**
     * A medium in hand or on offer: its kind, its real bytes, and what is known of its wear.
     *
     * @param price in euros; 0 for what is owned already
     * @param replacement by when it is to be replaced, for all that is known of it
     */
    public record Medium(
            String id,
            String name,
            MediumKind kind,
            ByteSize size,
            Optional<ByteSize> ratedWrites,
            ByteSize written,
            double price,
            Optional<ByteRate> measuredRead,
            Optional<ByteRate> measuredWrite,
            Optional<Replacement> replacement) {
        /** One whose pace nobody has measured, and of which nothing is known that would end its service. */
        public Medium(
                String id,
                String name,
                MediumKind kind,
                ByteSize size,
                Optional<ByteSize> ratedWrites,
                ByteSize written,
                double price) {
            this(
                    id,
                    name,
                    kind,
                    size,
                    ratedWrites,
                    written,
                    price,
                    Optional.empty(),
                    Optional.empty(),
                    Optional.empty());
        }

        /** The same with the day by which it is to be replaced. */
        public Medium replacedBy(Optional<Replacement> day) {
            return new Medium(id, name, kind, size, ratedWrites, written, price, measuredRead, measuredWrite, day);
        }

        /**
         * How much quicker than its kind it was measured, which its small accesses are as well; one that was measured slower may have
         * been so by its port. Common practice, no source.
         */
        public double quicker() {
            double times = readRate().bytesPerSecond() / kind.readRate().bytesPerSecond();
            return Math.max(1, Math.min(MOST_QUICKER, times));
        }

        /** What it was measured at, else what is usual of its kind. */
        public ByteRate readRate() {
            return measuredRead.orElse(kind.readRate());
        }

        public ByteRate writeRate() {
            return measuredWrite.orElse(kind.writeRate());
        }

        /** What its flash bears in all: its rating where there is one, else size times cycles. */
        public ByteSize bears() {
            return ratedWrites.orElseGet(() -> kind.flashWrites(size));
        }
    }
}
