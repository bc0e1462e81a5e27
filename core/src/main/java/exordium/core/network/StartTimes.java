// SPDX-License-Identifier: Apache-2.0
package exordium.core.network;

import exordium.core.board.BoardProfile;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;

/**
 * How long boards take to start from one server, alone and all at once. Each request is answered before the next is made, so its round
 * is the board's own time with the way there and back; with many boards the server's narrowest place serves one after the other, and a
 * round cannot be shorter than all of them take there (the two bounds of a closed queue, Denning and Buzen, The operational analysis of
 * queueing network models, 1978; from memory).
 *
 * @param small bytes of start files, fetched by TFTP in blocks
 * @param root bytes read of the root until the system is up
 * @param client rate of the board's own link; server: of the narrower of the server's link and its storage
 * @param fixed seconds of power on, firmware and kernel, in which nothing is fetched
 * @param thinking seconds the system works for itself while its root is read
 */
public record StartTimes(
        ByteSize small, ByteSize root, ByteRate client, ByteRate server, double fixed, double thinking) {
    /** What fits in a frame (RFC 2348, block size option: 1468 bytes on Ethernet). */
    public static final int BLOCK = 1468;
    /** Common practice, no source: what NFS clients ask for at once. */
    public static final int READ = 131_072;
    /** There and back through one switch, with what the server needs to answer. Common practice, no source. */
    public static final double ROUND_TRIP = 0.000_4;

    /** Where times are a family's, its links and those of the server. */
    public static StartTimes of(
            BoardProfile profile, ByteSize small, ByteSize root, ByteRate client, NetworkPlan.Server server) {
        ByteRate link = server.usualLink().ceiling();
        ByteRate disk = server.diskRate().orElse(link);
        BoardProfile.Timing timing = profile.timing();
        return new StartTimes(
                small,
                root,
                client,
                disk.compareTo(link) < 0 ? disk : link,
                timing.powerOn() + timing.kernel(),
                timing.userSpace());
    }

    public int blocks() {
        return (int) (small.bytes() / BLOCK) + 1;
    }

    public int reads() {
        return (int) ((root.bytes() + READ - 1) / READ);
    }

    /** Seconds until it is up, with so many that start at the same moment. */
    public double together(int boards) {
        double files = round(BLOCK, 0, boards) * blocks();
        double reading = reads() == 0 ? thinking : round(READ, thinking / reads(), boards) * reads();
        return fixed + files + reading;
    }

    public double alone() {
        return together(1);
    }

    /** Seconds the server is busy with one of them. */
    public double busy() {
        return ((double) blocks() * BLOCK + (double) reads() * READ) / server.bytesPerSecond();
    }

    /** Seconds from the first to the last that is up, where each begins when the server is done with the one before. */
    public double staggered(int boards) {
        return (boards - 1) * busy() + alone();
    }

    private double round(int bytes, double think, int boards) {
        double own = think + ROUND_TRIP + bytes / client.bytesPerSecond() + bytes / server.bytesPerSecond();
        return Math.max(own, boards * bytes / server.bytesPerSecond());
    }
}
