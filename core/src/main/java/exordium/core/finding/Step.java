// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

/** The seven steps from bare storage to a kept copy, in the order of the work. */
public enum Step {
    STORAGE("storage", "Storage"),
    IMAGE("image", "Image"),
    FIRST_START("first-start", "First start"),
    FIRMWARE("firmware", "Firmware"),
    ORDER("order", "Order"),
    REHEARSAL("rehearsal", "Rehearsal"),
    COPIES("copies", "Copies");

    private final String code;
    private final String title;

    Step(String code, String title) {
        this.code = code;
        this.title = title;
    }

    public String code() {
        return code;
    }

    public String title() {
        return title;
    }
}
