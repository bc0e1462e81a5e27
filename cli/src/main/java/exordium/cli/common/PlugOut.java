// SPDX-License-Identifier: Apache-2.0
package exordium.cli.common;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import exordium.core.access.BoardState;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.store.Media;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** A medium in a port of a board; what is on one that is away is as it was last read. */
public record PlugOut(
        String board,
        String port,
        String medium,
        String carrier,
        Optional<String> enclosure,
        boolean here,
        @JsonUnwrapped(prefix = "contents") KnownOut contentsKnown) {

    /** What is in any number of boards: media and what is plugged into this machine are looked at once. */
    public static final class Plugs {
        private final Common.House house;
        private final Map<String, Media.Medium> media = new HashMap<>();
        private final Targets.Present present;

        public Plugs(Common.House house) {
            this.house = house;
            this.present = house.bench().targets().present();
            house.bench().records().media().forEach(each -> media.put(each.file(), each));
        }

        public List<PlugOut> of(Workbench.BoardAtHand at) throws IOException {
            List<PlugOut> plugs = new ArrayList<>();
            for (BoardState.Plug plug : at.board().attached()) {
                Optional<Media.Medium> medium = Optional.ofNullable(media.get(plug.drive()));
                plugs.add(new PlugOut(
                        at.register().id(),
                        plug.port(),
                        medium.map(Media.Medium::id).orElse(plug.drive()),
                        plug.carrier().code(),
                        plug.enclosure(),
                        medium.isPresent() && present.has(medium.get()),
                        medium.isEmpty() ? null : KnownOut.read(house.benches().asOf(medium.get()))));
            }
            return plugs;
        }
    }

    public static List<PlugOut> of(Common.House house, Workbench.BoardAtHand at) throws IOException {
        return new Plugs(house).of(at);
    }
}
