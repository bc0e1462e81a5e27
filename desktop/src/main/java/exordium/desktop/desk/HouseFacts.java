// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.desk;

import exordium.core.daysheet.DaySheet;
import exordium.jobs.bench.HouseRules;
import exordium.jobs.bench.Records;
import exordium.jobs.bench.Workbench;
import exordium.jobs.daysheet.DaySheets;
import exordium.jobs.passage.UnderWay;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;

/** What is true of the house as it was last read: the day sheet, the rules, the last words of the logbook. */
public final class HouseFacts {
    private final Workbench workbench;
    private final DaySheets sheets;
    private final Reading reading;
    private final ObjectProperty<DaySheet> sheet = new SimpleObjectProperty<>();
    private final ObjectProperty<List<UnderWay>> passages = new SimpleObjectProperty<>(List.of());
    private final IntegerProperty readings = new SimpleIntegerProperty();
    private final StringProperty lastEntry = new SimpleStringProperty("");
    private final AtomicInteger decided = new AtomicInteger();
    private final ObjectProperty<HouseRules> rules = new SimpleObjectProperty<>();
    private final ObjectProperty<Records.Counts> counts = new SimpleObjectProperty<>(new Records.Counts(0, 0, 0));

    /** Where rules: as they were read before the window was there. */
    HouseFacts(Workbench workbench, DaySheets sheets, Reading reading, HouseRules rules) {
        this.workbench = workbench;
        this.sheets = sheets;
        this.reading = reading;
        this.rules.set(kept(rules));
    }

    public ObjectProperty<DaySheet> sheetProperty() {
        return sheet;
    }

    /** Passages under way. */
    public ObjectProperty<List<UnderWay>> passagesProperty() {
        return passages;
    }

    /** Counts how often everything was read anew; changes even where the sheet comes out the same. */
    public IntegerProperty readingsProperty() {
        return readings;
    }

    public StringProperty lastEntryProperty() {
        return lastEntry;
    }

    /** How many things lie on the shelves that hold things. */
    public ObjectProperty<Records.Counts> countsProperty() {
        return counts;
    }

    /** House rules as they are; what is decided by them counts here at once and is kept in its turn. */
    public HouseRules rules() {
        return rules.get();
    }

    private HouseRules kept(HouseRules read) {
        return read.keptBy((key, value) -> {
            decided.incrementAndGet();
            reading.perform(() -> workbench.keep(key, value));
        });
    }

    /** Reads everything anew. */
    public void refresh() {
        reading.perform(() -> {
            int before = decided.get();
            DaySheet now = sheets.now();
            String entry = workbench.records().lastWords();
            HouseRules read = workbench.rules();
            List<UnderWay> underWay = UnderWay.of(workbench);
            Records.Counts counted = workbench.records().counts();
            reading.post(() -> {
                lastEntry.set(entry);
                // What was decided since is not in what was read.
                if (decided.get() == before) {
                    rules.set(kept(read));
                }
                counts.set(counted);
                passages.set(underWay);
                sheet.set(now);
                readings.set(readings.get() + 1);
            });
        });
    }

    /** Does something short, then reads everything anew. */
    public void perform(Reading.Action deed) {
        reading.post(() -> reading.problemProperty().set(""));
        reading.perform(deed);
        refresh();
    }
}
