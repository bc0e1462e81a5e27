// SPDX-License-Identifier: Apache-2.0
package exordium.cli.common;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import com.fasterxml.jackson.datatype.jsr310.JavaTimeModule;
import exordium.core.block.Machine;
import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.finding.Finding;
import exordium.core.finding.PlainText;
import exordium.core.firmware.FirmwareCatalogue;
import exordium.core.firststart.settings.StockForms;
import exordium.core.profile.ProfileReader;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.FirmwareShelf;
import exordium.jobs.bench.MeasuredStarts;
import exordium.jobs.bench.Records;
import exordium.jobs.bench.StockShelf;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.board.BoardJobs;
import exordium.jobs.daysheet.DaySheets;
import exordium.jobs.run.Opening;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** Options and doors that commands share. A workspace is opened only by commands that need one. */
public final class Common {
    private static final DateTimeFormatter MINUTE = DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm");

    @Option(
            names = "--workspace",
            paramLabel = "DIR",
            description = "the workspace folder (default: exordium in your data folder)")
    private Path workspaceFolder;

    @Option(names = "--json", description = "print one JSON document on standard output, nothing else")
    private boolean json;

    @Option(names = "--allow-real-drives", description = "allow drives of this machine for this call")
    private boolean allowReal;

    @Option(
            names = {"-h", "--help"},
            usageHelp = true,
            description = "show this help")
    private boolean unusedHelp;

    @Spec(Spec.Target.MIXEE)
    private CommandSpec spec;

    private final ProfileReader reader = new ProfileReader();

    /** A finding as the contract prints it. */
    public record FindingOut(String severity, String code, String text, String basis) {}

    public boolean json() {
        return json || before().json();
    }

    /** What can be written to: drives of the machine where that was said with this call, or stands in the house rules. */
    public Targets targets(Workbench bench) {
        return targets(allowsRealDrives(bench)).recognisedBy(bench.recognition());
    }

    /** The same without a workspace's house rules. */
    public Targets targets() {
        return targets(allowsNow());
    }

    /** What can be read: for that, drives of the machine need no leave. */
    public Targets readable() {
        return targets(true);
    }

    private boolean allowsNow() {
        return allowReal || before().allowRealDrives();
    }

    /** Whether drives of the machine may be used: said with this call, or in the house rules. */
    public boolean allowsRealDrives(Workbench bench) {
        return allowsNow() || bench.rules().realDrives();
    }

    /** What a job goes through, shown while it does; where proves: it reads back as well. */
    public ConsoleProgress progress(boolean proves) {
        return new ConsoleProgress(!json(), proves);
    }

    /** What was said before the command, for all of them. */
    public record Before(Optional<Path> workspace, boolean json, boolean allowRealDrives) {}

    /** The whole line that a command is part of. */
    public interface Root {
        Before before();

        /** Closes it when the command is over, however it ended. */
        Workbench closedAtTheEnd(Workbench workbench);
    }

    private Root line() {
        return (Root) spec.root().userObject();
    }

    private Before before() {
        return line().before();
    }

    public ProfileReader reader() {
        return reader;
    }

    public Path folder() {
        if (workspaceFolder != null) {
            return workspaceFolder;
        }
        return before().workspace().orElseGet(Workbench::usualFolder);
    }

    public boolean hasWorkspace() {
        return Workbench.isWorkspace(folder());
    }

    public Workbench closedAtTheEnd(Workbench opened) {
        return line().closedAtTheEnd(opened);
    }

    /** Whoever opens it finds what a kill left behind, to read it as well as to work on it. */
    public Workbench workbench() throws IOException {
        Workbench opened = closedAtTheEnd(Opening.at(folder(), Clock.systemUTC(), ZoneId.systemDefault()));
        opened.unreadable().forEach(this::message);
        return opened;
    }

    public Records records() throws IOException {
        return workbench().records();
    }

    /** A board profile, shipped or the user's own. */
    public BoardProfile profile(String id) throws IOException {
        return profiles().require(id);
    }

    public BoardProfiles profiles() throws IOException {
        BoardProfiles all = BoardProfiles.shipped().withFolder(reader, folder().resolve("profiles"));
        all.unreadable().forEach(this::message);
        FirmwareCatalogue releases =
                new FirmwareShelf(folder().resolve("firmware"), reader).catalogue(new ArrayList<>());
        MeasuredStarts measured = new MeasuredStarts(folder(), reader);
        List<StockForms.Form> forms = new StockShelf(folder(), reader).all();
        return all.mapped(
                family -> StockShelf.with(measured.calibrated(family.enabledBy(releases.enabled(family.id()))), forms));
    }

    /** The machine this runs on. */
    public Machine machine() {
        return Machine.here();
    }

    private Targets targets(boolean realDrives) {
        return new Targets(reader, machine().drives(), folder(), realDrives);
    }

    /** A workbench with the jobs on it. */
    public record House(Workbench bench, BenchReader benches, DaySheets sheets, BoardJobs boards) {}

    public House house() throws IOException {
        Workbench bench = workbench();
        BenchReader benches = new BenchReader(bench);
        return new House(bench, benches, new DaySheets(bench, benches), new BoardJobs(bench, benches));
    }

    /** Prints the value as JSON, or the lines as text. */
    public void print(Object value, List<String> lines) {
        if (json()) {
            try {
                spec.commandLine().getOut().println(mapper().writeValueAsString(value));
            } catch (JsonProcessingException e) {
                throw new IllegalStateException(e);
            }
        } else {
            (lines.isEmpty() ? List.of("There is nothing to show.") : lines)
                    .forEach(line -> spec.commandLine().getOut().println(PlainText.line(line)));
        }
    }

    /** The same where the text has lines of its own, such as a table. */
    public void printText(Object value, String text) {
        if (json()) {
            print(value, List.of());
        } else {
            spec.commandLine().getOut().println(PlainText.block(text.stripTrailing()));
        }
    }

    /** A moment for people: this machine's day and minute. What programs read says it whole. */
    public static String said(Instant moment) {
        return MINUTE.format(moment.atZone(ZoneId.systemDefault()));
    }

    public void message(String text) {
        spec.commandLine().getErr().println(PlainText.line(text));
    }

    public static List<FindingOut> out(List<Finding> findings) {
        return findings.stream()
                .map(each -> new FindingOut(
                        each.severity().code(),
                        each.code(),
                        each.text(),
                        each.basis().source()))
                .toList();
    }

    public static List<String> lines(List<Finding> findings) {
        return findings.stream()
                .map(each -> each.severity().code() + ": " + each.text() + " ("
                        + each.basis().source() + ")")
                .toList();
    }

    private static ObjectMapper mapper() {
        return new ObjectMapper()
                .registerModule(new Jdk8Module())
                .registerModule(new JavaTimeModule())
                .disable(SerializationFeature.WRITE_DATES_AS_TIMESTAMPS)
                .enable(SerializationFeature.INDENT_OUTPUT);
    }
}
