// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.part;

import java.util.function.Function;
import javafx.util.StringConverter;

/** What a choice shows, where each of its values says itself; nothing is typed into it. */
public final class SaidText<T> extends StringConverter<T> {
    private final Function<T, String> said;

    public SaidText(Function<T, String> said) {
        this.said = said;
    }

    @Override
    public String toString(T value) {
        return value == null ? "" : said.apply(value);
    }

    @Override
    public T fromString(String text) {
        throw new UnsupportedOperationException("nothing is typed here");
    }
}
