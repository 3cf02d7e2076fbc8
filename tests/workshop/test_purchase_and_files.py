"""What is bought, the fitting in the hand, leftovers, and files that other programs read back."""

from __future__ import annotations

import io
import math
import re

import ezdxf
import pytest
from openpyxl import load_workbook
from pypdf import PdfReader

from fuente.catalogue import bulkhead
from fuente.demo import DEMOS
from fuente.demo.nursery import nursery
from fuente.demo.reading_room import reading_room
from fuente.demo.starter import starter
from fuente.demo.trough import trough
from fuente.devices.base import Change, Edit
from fuente.devices.pieces import Hole, Joint
from fuente.devices.shop import HandFitting, LeftoverFitting, LeftoverPipe, LeftoverSheet, Price, Shop, StockSheet
from fuente.document.system import apply
from fuente.errors import EntryError, FuenteError
from fuente.study.filters import add_filter, first_layouts
from fuente.study.known import analysed
from fuente.ui.templates import export_templates
from fuente.units import UnitSystem
from fuente.workshop import entered
from fuente.workshop.bill import as_csv, bill
from fuente.workshop.cells import harmless
from fuente.workshop.export import export_nests_dxf, export_panels_dxf, export_pieces
from fuente.workshop.purchase import FOUND, TYPICAL, YOURS, purchase, with_price
from fuente.workshop.room import room_of
from fuente.workshop.templates import hole_template, row_template, templates, tiles
from fuente.workshop.words import remark
from fuente.workshop.workbook import workbook

METRIC = UnitSystem.METRIC


def said(template, units=METRIC):
    """What a template says of itself."""
    return remark(template.words, units)


def add_canister():
    """The window tank with a canister beside it."""
    system = starter()
    spec = next(spec for kind, spec in first_layouts(system, system.tanks[0].id) if kind.id == "canister")
    return apply(system, add_filter(system, spec))


def shopped(**values):
    """The reading room with another workshop."""
    shop = Shop().model_copy(update=values)
    return analysed(apply(reading_room(), Edit("Shop", (Change(("shop",), shop),))))


def lines(analysis):
    return {b.what: b for b in purchase(analysis, METRIC).lines}


def test_sheets_rather_than_panels_are_bought():
    total = purchase(analysed(reading_room()), METRIC)
    by = {b.what: b for b in total.lines}
    glass = by["Glass sheet, 8 mm, 2000 × 1200 mm"]
    assert (glass.amount, glass.source) == (1, TYPICAL)
    assert not any("Front" in what for what in by)
    assert by["Elbow 45°, 40 mm PN10"].amount == 3
    assert by["Silicone, 0.31 L cartridge"].amount >= 1
    assert total.total == pytest.approx(sum(b.amount * b.each for b in total.lines if b.each is not None))
    assert total.unknown == sum(b.each is None for b in total.lines) > 5
    pump, lamp = 45.0, 0.0  # W: of the demo's pump; its heaters come and go
    watts = sum(d.draws for d in reading_room().devices)
    assert watts == pytest.approx(pump + lamp, abs=40)
    assert total.power == pytest.approx(watts * 8766 / 1000 * 0.3)


def test_leftovers_are_used_first_and_cost_nothing():
    analysis = shopped(
        leftovers=(
            LeftoverSheet(material="acrylic", thickness=0.006, length=0.9, width=0.9),
            LeftoverPipe(pipe="32-pn10", length=1.5),
            LeftoverFitting(fitting="elbow_45", pipe="40-pn10", count=2),
            LeftoverFitting(fitting="bulkhead", pipe="40-pn10", count=1),
        )
    )
    by = lines(analysis)
    assert by["Elbow 45°, 40 mm PN10"].amount == 1
    assert by["Elbow 45°, 40 mm PN10"].there == 2
    assert by["Bulkhead, 40 mm"].amount == 1
    own = [b for b in by.values() if b.source == FOUND]
    assert [(b.cost, b.there) for b in own] == [(0.0, 1.0)]
    assert not any(b.what.startswith("Acrylic sheet, 6 mm, 1250") for b in by.values())
    pipe = room_of(analysis).lengths["32-pn10"]
    assert [bar.own for bar in pipe.bars].count(True) == 1


