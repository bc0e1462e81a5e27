// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

/**
 * What a medium holds.
 *
 * @param content whose: {@code medium:ID} for what stood on that medium, {@code image:FILE}, {@code copy:ID}, {@code recovery:DATE},
 *     or empty for nothing
 * @param onlyHere whether some of it is nowhere else: a running system writes, and what it wrote since its last copy is only there
 * @param setUp whether its first start was prepared
 * @param ownIdentity whether it has identifiers of its own
 * @param grown whether its last partition takes all there is
 * @param rootNamed whether its kernel line was made to name its root by its identifier, wherever it is plugged in
 * @param proven whether its capacity was proven
 */
public record Held(
        String content,
        boolean onlyHere,
        boolean setUp,
        boolean ownIdentity,
        boolean grown,
        boolean rootNamed,
        boolean proven) {
    public static final Held NOTHING = new Held("", false, false, false, false, false, true);

    /** Bought just now: what it promises nobody has looked at. */
    public static final Held UNPROVEN = new Held("", false, false, false, false, false, false);

    /** Written to this, all of it somewhere else as well. */
    public Held writtenWith(String other) {
        return new Held(other, false, false, false, false, false, proven);
    }

    /** Something was written that is nowhere else. */
    public Held changed() {
        return new Held(content, !content.isEmpty(), setUp, ownIdentity, grown, rootNamed, proven);
    }

    public Held copied() {
        return new Held(content, false, setUp, ownIdentity, grown, rootNamed, proven);
    }

    public Held prepared() {
        return new Held(content, onlyHere, true, ownIdentity, grown, rootNamed, proven);
    }

    public Held renamed() {
        return new Held(content, onlyHere, setUp, true, grown, rootNamed, proven);
    }

    public Held filling() {
        return new Held(content, onlyHere, setUp, ownIdentity, true, rootNamed, proven);
    }

    public Held named() {
        return new Held(content, onlyHere, setUp, ownIdentity, grown, true, proven);
    }

    public Held looked() {
        return new Held(content, onlyHere, setUp, ownIdentity, grown, rootNamed, true);
    }

    public boolean empty() {
        return content.isEmpty();
    }
}
