// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.part;

import exordium.core.quantity.Coded;
import javafx.util.StringConverter;

/** Shows one of a few by its name in small letters. */
public final class CodedText<E extends Enum<E> & Coded> extends StringConverter<E> {
    private final Class<E> kind;

    public CodedText(Class<E> kind) {
        this.kind = kind;
    }

    @Override
    public String toString(E value) {
        return value == null ? "" : value.code();
    }

    @Override
    public E fromString(String code) {
        return Coded.of(kind, code);
    }
}