def test_the_builders_prices_and_stock_rule():
    analysis = shopped(
        sheets=(StockSheet(material="glass", length=1.0, width=0.6, price=21.0),),
        prices=(
            Price(what="Gate valve, 32 mm PN10", amount=19.0, supplier="one"),
            Price(what="Gate valve, 32 mm PN10", amount=16.5, supplier="two"),
        ),
    )
    by = lines(analysis)
    assert by["Gate valve, 32 mm PN10"].cost == 16.5
    assert by["Gate valve, 32 mm PN10"].source == YOURS
    eight = by["Glass sheet, 8 mm, 1000 × 600 mm"]
    assert eight.amount >= 3
    assert eight.each == 21.0
    shop = analysis.system.shop
    assert with_price(shop, "Union, 32 mm PN10", 4.0)[-1].amount == 4.0
    assert len(with_price(shop, "Gate valve, 32 mm PN10", None, "two")) == 1


def test_the_fitting_in_the_hand_overrides_everywhere():
    """A 40 mm bulkhead whose thread is 57: its saw is 60, the next that is sold, and not the catalogue's 53."""
    hand = HandFitting(size="40 mm", thread=0.057, flange=0.09, nut=0.09, gasket=0.004)
    room = room_of(shopped(fittings=(hand,)))
    holes = [p for p in room.pieces if isinstance(p, Hole)]
    assert sorted(round(h.diameter, 4) for h in holes) == [0.043, 0.06, 0.06]
    joints = [p for p in room.pieces if isinstance(p, Joint) and p.pipe == "40-pn10"]
    assert all(j.fit is not None and j.fit.flange == 0.09 for j in joints)
    assert any(said(t).startswith("hole 60.0 mm; flange 90 mm") for t in templates(room))
    owned = room_of(shopped(fittings=(hand,), saws=(0.035, 0.0625, 0.068)))
    assert {round(h.diameter, 4) for h in owned.pieces if isinstance(h, Hole)} == {0.043, 0.0625}


def test_what_is_typed_about_the_workshop():
    three = entered.sizes("700 x 520 x 6 mm", METRIC)
    assert three == pytest.approx((0.7, 0.52, 0.006))
    assert entered.sizes("28 x 20 x 1/4 in", UnitSystem.US) == pytest.approx((0.7112, 0.508, 0.00635))
    assert entered.leftover("sheet", "acrylic", three, "2") == LeftoverSheet(
        material="acrylic", length=0.7, width=0.52, thickness=0.006, count=2
    )
    assert entered.leftover("pipe", "32 mm PN10", (1.1,), "1") == LeftoverPipe(pipe="32-pn10", length=1.1)
    assert entered.leftover("fitting", "elbow, 1 in", (), "3") == LeftoverFitting(
        fitting="elbow", pipe="1in-40", count=3
    )
    assert entered.leftover("foam", "20", (0.5, 0.3, 0.05), "1").ppi == 20
    assert entered.hand("hand", "1 in", (0.041, 0.064, 0.064, 0.003), "").flange == 0.064
    for kind, what, sizes, count in (
        ("sheet", "oak", three, "1"),
        ("sheet", "glass", (0.7, 0.5), "1"),
        ("foam", "fine", three, "1"),
        ("pipe", "33 mm", (1.0,), "1"),
        ("pipe", "32 mm PN10", (), "1"),
        ("fitting", "thing, 32 mm PN10", (), "1"),
        ("sheet", "glass", three, "0"),
    ):
        with pytest.raises(EntryError):
            entered.leftover(kind, what, sizes, count)
    with pytest.raises(EntryError):
        entered.hand("hand", "1 in", (0.04,), "")


def test_two_fittings_of_a_size_and_a_flange_that_is_none():
    hand = HandFitting(size="40 mm", thread=0.057, flange=0.09)
    with pytest.raises(EntryError, match="same size"):
        apply(reading_room(), Edit("x", (Change(("shop", "fittings"), (hand, hand)),)))
    with pytest.raises(ValueError, match="wider than its thread"):
        HandFitting(size="40 mm", thread=0.057, flange=0.058)


# -- files -----------------------------------------------------------------------------------------------------


def test_workbook_reads_back_and_is_harmless():
    named = reading_room().model_copy(update={"name": "=1+1"})
    book = load_workbook(io.BytesIO(workbook(analysed(named))))
    assert book.sheetnames[:3] == ["Parts", "Panels, mm", "Sheets, mm"]
    panels = {r[0]: r for r in book["Panels, mm"].iter_rows(min_row=2, values_only=True)}
    assert panels["Front and back"][1:5] == (2, 900, 391, 8)
    for sheet in book:
        for row in sheet.iter_rows(values_only=True):
            assert not any(isinstance(v, str) and v[:1] in ("=", "+", "-", "@", "\t", "\r") for v in row)
    assert [harmless(v) for v in ("=A1", "@x", -3.5, "plain", "a\x00b")] == ["'=A1", "'@x", -3.5, "plain", "ab"]


