// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.desk;

import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;

/** Where in the window one is, and the form laid over it. */
public final class Navigation {
    private final Reading reading;
    private final ObjectProperty<Place> place = new SimpleObjectProperty<>(new Place.Sheet());
    private final ObjectProperty<Place> form = new SimpleObjectProperty<>();

    Navigation(Reading reading) {
        this.reading = reading;
    }

    public void go(Place to) {
        reading.problemProperty().set("");
        if (to instanceof Place.Sheet || to instanceof Place.Station || to instanceof Place.Shelf) {
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
