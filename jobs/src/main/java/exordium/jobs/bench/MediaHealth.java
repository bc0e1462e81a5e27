// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.finding.UnreadableInput;
import exordium.core.health.MediumHealth;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.judgement.Role;
import exordium.core.storage.judgement.WriteHabit;
import exordium.core.storage.media.MediumKind;
import exordium.store.Boards;
import exordium.store.Media;
import exordium.store.Signs;
import java.util.Map;
import java.util.Optional;

/** How the media of the house are, by everything that is on record of them and of the boards they serve. */
public final class MediaHealth {
    private final Workbench workbench;
    private final Map<String, Signs.History> signs;
    private final Map<String, Role> roles;

    /** Where signs and roles: by medium, and by board, as the register has them. */
    public MediaHealth(Workbench workbench, Map<String, Signs.History> signs, Map<String, Role> roles) {
        this.workbench = workbench;
        this.signs = signs;
        this.roles = roles;
    }

    public static MediaHealth of(Workbench workbench) {
        return new MediaHealth(
                workbench,
                workbench.workspace().signs().all(),
                workbench.workspace().roles().all());
    }

    public static MediaHealth of(Workbench workbench, RegisterSnapshot record) {
        return new MediaHealth(workbench, record.signs(), record.roles());
    }

    /** Where board: the one it serves; empty where it serves none. */
    public MediumHealth of(Media.Listed listed, Optional<Boards.Board> board) throws UnreadableInput {
        return MediumHealth.of(
                new MediumHealth.Known(
                        asMedium(listed.medium()),
                        listed.details().since(),
                        board.map(this::dailyWrites).orElse(ByteSize.ZERO),
                        board.flatMap(each -> Optional.ofNullable(roles.get(each.id())))
                                .map(Role::habit)
                                .orElse(WriteHabit.LOGS)
                                .amplification(),
                        signs(listed.medium()).readings(),
                        signs(listed.medium()).paces(),
                        signs(listed.medium()).faults()),
                workbench.today(),
                workbench.zone());
    }

    /** What a board writes in a day: as its role says, else as it was told. */
    public ByteSize dailyWrites(Boards.Board board) {
        return Optional.ofNullable(roles.get(board.id()))
                .map(Role::writesThatArrive)
                .orElse(board.dailyWrites());
    }

    /** As it is up for choice, with the day by which it is to be replaced. */
    public MediumKind.Medium candidate(Media.Listed listed, Optional<Boards.Board> board) throws UnreadableInput {
        return asMedium(listed.medium()).replacedBy(of(listed, board).replacement());
    }

    public Signs.History signs(Media.Medium medium) {
        return signs.getOrDefault(medium.id(), Signs.History.NONE);
    }

    private MediumKind.Medium asMedium(Media.Medium medium) throws UnreadableInput {
        return workbench.asCandidate(medium, signs(medium).paces());
    }
}
