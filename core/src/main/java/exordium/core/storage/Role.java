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
 * @param hoursADay it runs; what it writes in a day is told for all 24
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
        double share = (logsInMemory ? 1 - habit.logShare() : 1) * hoursADay / 24;
        return ByteSize.of(Math.round(dailyWrites.bytes() * share));
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
                server,
                hoursADay,
                place);
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
                server,
                hoursADay,
                place);
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
                server,
                hoursADay,
                place);
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
                server,
                hoursADay,
                place);
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
                server,
                hoursADay,
                place);
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
                server,
                hoursADay,
                place);
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
                server,
                hoursADay,
                place);
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
                server,
                hoursADay,
                place);
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
                server,
                hoursADay,
                place);
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
                server,
                hoursADay,
                place);
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
                server,
                hoursADay,
                place);
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
                server,
                hoursADay,
                place);
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
                there,
                hoursADay,
                place);
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
                server,
                hoursADay,
                place);
    }

    public Role withHoursADay(double hours) {
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
                hours,
                place);
    }

    public Role withPlace(Setting where) {
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
                where);
    }
}
