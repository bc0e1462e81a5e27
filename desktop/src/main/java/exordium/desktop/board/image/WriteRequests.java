// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.image;

import exordium.core.finding.Finding;
import exordium.core.storage.media.Newcomer;
import exordium.core.writing.TransferMeter;
import exordium.core.writing.WriteReport;
import exordium.desktop.desk.House;
import exordium.desktop.desk.JobsModel;
import exordium.desktop.desk.Request;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Workbench;
import exordium.jobs.copies.care.AfterWrite;
import exordium.jobs.media.DriveWork;
import exordium.jobs.media.PluggedIn;
import exordium.jobs.writing.WriteJob;
import java.io.IOException;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/** Writes as they are asked for: an image onto one drive or several, or one that was cut off and goes on. */
final class WriteRequests {
    private final House house;
    private final String board;

    WriteRequests(House house, String board) {
        this.house = house;
        this.board = board;
    }

    /** Of plans that have no stop; newcomers: what drives are taken in as first, in their order. Reports arrive as the job's {@link JobsModel.Written}. */
    Request<Void> write(
            String title,
            List<WriteJob.Planned> plans,
            List<Optional<Newcomer>> newcomers,
            boolean grows,
            Optional<AfterWrite.Wanted> after) {
        Set<String> drives =
                plans.stream().map(each -> each.plan().target().id()).collect(Collectors.toSet());
        return request(title, drives, plans.get(0).plan().target().id(), meter -> {
            for (int i = 0; i < plans.size(); i++) {
                if (newcomers.get(i).isPresent()) {
                    Newcomer told = newcomers.get(i).get();
                    new PluggedIn(house.workbench()).takeIn(plans.get(i).target(), told.name(), told.kind());
                }
            }
            List<WriteJob.Order> orders = orders(plans, meter);
            List<WriteReport> done = WriteJob.runAll(house.workbench(), orders);
            house.jobs().ended(meter, done, List.of());
            finish(orders, done, grows, after, meter);
        });
    }

    private List<WriteJob.Order> orders(List<WriteJob.Planned> plans, TransferMeter meter) {
        return plans.stream()
                .map(each -> new WriteJob.Order(
                        each.plan(),
                        each.target(),
                        Optional.of(board),
                        each.equals(plans.get(0)) ? meter : meter.beside()))
                .toList();
    }

    Request<Void> goOn(WriteJob.Unfinished unfinished, String typed) {
        String drive = String.valueOf(unfinished.target().getFileName());
        return request("Going on with " + unfinished.write().image(), Set.of(drive), drive, meter -> {
            WriteJob.Order order =
                    WriteJob.again(house.workbench(), house.targets(), unfinished, Optional.of(board), typed, meter);
            List<WriteReport> done = List.of(WriteJob.resume(house.workbench(), order, unfinished));
            house.jobs().ended(meter, done, List.of());
            finish(List.of(order), done, false, Optional.empty(), meter);
        });
    }

    private Request<Void> request(String title, Set<String> drives, String first, Request.Deed deed) {
        Request<Void> plain = Request.deed(title, deed).at(board);
        return new Request<>(plain.title(), board, Optional.of(first), drives, true, plain.work());
    }

    private void finish(
            List<WriteJob.Order> orders,
            List<WriteReport> done,
            boolean grows,
            Optional<AfterWrite.Wanted> after,
            TransferMeter meter)
            throws IOException {
        List<Finding> findings = new ArrayList<>();
        for (int i = 0; i < done.size(); i++) {
            WriteReport report = done.get(i);
            if (!report.verdict().good()) {
                house.reading().say(report.sentence());
                continue;
            }
            WriteJob.Order order = orders.get(i);
            if (grows) {
                new DriveWork(house.workbench(), new SecureRandom()::nextLong)
                        .grow(order.target(), order.plan().target().id());
            }
            if (after.isPresent()) {
                findings.addAll(new AfterWrite(house.workbench(), new BenchReader(house.workbench()))
                        .finish(order.target(), withMedium(), after.get())
                        .findings());
            }
        }
        if (!findings.isEmpty()) {
            house.jobs().ended(meter, done, findings);
        }
    }

    /** The board as it is, where something is in the place of which another medium can be rehearsed. */
    private Optional<Workbench.BoardAtHand> withMedium() throws IOException {
        return Optional.of(house.workbench().board(board))
                .filter(at -> house.workbench().mainMedium(at).isPresent());
    }
}
