// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage;

import exordium.core.quantity.ByteSize;

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
        boolean server) {
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
            false);

    public Role {
        if (years < 1 || years > 30 || lostDays < 0 || portsNeeded < 0 || !(budget >= 0)) {
            throw new IllegalArgumentException("not a role: " + years + " years, " + lostDays + " days, " + portsNeeded
                    + " ports, " + budget + " euros");
        }
    }

    /** What really reaches the medium in a day. */
    public ByteSize writesThatArrive() {
        if (overlay) {
            return ByteSize.ZERO;
        }
        return logsInMemory ? ByteSize.of(Math.round(dailyWrites.bytes() * (1 - habit.logShare()))) : dailyWrites;
    }

    /** Room wanted at the end of its years, beside the system. */
    public ByteSize dataAtTheEnd() {
        return data.plus(ByteSize.of(growth.bytes() * years));
    }

    public Role withData(ByteSize now) {
        return new Role(
                system,
                now,
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
                server);
    }

    public Role withGrowth(ByteSize aYear) {
        return new Role(
                system,
                data,
                aYear,
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
                server);
    }

    public Role withSystem(SystemKind kind) {
        return new Role(
                kind,
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
                server);
    }

    /** Another habit comes with its usual day. */
    public Role withHabit(WriteHabit other) {
        return new Role(
                system,
                data,
                growth,
                other,
                other.usual(),
                years,
                lostDays,
                quickStart,
                budget,
                portsNeeded,
                slotReachable,
                overlay,
                logsInMemory,
                server);
    }

    public Role withDailyWrites(ByteSize aDay) {
        return new Role(
                system,
                data,
                growth,
                habit,
                aDay,
                years,
                lostDays,
                quickStart,
                budget,
                portsNeeded,
                slotReachable,
                overlay,
                logsInMemory,
                server);
    }

    public Role withYears(int wanted) {
        return new Role(
                system,
                data,
                growth,
                habit,
                dailyWrites,
                wanted,
                lostDays,
                quickStart,
                budget,
                portsNeeded,
                slotReachable,
                overlay,
                logsInMemory,
                server);
    }

    public Role withQuickStart(boolean matters) {
        return new Role(
                system,
                data,
                growth,
                habit,
                dailyWrites,
                years,
                lostDays,
                matters,
                budget,
                portsNeeded,
                slotReachable,
                overlay,
                logsInMemory,
                server);
    }

    public Role withBudget(double euros) {
        return new Role(
                system,
                data,
                growth,
                habit,
                dailyWrites,
                years,
                lostDays,
                quickStart,
                euros,
                portsNeeded,
                slotReachable,
                overlay,
                logsInMemory,
                server);
    }

    public Role withPortsNeeded(int ports) {
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
                ports,
                slotReachable,
                overlay,
                logsInMemory,
                server);
    }

    public Role withSlotReachable(boolean reachable) {
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
                reachable,
                overlay,
                logsInMemory,
                server);
    }

    public Role withOverlay(boolean on) {
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
                on,
                logsInMemory,
                server);
    }

    public Role withLogsInMemory(boolean on) {
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
                on,
                server);
    }

    public Role withServer(boolean there) {
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
                there);
    }

    public Role withLostDays(int days) {
        return new Role(
                system,
                data,
                growth,
                habit,
                dailyWrites,
                years,
                days,
                quickStart,
                budget,
                portsNeeded,
                slotReachable,
                overlay,
                logsInMemory,
                server);
    }
}