def test_nests_as_dxf(tmp_path):
    path = tmp_path / "s.dxf"
    export_nests_dxf(analysed(reading_room()), path)
    made = ezdxf.readfile(path)
    assert not made.audit().errors
    layers = {e.dxf.layer for e in made.modelspace()}
    assert {"CUT", "SCORE", "SHEET", "TEXT", "OFFCUT"} <= layers
    sheets = [e for e in made.modelspace() if e.dxf.layer == "SHEET"]
    sizes = [[max(c) - min(c) for c in zip(*[(p[0], p[1]) for p in e.get_points()], strict=True)] for e in sheets]
    assert [2000.0, 1200.0] in sizes
    with pytest.raises(FuenteError):
        export_nests_dxf(analysed(DEMOS["window-lantern"]()), tmp_path / "none.dxf")


def test_every_panel_and_sheet_as_a_file(tmp_path):
    written = export_pieces(analysed(reading_room()), tmp_path)
    names = {p.name for p in written}
    assert "reading-room-tank-panel-sump-socks-plate.dxf" in names
    assert "reading-room-tank-sheet-glass-8-1.svg" in names
    plate = ezdxf.readfile(tmp_path / "reading-room-tank-panel-sump-socks-plate.dxf")
    circles = [e for e in plate.modelspace() if e.dxftype() == "CIRCLE"]
    assert sorted(2 * c.dxf.radius for c in circles) == [120.0, 120.0]
    assert {c.dxf.layer for c in circles} == {"HOLES"}


def lines_of(page):
    """Straight lines that a page draws, as lengths in mm, from its own commands."""
    data = page.get_contents().get_data().decode("latin-1")
    scale, found, at = 1.0, [], None
    for line in data.splitlines():
        parts = line.split()
        if len(parts) == 7 and parts[-1] == "cm" and parts[1] == "0" and float(parts[0]) != 1:
            scale *= abs(float(parts[0]))
        if len(parts) == 3 and parts[2] == "m":
            at = float(parts[0]), float(parts[1])
        elif len(parts) == 3 and parts[2] == "l" and at is not None:
            to = float(parts[0]), float(parts[1])
            found.append(math.hypot(to[0] - at[0], to[1] - at[1]) * scale / 72 * 25.4)
            at = to
    return found


def test_templates_are_true_to_size(tmp_path):
    path = tmp_path / "t.pdf"
    export_templates(analysed(reading_room()), path)
    reader = PdfReader(path)
    assert len(reader.pages) == len(templates(room_of(analysed(reading_room()))))
    for page in reader.pages:
        assert "This bar is 100 mm" in " ".join(page.extract_text().split())
        assert any(abs(length - 100.0) < 0.2 for length in lines_of(page))
    assert [round(float(v)) for v in reader.pages[0].mediabox[2:]] == [595, 842]
    export_templates(analysed(reading_room()), path, "Letter")
    assert [round(float(v)) for v in PdfReader(path).pages[0].mediabox[2:]] == [612, 792]


def test_a_large_template_is_tiled():
    big = hole_template("big", 0.44)
    corners = tiles(big.drawing, 180.0, 230.0)
    assert len(corners) == 6
    x0, y0, x1, y1 = big.drawing.bounds()
    assert min(x for x, _ in corners) <= x0
    assert max(x for x, _ in corners) + 180 >= x1
    assert min(y for _, y in corners) <= y0
    assert max(y for _, y in corners) + 230 >= y1
    assert len(tiles(hole_template("small", 0.04).drawing, 180.0, 230.0)) == 1


def test_rows_wrap_round_their_wall():
    """40 holes of 6 mm round a bottle of 80: evenly, each 6 mm and more apart, the strip as long as it is round."""
    strip = row_template("row", 40, 0.006, math.pi * 0.08, 2)
    holes = [s for s in strip.drawing.shapes if getattr(s, "style", "") == "hole"]
    assert len(holes) == 40
    length = math.pi * 80
    edge = next(s for s in strip.drawing.shapes if getattr(s, "style", "") == "offcut")
    assert max(x for x, _ in edge.points) - min(x for x, _ in edge.points) == pytest.approx(length)
    places = [h.centre for h in holes]
    assert all(-1e-6 <= x <= length + 1e-6 for x, _ in places)
    near = min(
        math.hypot(min(abs(a - c), length - abs(a - c)), b - d)
        for i, (a, b) in enumerate(places)
        for c, d in places[i + 1 :]
    )
    assert near > 2 * 6
    made = templates(room_of(analysed(nursery())))
    assert any(re.search("40 holes of 6.0 mm", said(t)) for t in made)
    drum = [t for t in templates(room_of(analysed(trough()))) if "stands" in said(t)]
    assert drum  # a flange on a curved wall says how far it falls away


