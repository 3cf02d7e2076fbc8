"""The build book as PDF: what it is, every panel, sheet and pipe, the steps, the bill, what to take care of."""

from __future__ import annotations

from pathlib import Path

from fuente.catalogue import pipe_size
from fuente.errors import FuenteError
from fuente.findings import findings
from fuente.one_line import within
from fuente.shown.plan import plan
from fuente.shown.section import section
from fuente.study.analysis import Analysis
from fuente.ui.paper import QUIET, Page, paper
from fuente.ui.templates import template_page
from fuente.units import UnitSystem, fill, shown
from fuente.workshop import told
from fuente.workshop.bill import table
from fuente.workshop.drawn import lengths_drawing, nest_drawing, panel_drawing
from fuente.workshop.piping import sketch_of
from fuente.workshop.purchase import amount_of, purchase, unit_of
from fuente.workshop.room import Room, room_of, shown_situation
from fuente.workshop.templates import templates
from fuente.workshop.words import remark

_LIST = (0.09, 0.28, 0.27, 0.36)


def export_book(analysis: Analysis, path: Path) -> None:
    """Write the book. Raises FuenteError when the file cannot be written."""
    system = analysis.system
    room, units = room_of(analysis), system.units
    with paper(path, system.name, "Letter" if units == UnitSystem.US else "A4") as page:
        _cover(page, analysis, room, units)
        _parts(page, room, units)
        _panels(page, room, units)
        _sheets(page, room, units)
        _pipes(page, room, units)
        _steps(page, room, units)
        _bill(page, analysis, units)
        for each in templates(room):
            page.turn()
            template_page(page, each, units)


def _cover(page: Page, analysis: Analysis, room: Room, units: UnitSystem) -> None:
    system = analysis.system
    case = shown_situation(analysis)
    page.text(system.name, 17, True)
    page.text(" · ".join(filter(None, (system.place, within(case.title)))), 9, colour=QUIET)
    page.drawing(section(analysis, case), units, 120, True, "Section")
    page.drawing(plan(analysis), units, 90, False, "Plan, floor by floor,")
    page.text("What Fuente would change", 11, True)
    found = findings(analysis)
    for each in found:
        page.text(f"{each.rank.word}: {each.filled(units)}", 8.5)
    if not found:
        page.text("Nothing: every situation leaves the margins that were asked for.", 8.5)
    page.text("What each situation leaves", 11, True)
    for name in analysis.names():
        one = analysis.try_situation(name)
        words = str(one) if isinstance(one, FuenteError) else f"{one.title}: {one.verdict.filled(units)}"
        page.text(words, 8.5, gap=0.6)
    page.text("Before you cut, drill and fill", 11, True)
    for caution in room.bill.cautions:
        page.text("• " + caution, 8.5, gap=0.8)


def _parts(page: Page, room: Room, units: UnitSystem) -> None:
    page.turn()
    page.text("To order and cut", 13, True)
    group = ""
    for kind, count, what, size, note in table(room.bill, units):
        if kind != group:
            group = kind
            page.y += page.mm(1.5)
            page.keep(14)
            page.text(kind, 9.5, True, gap=0.6)
        page.row((count, what, size, note), _LIST)


def _panels(page: Page, room: Room, units: UnitSystem) -> None:
    """Each panel that is more than a rectangle, dimensioned; the rest stand in the list."""
    worked = [p for p in room.bill.panels if p.holes or p.slots]
    if not worked:
        return
    page.turn()
    page.text("Panels with holes, slots and notches", 13, True)
    for panel in worked:
        page.keep(70)
        said = told.told_panel(panel, 1e9, room.shop, units)
        page.text(f"{panel.count} × {panel.name}", 10.5, True, gap=0.4)
        page.text(said.why, 8.5)
        page.drawing(
            panel_drawing(panel), units, 62, words=f"{panel.material}, {shown(panel.thickness, 'fine_length', units)}"
        )


