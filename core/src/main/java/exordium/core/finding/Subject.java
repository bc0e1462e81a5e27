// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

/** What a finding is about, where somebody goes by that. Codes are for those who read them, and steer nothing. */
public enum Subject {
    /** Bytes that are no text. */
    NOT_TEXT,
    /** Lines that end as on another system. */
    LINE_ENDS,
    /** A line that an editor or a typing hand spoiled, so that it sets nothing. */
    SPOILED_LINE,
    /** The kernel line as a whole, which other edits do not depend on. */
    KERNEL_LINE,
    /** The radio network. */
    RADIO,
    /** Identifiers of a medium's table. */
    IDENTIFIERS,
    /** The value of a start order. */
    ORDER_VALUE,
    /** A start order of which a board makes nothing. */
    UNREADABLE_ORDER,
    /** What comes after the last place of an order. */
    ORDER_END,
    /** That a medium will not do for as long as is wanted. */
    LASTING,
    /** The day by which a medium is to be replaced. */
    REPLACEMENT,
    /** That a target's own name was not typed. */
    TARGET_NAME,
    /** Memory that a firmware keeps from the system. */
    MEMORY_CAP,
    /** That somebody has a drive open at this moment, whom the system's tables do not name. */
    OPEN_NOW,
    /** What a drive belongs to: the machine, not the drawer; no unmounting lifts it. */
    BELONGS_ELSEWHERE
}
