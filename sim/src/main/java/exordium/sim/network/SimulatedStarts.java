// SPDX-License-Identifier: Apache-2.0
package exordium.sim.network;

import exordium.core.network.StartTimes;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.PriorityQueue;

/**
 * Boards that start from one server, request by request: each waits for its answer before it asks again, the server's link serves one
 * request after the other in the order they come, each board's own link takes its time after that.
 */
public final class SimulatedStarts {
    private final List<StartTimes> boards;
    private final double[] up;
    private final PriorityQueue<Request> requests =
            new PriorityQueue<>(Comparator.comparingDouble(Request::at).thenComparingInt(Request::board));
    private double serverFree;

    /** One that leaves a board at a moment; number: how many it has made before. */
    private record Request(double at, int board, int number) {}

    private SimulatedStarts(List<StartTimes> boards) {
        this.boards = List.copyOf(boards);
        this.up = new double[boards.size()];
    }

    /** Seconds from the first one's power until each is up; apart: seconds between the power of one and of the next. */
    public static List<Double> of(List<StartTimes> boards, double apart) {
        SimulatedStarts all = new SimulatedStarts(boards);
        for (int i = 0; i < boards.size(); i++) {
            all.asks(i * apart + boards.get(i).fixed() / 2, i, 0);
        }
        while (!all.requests.isEmpty()) {
            all.answer(all.requests.poll());
        }
        List<Double> seconds = new ArrayList<>();
        for (double each : all.up) {
            seconds.add(each);
        }
        return seconds;
    }

    /** Between start files and root the kernel starts; before each read of the root the system works for itself. */
    private void asks(double at, int board, int number) {
        StartTimes times = boards.get(board);
        int files = times.blocks();
        if (number == files + times.reads()) {
            up[board] = at + (times.reads() == 0 ? times.thinking() : 0);
            return;
        }
        double kernel = number == files ? times.fixed() / 2 : 0;
        double thinks = number < files ? 0 : times.thinking() / times.reads();
        requests.add(new Request(at + kernel + thinks, board, number));
    }

    private void answer(Request request) {
        StartTimes times = boards.get(request.board());
        int bytes = request.number() < times.blocks() ? StartTimes.BLOCK : StartTimes.READ;
        double begins = Math.max(request.at() + StartTimes.ROUND_TRIP / 2, serverFree);
        serverFree = begins + bytes / times.server().bytesPerSecond();
        double back =
                serverFree + StartTimes.ROUND_TRIP / 2 + bytes / times.client().bytesPerSecond();
        asks(back, request.board(), request.number() + 1);
    }
}