def _sheets(page: Page, room: Room, units: UnitSystem) -> None:
    lots = [*room.lots, *(p.lot for p in room.pads)]
    if not lots:
        return
    page.turn()
    page.text("Sheets, with the order of the cuts", 13, True)
    for lot in lots:
        whole = room.laid(lot)
        for k, nest in enumerate(whole.nests, 1):
            page.keep(95)
            said = told.told_nest(lot, k, nest, whole, room.bill.panels, room.shop, units)
            page.text(said.heading, 10.5, True, gap=0.4)
            facts = "; ".join(f"{within(name)} {value}" for name, value in said.rows[:4])
            page.text(f"{said.sub}. {said.figures[0][0]} % waste; {facts}.", 8.5)
            page.drawing(nest_drawing(nest, lot.soft), units, 85)


def _pipes(page: Page, room: Room, units: UnitSystem) -> None:
    if not room.runs:
        return
    page.turn()
    page.text("Pipes, piece by piece", 13, True)
    for run in room.runs:
        page.keep(60)
        said = told.told_run(run, room.shop, units)
        page.text(f"{said.heading}: {said.sub}", 10.5, True, gap=0.4)
        for name, value in said.rows:
            page.row((name, value), (0.6, 0.4))
        page.drawing(sketch_of(run), units, 45, words="Its run, not the way it turns,")
    for pipe, lengths in room.lengths.items():
        page.keep(40)
        page.text(fill(pipe_size(pipe).name, {}, units), 10.5, True, gap=0.4)
        page.drawing(lengths_drawing(lengths), units, 12 + 10 * len(lengths.bars), words="Cut from lengths")


def _steps(page: Page, room: Room, units: UnitSystem) -> None:
    page.turn()
    page.text("The build, step by step", 13, True)
    body = ""
    for k, step in enumerate(room.steps, 1):
        if step.body != body:
            body = step.body
            page.keep(30)
            page.text(body, 10.5, True, colour=QUIET, gap=0.4)
        page.keep(24)
        hands = "one person" if step.hands == 1 else "two people"
        page.text(f"☐  {k}. {remark(step.title, units)}", 10, True, gap=0.3)
        page.text(
            f"{hands}, about {max(step.minutes, 1):.0f} min" + (f"; {', '.join(step.tools)}" if step.tools else ""),
            8,
            colour=QUIET,
            gap=0.3,
        )
        for act in step.act:
            page.text(f"•  {remark(act, units)}", 8.5, gap=0.2)
        page.text(f"Look: {remark(step.check, units)}.", 8.5, gap=0.3)
        if step.wait:
            page.text(
                f"Then wait {step.wait / 3600:.0f} h for {step.waits_for}. From ____________ until ____________",
                8.5,
                gap=0.3,
            )
        for caution in step.cautions:
            page.text(f"!  {caution}", 8, colour="#A93B2A", gap=0.3)
        page.y += page.mm(1.5)


def _bill(page: Page, analysis: Analysis, units: UnitSystem) -> None:
    total = purchase(analysis, units)
    shop = analysis.system.shop
    page.turn()
    page.text("What is bought", 13, True)
    page.row(("What", "How much", "One", "Cost"), (0.5, 0.2, 0.15, 0.15), True)
    for line in total.lines:
        there = f", {line.there:.0f} there already" if line.there else ""
        one = "" if line.each is None else f"{line.each * unit_of(line, units)[1]:.4g}"
        cost = "" if line.cost is None else told.money_fine(line.cost, shop)
        page.row((line.what, amount_of(line, units) + there, one, cost), (0.5, 0.2, 0.15, 0.15))
    page.text(
        f"{told.money(total.total, shop)} as far as it is known; {total.unknown} lines have no price. A year of power"
        f" without heaters {told.money(total.power, shop)}, of foam {told.money(total.used, shop)}.",
        9,
    )
