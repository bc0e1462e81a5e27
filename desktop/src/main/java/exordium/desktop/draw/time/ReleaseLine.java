// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.time;

import exordium.core.firmware.Channel;
import exordium.core.firmware.FirmwareRelease;
import exordium.core.firmware.FirmwareStatus;
import exordium.desktop.draw.Drawing;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Optional;
import javafx.scene.shape.Circle;
import javafx.scene.text.Text;

/** Releases along time, a line a channel, with what runs, what is staged and what is newest. */
public final class ReleaseLine extends Drawing {
    private static final double LEFT = 70;
    private final List<FirmwareRelease> releases;
    private final FirmwareStatus status;
    private final LocalDate today;
    private Optional<LocalDate> chosen = Optional.empty();

    /** Room between two captions on one line. */
    private static final double BETWEEN = 14;

    public ReleaseLine(List<FirmwareRelease> releases, FirmwareStatus status, LocalDate today) {
        super(
                "Releases in time: runs " + status.running()
                        + status.newest()
                                .map(each -> ", newest " + each.version())
                                .orElse(""),
                166);
        standsAlone();
        this.releases = releases;
        this.status = status;
        this.today = today;
    }

    public void choose(LocalDate version) {
        chosen = Optional.of(version);
        redraw();
    }

    @Override
    protected void draw(double width, double height) {
        LocalDate from = releases.stream()
                .map(FirmwareRelease::version)
                .reduce((a, b) -> a.isBefore(b) ? a : b)
                .orElse(today);
        from = from.isBefore(status.running()) ? from : status.running();
        from = from.withDayOfMonth(1);
        double days = Math.max(30, ChronoUnit.DAYS.between(from, today));
        double perDay = (width - LEFT - 24) / days;
        for (Channel channel : Channel.values()) {
            double y = rowOf(channel);
            text(0, y + 4, channel.code(), channel == status.channel() ? "strong" : "soft");
            line(LEFT, y, width - 10, y, channel == status.channel() ? "line-ink" : "line-faint");
        }
        for (LocalDate month = from; !month.isAfter(today); month = month.plusMonths(3)) {
            double x = LEFT + ChronoUnit.DAYS.between(from, month) * perDay;
            line(x, 134, x, 139, "line-soft");
            text(
                    x,
                    153,
                    month.getYear() + "-" + String.format(java.util.Locale.ROOT, "%02d", month.getMonthValue()),
                    "figure",
                    "soft");
        }
        for (FirmwareRelease release : releases) {
            mark(release, LEFT + ChronoUnit.DAYS.between(from, release.version()) * perDay);
        }
        double now = LEFT + ChronoUnit.DAYS.between(from, status.running()) * perDay;
        line(now, 16, now, 134, "line-ink").setStrokeWidth(1.5);
        Text runs = text(now + 4, 16, "runs " + status.running(), "strong", "small");
        status.newest().filter(each -> each.version().isAfter(status.running())).ifPresent(newest -> {
            Text later = textRight(
                    width - 14, 16, "newest in " + status.channel().code() + " " + newest.version(), "soft", "small");
            // Where the dates are near, the one on the left ends before the other begins.
            double room = later.getX() - BETWEEN - runs.getLayoutBounds().getWidth();
            runs.setX(Math.max(0, Math.min(runs.getX(), room)));
        });
        runs.setX(Math.max(
                0, Math.min(runs.getX(), width - 14 - runs.getLayoutBounds().getWidth())));
    }

    private void mark(FirmwareRelease release, double x) {
        double y = rowOf(release.channel());
        boolean running = release.version().equals(status.running());
        boolean staged = status.staged().filter(release.version()::equals).isPresent();
        Circle ring = new Circle(x + 0.5, y + 0.5, running || staged ? 6.5 : 5);
        put(ring, running ? "fill-ink" : staged ? "fill-water" : "fill-paper", "line-ink");
        if (chosen.filter(release.version()::equals).isPresent()) {
            put(new Circle(x + 0.5, y + 0.5, 10), "fill-none", "line-deep").setStrokeWidth(2);
            textCentred(Math.max(LEFT + 30, x), y + 21, release.version().toString(), "figure");
        }
    }

    private static double rowOf(Channel channel) {
        return switch (channel) {
            case DEFAULT -> 40;
            case LATEST -> 78;
            case BETA -> 116;
        };
    }
}