def test_the_book_has_every_chapter(tmp_path):
    from fuente.ui.book import export_book

    path = tmp_path / "b.pdf"
    export_book(analysed(reading_room()), path)
    words = " ".join(" ".join(page.extract_text() for page in PdfReader(path).pages).split())
    for wanted in (
        "To order and cut",
        "Panels with holes, slots and notches",
        "Sheets, with the order of the cuts",
        "Pipes, piece by piece",
        "The build, step by step",
        "Draw the inner fillet",
        "What is bought",
        "Before you cut, drill and fill",
        "estimates for planning",
    ):
        assert wanted in words, wanted


def test_a_panel_that_lies_on_no_sheet_is_ordered_by_itself():
    analysis = shopped(sheets=(StockSheet(material="glass", length=0.85, width=0.6, price=20.0),))
    by = lines(analysis)
    large = by["Glass panel to order, larger than any sheet, 900 × 391 × 8 mm"]
    assert (large.amount, large.cost) == (2, None)
    assert any(what.startswith("Glass panel to order, larger than any sheet, 900 × 400") for what in by)


def test_a_better_layout_is_taken_and_a_worse_one_is_not():
    room = room_of(analysed(reading_room()))
    lot = room.lots[0]
    now = room.laid(lot)
    none = type(now)((), tuple(lot.items), 1)
    room.take({lot: none})
    assert room.laid(lot) is now
    again = lot.laid(0.2)
    room.take({lot: again})
    assert room.laid(lot) is again or again.worth > now.worth


def test_a_template_says_how_far_a_flange_falls_away():
    """A 50 mm bulkhead with its flange of 90 on a drum of 580: r − √(r² − 45²)."""
    fit = bulkhead("50 mm")
    made = hole_template("x", fit.saw, fit, 0.58)
    falls = 290 - math.sqrt(290**2 - (fit.flange * 500) ** 2)
    assert f"stands {falls:.1f} mm off" in said(made)


def test_a_hose_has_a_clamp_at_each_end():
    canister = analysed(add_canister())
    by = lines(canister)
    hoses = [b for b in by.values() if "hose" in b.what.lower() and b.unit == "m"]
    clamps = [b for b in by.values() if b.what.startswith("Hose clamp")]
    assert hoses
    assert len(clamps) == len(hoses)
    assert all(b.amount % 2 == 0 and b.amount >= 2 for b in clamps)


def test_templates_speak_the_shown_units():
    for each in templates(room_of(analysed(trough()))):
        assert " mm" not in said(each, UnitSystem.US)


@pytest.mark.parametrize(
    ("kind", "what", "sizes", "count"),
    [
        ("sheet", "glass", (0.7, 0.5, 0.5), "1"),
        ("foam", "3", (0.5, 0.3, 0.05), "1"),
        ("pipe", "32 mm PN10", (500.0,), "1"),
        ("sheet", "glass", (0.7, 0.5, 0.006), "500"),
    ],
)
def test_what_no_workshop_has_is_a_sentence(kind, what, sizes, count):
    with pytest.raises(EntryError) as refused:
        entered.leftover(kind, what, sizes, count)
    assert "\n" not in str(refused.value)
    with pytest.raises(EntryError):
        entered.hand("hand", "7 in", (0.041, 0.064, 0.064, 0.003), "")
    with pytest.raises(EntryError):
        entered.stock("stock", "glass", (2.0, 1.2, 0.006), "dear")


def test_a_sheet_of_the_builders_own_is_priced_by_the_builder():
    by = lines(shopped(sheets=(StockSheet(material="glass", length=2.2, width=1.3, price=88.0),)))
    assert {b.source for what, b in by.items() if what.startswith("Glass sheet")} == {YOURS}
    assert {b.source for what, b in by.items() if what.startswith("Acrylic sheet")} == {TYPICAL}


def test_the_panels_file_has_their_slots(tmp_path):
    """The comb's outline has four points for each of its slots besides its corners."""
    path = tmp_path / "p.dxf"
    analysis = analysed(reading_room())
    export_panels_dxf(analysis, path)
    comb = room_of(analysis).panel("sump.bed.exit.comb")
    counts = [len(e) for e in ezdxf.readfile(path).modelspace() if e.dxf.layer == "CUT"]
    assert 4 + 4 * comb.slots.count in counts


def test_csv_cells_that_begin_a_formula_are_harmless():
    named = apply(reading_room(), Edit("x", (Change(("devices", "return", "pump", "name"), "=1+1"),)))
    text = as_csv(bill(analysed(named)), METRIC)
    assert "'=1+1" in text
    assert ",=1+1" not in text
