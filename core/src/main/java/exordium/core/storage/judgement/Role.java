// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.judgement;

import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import java.util.function.Consumer;

/**
 * What a board is for, in its user's words turned into numbers that can be edited.
 *
 * @param growth of the data in a year
 * @param dailyWrites what the host writes in a day, before anything is done about it
 * @param years how long it is to last
 * @param lostDays how many days of work may be lost without harm
 * @param quickStart whether seconds at the start matter
 * @param budget in euros; 0 for none
 * @param portsNeeded fast ports needed for other things
 * @param slotReachable whether the card can be taken out without taking the box apart
 * @param overlay whether the system is made read-only
 * @param logsInMemory whether logs are kept in memory
 * @param server whether a server for network roots is there
 * @param hoursADay it runs; what is written in a day is written in these
 * @param place where it stands
 */
public record Role(
        SystemKind system,
        ByteSize data,
        ByteSize growth,
        WriteHabit habit,
        ByteSize dailyWrites,
        int years,
        int lostDays,
        boolean quickStart,
        double budget,
        int portsNeeded,
        boolean slotReachable,
        boolean overlay,
        boolean logsInMemory,
        boolean server,
        double hoursADay,
        Setting place) {
    /** A lite system that keeps logs, for five years; a copy every 30 days: common practice, no source. */
    public static final Role USUAL = new Role(
            SystemKind.LITE,
            ByteSize.ZERO,
            ByteSize.ZERO,
            WriteHabit.LOGS,
            WriteHabit.LOGS.usual(),
            5,
            30,
            false,
            0,
            0,
            true,
            false,
            false,
            false,
            24,
            Setting.DESK);

    public Role {
        if (years < 1
                || years > 30
                || lostDays < 0
                || portsNeeded < 0
                || !(budget >= 0)
                || !(hoursADay >= 0)
                || hoursADay > 24) {
            throw new IllegalArgumentException("not a role: " + years + " years, " + lostDays + " days, " + portsNeeded
                    + " ports, " + budget + " euros");
        }
    }

    /** What really reaches the medium in a day. */
    public ByteSize writesThatArrive() {
        if (overlay) {
            return ByteSize.ZERO;
        }
        double share = logsInMemory ? 1 - habit.logShare() : 1;
        return ByteSize.of(Math.round(dailyWrites.bytes() * share));
    }

    /** At which it writes while it runs, if it writes all day long. */
    public ByteRate sustained() {
        double seconds = Math.max(1, hoursADay * 3600);
        return new ByteRate(writesThatArrive().bytes() / seconds);
    }

    /** Room wanted at the end of its years, beside the system. */
    public ByteSize dataAtTheEnd() {
        return data.plus(ByteSize.of(growth.bytes() * years));
    }

    public Role withSystem(SystemKind system) {
        return changed(draft -> draft.system = system);
    }

    public Role withData(ByteSize data) {
        return changed(draft -> draft.data = data);
    }

    public Role withGrowth(ByteSize growth) {
        return changed(draft -> draft.growth = growth);
    }

    /** Another habit comes with its usual day. */
    public Role withHabit(WriteHabit habit) {
        return changed(draft -> {
            draft.habit = habit;
            draft.dailyWrites = habit.usual();
        });
    }

    public Role withDailyWrites(ByteSize dailyWrites) {
        return changed(draft -> draft.dailyWrites = dailyWrites);
    }

    public Role withYears(int years) {
        return changed(draft -> draft.years = years);
    }

    public Role withLostDays(int lostDays) {
        return changed(draft -> draft.lostDays = lostDays);
    }

    public Role withQuickStart(boolean quickStart) {
        return changed(draft -> draft.quickStart = quickStart);
    }

    public Role withBudget(double budget) {
        return changed(draft -> draft.budget = budget);
    }

    public Role withPortsNeeded(int portsNeeded) {
        return changed(draft -> draft.portsNeeded = portsNeeded);
    }

    public Role withSlotReachable(boolean slotReachable) {
        return changed(draft -> draft.slotReachable = slotReachable);
    }

    public Role withOverlay(boolean overlay) {
        return changed(draft -> draft.overlay = overlay);
    }

    public Role withLogsInMemory(boolean logsInMemory) {
        return changed(draft -> draft.logsInMemory = logsInMemory);
    }

    public Role withServer(boolean server) {
        return changed(draft -> draft.server = server);
    }

    public Role withHoursADay(double hoursADay) {
        return changed(draft -> draft.hoursADay = hoursADay);
    }

    public Role withPlace(Setting place) {
        return changed(draft -> draft.place = place);
    }

    private Role changed(Consumer<Draft> change) {
        Draft draft = new Draft(this);
        change.accept(draft);
        return draft.role();
    }

    /** A role while one thing of it is changed. */
    private static final class Draft {
        private SystemKind system;
        private ByteSize data;
        private ByteSize growth;
        private WriteHabit habit;
        private ByteSize dailyWrites;
        private int years;
        private int lostDays;
        private boolean quickStart;
        private double budget;
        private int portsNeeded;
        private boolean slotReachable;
        private boolean overlay;
        private boolean logsInMemory;
        private boolean server;
        private double hoursADay;
        private Setting place;

        Draft(Role of) {
            system = of.system;
            data = of.data;
            growth = of.growth;
            habit = of.habit;
            dailyWrites = of.dailyWrites;
            years = of.years;
            lostDays = of.lostDays;
            quickStart = of.quickStart;
            budget = of.budget;
            portsNeeded = of.portsNeeded;
            slotReachable = of.slotReachable;
            overlay = of.overlay;
            logsInMemory = of.logsInMemory;
            server = of.server;
            hoursADay = of.hoursADay;
            place = of.place;
        }

        Role role() {
            return new Role(
                    system,
                    data,
                    growth,
                    habit,
                    dailyWrites,
                    years,
                    lostDays,
                    quickStart,
                    budget,
                    portsNeeded,
                    slotReachable,
                    overlay,
                    logsInMemory,
                    server,
                    hoursADay,
                    place);
        }
    }
}
