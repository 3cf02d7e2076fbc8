"""The build room of a design: its list, sheets, pads, pipes and steps, each worked out when it is first looked at."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property

from fuente.devices.homes import HomeSpec
from fuente.devices.pieces import Hole, Panel, Parts, Piece
from fuente.study.analysis import Analysis
from fuente.study.situation import Situation
from fuente.workshop.bill import Bill, bill, made_of
from fuente.workshop.lengths import Lengths
from fuente.workshop.piping import Run, runs_of
from fuente.workshop.sheet_cuts import Nesting
from fuente.workshop.sheets import Lot, PadLot, pad_lots, panel_lots, pipe_lots
from fuente.workshop.step import Step, title_of
from fuente.workshop.steps import steps


class Room:
    """All that is made of a design. Layouts are those of the fixed strategies; a search may find better ones."""

    def __init__(self, analysis: Analysis):
        self.analysis = analysis
        self.shop = analysis.system.shop
        self._laid: dict[str, Nesting] = {}

    @cached_property
    def bill(self) -> Bill:
        """The list."""
        return bill(self.analysis)

    @cached_property
    def made(self) -> tuple[tuple[str, Parts], ...]:
        """What every device is made of, with its title."""
        return tuple((title_of(device), parts) for device, parts in made_of(self.analysis))

    @cached_property
    def pieces(self) -> tuple[Piece, ...]:
        """Every piece, none counted together."""
        return tuple(piece for _, parts in self.made for piece in parts.pieces)

    @cached_property
    def lots(self) -> tuple[Lot, ...]:
        """Panels by the sheet that they are cut from."""
        return panel_lots(self.bill.panels, self.shop)

    @cached_property
    def pads(self) -> tuple[PadLot, ...]:
        """Pads by their foam."""
        return pad_lots(self.pieces, self.shop)

    @cached_property
    def runs(self) -> tuple[Run, ...]:
        """Runs of straight pipe."""
        return runs_of(self.made, self.shop)

    @cached_property
    def lengths(self) -> dict[str, Lengths]:
        """Pieces of pipe on the lengths that are sold."""
        return pipe_lots(self.runs, self.shop)

    @cached_property
    def steps(self) -> tuple[Step, ...]:
        """The build, in order."""
        return steps(self.analysis)

    def take(self, found: Mapping[Lot, Nesting]) -> None:
        """Better layouts that a search found, of the lots that are the same; bill and files follow them."""
        for lot in (*self.lots, *(p.lot for p in self.pads)):
            if lot in found and found[lot].worth <= self.laid(lot).worth:
                self._laid[lot.key] = found[lot]

    def laid(self, lot: Lot) -> Nesting:
        """A lot on its sheets."""
        if lot.key not in self._laid:
            self._laid[lot.key] = lot.laid()
        return self._laid[lot.key]

    @cached_property
    def owners(self) -> dict[str, str]:
        """Id of the device that each piece belongs to."""
        return {piece.id: device.id for device, parts in made_of(self.analysis) for piece in parts.pieces}

    def panel(self, key: str) -> Panel | None:
        """A panel by its id."""
        return next((p for p in self.bill.panels if p.id == key), None)

    def holes_with(self, key: str) -> tuple[Hole, ...]:
        """The holes through the same face of the same body as a hole has."""
        hole = next((p for p in self.pieces if isinstance(p, Hole) and p.id == key), None)
        if hole is None:
            return ()
        return tuple(
            p
            for p in self.pieces
            if isinstance(p, Hole) and (p.body, p.face) == (hole.body, hole.face) and p.x is not None
        )

    def floor_of(self, holes: tuple[Hole, ...]) -> tuple[str, float, float] | None:
        """Whose floor some holes go through: the tank's name, and its outer length and width in m; None for others."""
        home = self.analysis.system.by_id.get(holes[0].body) if holes else None
        if not isinstance(home, HomeSpec):
            return None
        tank = self.analysis.sites[home.id].tank
        return home.name, tank.inner_length + 2 * tank.thickness, tank.inner_width + 2 * tank.thickness


def room_of(analysis: Analysis) -> Room:
    """The build room of a design, one for each analysis."""
    return analysis.kept("build-room", lambda: Room(analysis))


def shown_situation(analysis: Analysis) -> Situation:
    """The running state, or the water at rest where nothing runs."""
    running = analysis.try_situation("running")
    return running if isinstance(running, Situation) else analysis.at_rest()
