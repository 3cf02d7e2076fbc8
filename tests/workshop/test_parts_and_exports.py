"""Panels by their joints, and files that other programs read back."""

import csv
import io
import xml.etree.ElementTree as ET

import ezdxf
import pytest
from pypdf import PdfReader

from fuente.devices.pieces import Face, Hole
from fuente.drawing.dxf import section_dxf
from fuente.drawing.svg import MARGIN, svg
from fuente.shown.section import section
from fuente.ui.book import export_book
from fuente.units import UnitSystem
from fuente.workshop.bill import as_csv, bill, table, tasks
from fuente.workshop.panels import panels_dxf

METRIC = UnitSystem.METRIC
GLUE = SIDE = 0.001  # m, the usual workshop


@pytest.fixture
def total(solved):
    return bill(solved)


def test_shell_closes_to_the_outer_sizes(solved, total):
    sump = solved.system.device("sump")
    by = {p.id: p for p in total.panels}
    long, end, base = by["sump.long"], by["sump.end"], by["sump.bottom"]
    assert (base.length, base.width) == (sump.length, sump.width)
    assert long.width + GLUE + base.thickness == pytest.approx(sump.height)
    assert end.length + 2 * GLUE + 2 * long.thickness == pytest.approx(sump.width)


def test_baffles_fit_with_their_clearance(solved, total):
    sump = solved.system.device("sump")
    for panel in total.panels:
        if panel.id.startswith("sump.") and panel.id.endswith((".exit", ".under")):
            assert panel.length + 2 * SIDE == pytest.approx(sump.inner_width)
    by = {p.id: p for p in total.panels}
    assert by["sump.bed.exit"].width + GLUE == pytest.approx(0.27)
    assert by["sump.bed.exit.comb"].width == pytest.approx(0.02 + 0.03)  # teeth over the crest, and what it is glued on
    assert by["sump.trap.under"].width + 0.04 == pytest.approx(0.33)


def test_every_pad_pipe_and_fitting_is_listed(total):
    rows = table(total, METRIC)
    names = " / ".join(f"{r.what}, {r.size}" for r in rows)
    for wanted in (
        "Foam pad, 45 ppi",
        "Filter sock, 250 µm, 120 mm across, 240 mm long",
        "wheel",
        "Bulkhead, 40 mm",
        "Gate valve",
        "Swing check",
        "Heater, 75 W",
    ):
        assert wanted in names
    assert [h.face for h in total.pieces if isinstance(h, Hole)] == [Face.FLOOR] * 3
    assert any("licensed electrician" in c for c in total.cautions)
    assert any("engineer's certificate" in c for c in total.cautions)


def test_csv_reads_back(total):
    rows = list(csv.DictReader(io.StringIO(as_csv(total, METRIC))))
    front = next(r for r in rows if r["what"] == "Front and back")
    assert (front["count"], front["length mm"], front["thickness mm"]) == ("2", "900.0", "8.0")
    assert len([r for r in rows if r["group"] != "Caution"]) == len(table(total, METRIC))


def test_svg_is_true_size(solved):
    drawing = section(solved, solved.situation("running"))
    root = ET.fromstring(svg(drawing, "Reading & room", METRIC))
    x0, _, x1, _ = drawing.bounds()
    assert float(root.get("width").removesuffix("mm")) == pytest.approx(x1 - x0 + 2 * MARGIN, abs=0.1)
    assert root.find("{http://www.w3.org/2000/svg}title").text == "Reading & room"


def test_panels_dxf_holds_every_panel_at_true_size(total):
    doc = ezdxf.read(io.StringIO(panels_dxf(total.panels)))
    assert doc.units == ezdxf.units.MM
    outlines = list(doc.modelspace().query("LWPOLYLINE[layer=='CUT']"))
    assert len(outlines) == len(total.panels)
    xs = [p[0] for p in outlines[0].get_points()]
    assert max(xs) - min(xs) == pytest.approx(900)
    circles = list(doc.modelspace().query("CIRCLE[layer=='HOLES']"))
    assert [c.dxf.radius for c in circles] == [60, 60]


def test_section_dxf_reads_back(solved):
    doc = ezdxf.read(io.StringIO(section_dxf(section(solved, solved.situation("running")), METRIC)))
    assert {"WATER", "SECTION", "PIPES"} <= {e.dxf.layer for e in doc.modelspace()}


def test_pdf_has_section_list_and_cautions(solved, tmp_path, qapp):
    path = tmp_path / "plan.pdf"
    export_book(solved, path)
    reader = PdfReader(path)
    words = " ".join(" ".join(page.extract_text().split()) for page in reader.pages)
    assert len(reader.pages) >= 2
    for wanted in ("Reading-room tank", "Section at 1 :", "Front and back", "no air hole", "licensed electrician"):
        assert wanted in words


def test_us_list_has_no_millimetres(solved, total):
    for _, _, _, size, _ in table(total, UnitSystem.US):
        assert " mm" not in size


def test_upkeep_has_a_reason_for_every_task(solved):
    found = tasks(solved)
    assert len(found) >= 6
    assert all(t.why and t.interval > 0 for t in found)
