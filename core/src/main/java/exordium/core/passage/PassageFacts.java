// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import exordium.core.copies.care.WayBack;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.core.storage.media.Enclosure;
import exordium.core.storage.media.MediumKind;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * All that a plan is worked out from: the board, what is at hand, what shops have, and what the house counts how much.
 *
 * @param board its id, and name: as people call it
 * @param bench the board as it stands
 * @param overlay whether its read-only overlay is on, and roomForOverlay: whether it has the memory for one
 * @param silent whether its own carrier does not announce itself; pcie: house rule, the generation such ports run at
 * @param shut ports that can only be reached with the box opened
 * @param main what it starts from
 * @param stock media that may be used, and those in the board; otherThings: media of the register and kinds that are no choice for it
 * @param sources what can be written: images of the shelf, copies of this board, a recovery set
 * @param releases of its firmware, oldest first; those of the house's channel
 * @param parts that there are, and atHand: ids of those that need not be bought
 * @param contents by {@link Held#content}: what a rehearsal finds there
 * @param wayBack house rule: what a dead medium comes back from
 * @param kitThere whether a kit for its start over the network is made
 */
public record PassageFacts(
        String board,
        String name,
        Bench bench,
        boolean overlay,
        boolean roomForOverlay,
        boolean silent,
        int pcie,
        Set<String> shut,
        Optional<String> main,
        List<Stock> stock,
        Set<String> otherThings,
        List<Source> sources,
        List<LocalDate> releases,
        List<Part> parts,
        Set<String> atHand,
        List<Enclosure> enclosures,
        Map<String, MediumContents> contents,
        WayBack wayBack,
        boolean kitThere,
        Weights weights) {

    /** Behind a content: as it is with its first start prepared. */
    public static final String SET_UP = "#set-up";
    /** Behind a content: as it is with its root named by its identifier; there only where it is named by its place. */
    public static final String ROOT_NAMED = "#root";

    /**
     * A medium that may be used.
     *
     * @param owned false for what a shop has
     * @param port of the board it is in
     */
    public record Stock(MediumKind.Medium medium, boolean owned, Optional<String> port, Held held) {
        public String id() {
            return medium.id();
        }
    }

    /**
     * Something that can be written.
     *
     * @param id {@code image:FILE}, {@code copy:ID} or {@code recovery:DATE}
     * @param written what writing it comes to, and least: the smallest medium it goes onto
     * @param starts whether this board starts from it; installs: whether it writes the board's own storage and ends
     */
    public record Source(String id, String title, ByteSize written, ByteSize least, boolean starts, boolean installs) {
        public boolean isImage() {
            return id.startsWith("image:");
        }

        public boolean isCopy() {
            return id.startsWith("copy:");
        }

        public boolean isRecovery() {
            return id.startsWith("recovery:");
        }
    }

    public Optional<Stock> stock(String id) {
        for (Stock each : stock) {
            if (each.id().equals(id)) {
                return Optional.of(each);
            }
        }
        return Optional.empty();
    }

    public Optional<Stock> mainStock() {
        return main.flatMap(this::stock);
    }

    public Optional<Source> source(String id) {
        return sources.stream().filter(each -> each.id().equals(id)).findFirst();
    }

    /** The newest release of the channel. */
    public Optional<LocalDate> newestRelease() {
        return releases.isEmpty() ? Optional.empty() : Optional.of(releases.get(releases.size() - 1));
    }

    PassageFacts withStock(List<Stock> other, Set<String> hand, List<Part> offered) {
        return new PassageFacts(
                board,
                name,
                bench,
                overlay,
                roomForOverlay,
                silent,
                pcie,
                shut,
                main,
                other,
                otherThings,
                sources,
                releases,
                offered,
                hand,
                enclosures,
                contents,
                wayBack,
                kitThere,
                weights);
    }
}
