// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.desk;

import java.util.Optional;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;

/** Where in the window one is, and the form laid over it. */
public final class Navigation {
    private final Reading reading;
    private final ObjectProperty<Place> place = new SimpleObjectProperty<>(new Place.Sheet());
    private final ObjectProperty<Place> form = new SimpleObjectProperty<>();

    private Optional<String> wish = Optional.empty();

    Navigation(Reading reading) {
        this.reading = reading;
    }

    /** The same with what is to be chosen there, by its title. */
    public void go(Place to, String wanted) {
        wish = Optional.of(wanted);
        place.set(to);
    }

    /** What is to be chosen where one arrived; asked for once. */
    public Optional<String> takeWish() {
        Optional<String> taken = wish;
        wish = Optional.empty();
        return taken;
    }

    public void go(Place to) {
        wish = Optional.empty();
        reading.problemProperty().set("");
        if (to instanceof Place.Sheet
                || to instanceof Place.Station
                || to instanceof Place.Passage
                || to instanceof Place.Shelf) {
            place.set(to);
        } else {
            form.set(null);
            form.set(to);
        }
    }

    public ObjectProperty<Place> placeProperty() {
        return place;
    }

    /** What was asked for last beside the place one is at, such as a form; set anew each time. */
    public ObjectProperty<Place> formProperty() {
        return form;
    }
}
