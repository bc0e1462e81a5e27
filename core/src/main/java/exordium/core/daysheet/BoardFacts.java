// SPDX-License-Identifier: Apache-2.0
package exordium.core.daysheet;

import exordium.core.access.BoardWay;
import exordium.core.access.Known;
import exordium.core.bootorder.DecodedOrder;
import exordium.core.copies.schedule.CopyRule;
import exordium.core.finding.Finding;
import exordium.core.firmware.FirmwareStatus;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Trace;
import exordium.core.storage.media.Replacement;
import exordium.core.writing.Ending;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;

/** Everything on record about one board that its line of the day sheet rests on. */
public record BoardFacts(
        String id,
        String name,
        String place,
        String profile,
        String memory,
        Optional<MediumFacts> medium,
        Optional<Away> away,
        Optional<LastWrite> lastWrite,
        FirstStartFacts firstStart,
        FirmwareStatus firmware,
        boolean firmwareUpdatable,
        OrderFacts order,
        Trace trace,
        CopyFacts copies,
        CopyRule.Due due,
        Reached reached) {

    /**
     * A board's copies.
     *
     * @param last the newest that can be got at; of a vault that is away, the newest there is on record
     * @param gone one after it whose file is not in the vault any more
     * @param away why nothing of the vault can be got at
     */
    public record CopyFacts(Optional<LocalDate> last, Optional<LocalDate> gone, Optional<String> away) {}

    /** The day of its newest copy that can be got at. */
    public Optional<LocalDate> lastCopy() {
        return copies.last();
    }

    /**
     * How one gets at the board, and how its facts are known where they are not read.
     *
     * @param firmware empty where it is read; so is order
     * @param zone in which days are told
     */
    public record Reached(BoardWay way, Optional<Known> firmware, Optional<Known> order, ZoneId zone) {}

    /**
     * The medium the board starts from.
     *
     * @param worn share of its rated writes, from 0
     * @param system title of the system found on it
     * @param replacement by when it is to be replaced
     */
    public record MediumFacts(
            String name,
            ByteSize size,
            ByteSize used,
            double worn,
            Optional<String> system,
            Optional<String> version,
            Optional<Replacement> replacement) {}

    /**
     * That the medium is not here, so that what is said of it is as it was last read.
     *
     * @param read the day it was read; empty where it never was, and then nothing of it is known
     */
    public record Away(String medium, Optional<LocalDate> read) {}

    /**
     * How the last write to that medium ended, or that it runs.
     *
     * @param since what was done to the medium after it, whereupon the write proves nothing of what it holds now
     */
    public record LastWrite(String image, Ending ending, LocalDate date, Optional<Touch> since) {
        public LastWrite(String image, Ending ending, LocalDate date) {
            this(image, ending, date, Optional.empty());
        }
    }

    /** A deed that changed what is on a medium, in the words of the logbook such as "cleared". */
    public record Touch(String deed, LocalDate date) {}

    /** What the start partition sets up; seen tells whether a start with it was seen to work. */
    public record FirstStartFacts(
            boolean present, boolean remoteLogin, boolean fixedAddress, boolean seen, List<Finding> findings) {}

    /** The order the board holds now and what waits for a restart. */
    public record OrderFacts(DecodedOrder decoded, String figure, Optional<String> staged) {}
}
