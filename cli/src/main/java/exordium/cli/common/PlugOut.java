// SPDX-License-Identifier: Apache-2.0
package exordium.cli.common;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import exordium.core.access.BoardState;
import exordium.jobs.bench.Workbench;
import exordium.store.Media;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** A medium in a port of a board; what is on one that is away is as it was last read. */
public record PlugOut(
        String board,
        String port,
        String medium,
        String carrier,
        boolean here,
        @JsonUnwrapped(prefix = "contents") KnownOut contentsKnown) {

    public static List<PlugOut> of(Common.Desk desk, Workbench.BoardAtHand at) throws IOException {
        List<Media.Medium> media = desk.bench().records().media();
        List<PlugOut> plugs = new ArrayList<>();
        for (BoardState.Plug plug : at.board().attached()) {
            Optional<Media.Medium> medium = media.stream()
                    .filter(each -> each.file().equals(plug.drive()))
                    .findFirst();
            plugs.add(new PlugOut(
                    at.register().id(),
                    plug.port(),
                    medium.map(Media.Medium::id).orElse(plug.drive()),
                    plug.carrier(),
                    medium.isPresent() && desk.bench().targets().isHere(medium.get()),
                    medium.isEmpty() ? null : KnownOut.read(desk.benches().asOf(medium.get()))));
        }
        return plugs;
    }
}
