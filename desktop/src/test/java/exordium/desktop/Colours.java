// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** The named colours of the two charts as the stylesheet has them, and their contrast. */
final class Colours {
    private static final Pattern BLOCK = Pattern.compile("\\.root(\\.night)? \\{([^}]*)\\}");
    private static final Pattern COLOUR = Pattern.compile("-([a-z-]+): #([0-9A-Fa-f]{6});");

    private final Map<String, Integer> day = new HashMap<>();
    private final Map<String, Integer> night = new HashMap<>();

    static String stylesheet() {
        try (InputStream stream = Colours.class.getResourceAsStream("chart.css")) {
            return new String(stream.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new AssertionError(e);
        }
    }

    Colours() {
        Matcher block = BLOCK.matcher(stylesheet());
        while (block.find()) {
            Matcher colour = COLOUR.matcher(block.group(2));
            while (colour.find()) {
                (block.group(1) == null ? day : night).put(colour.group(1), Integer.parseInt(colour.group(2), 16));
            }
        }
    }

    Map<String, Integer> of(boolean nightChart) {
        return nightChart ? night : day;
    }

    /** Contrast ratio of two colours (WCAG 2.1, "contrast ratio" and "relative luminance"). */
    static double contrast(int one, int other) {
        double a = luminance(one) + 0.05;
        double b = luminance(other) + 0.05;
        return Math.max(a, b) / Math.min(a, b);
    }

    private static double luminance(int rgb) {
        return 0.2126 * linear(rgb >> 16 & 0xFF) + 0.7152 * linear(rgb >> 8 & 0xFF) + 0.0722 * linear(rgb & 0xFF);
    }

    private static double linear(int channel) {
        double share = channel / 255.0;
        return share <= 0.04045 ? share / 12.92 : Math.pow((share + 0.055) / 1.055, 2.4);
    }
}
