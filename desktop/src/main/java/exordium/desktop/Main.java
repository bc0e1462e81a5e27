// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import javafx.application.Application;

/** Starts the window. */
public final class Main {
    private Main() {}

    public static void main(String[] args) {
        App.begin(args);
        Application.launch(App.class, args);
    }
}
