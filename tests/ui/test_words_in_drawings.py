"""Words in drawings never lie on each other, on the caption or over the edge: every demo, kind and situation, two sizes
of the window and of the text, both unit systems.
"""

from __future__ import annotations

import itertools

import pytest
from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QFont, QImage, QPainter

from devices_of import FILTERS
from fuente.demo import DEMOS
from fuente.demo.reading_room import reading_room
from fuente.document.system import apply, set_value
from fuente.drawing.primitives import Dimension, Drawing, Label, Polyline, box
from fuente.shown.plan import plan
from fuente.shown.section import section
from fuente.study.filters import add_filter
from fuente.study.known import analysed
from fuente.study.sites import new_site
from fuente.study.situation import Situation
from fuente.ui import theme
from fuente.ui.painting import paint_drawing
from fuente.ui.placing import placed
from fuente.ui.section_view import SectionView
from fuente.ui.situation_strip import in_lines
from fuente.units import UnitSystem

SIZES = [(460, 330), (715, 500)]  # the drawing's part of a window of 1024 × 700 and of 1280 × 800


@pytest.fixture
def sizes(qapp):
    """Both sizes of the text, one after the other: what is solved for one serves the other."""

    def each():
        for size in (1.0, 1.5):
            theme.apply(qapp, "light", size)
            yield size

    yield each
    theme.apply(qapp, "light", 1.0)


def drawings(system):
    """The section in every situation, and the plan."""
    analysis = analysed(system)
    for name in analysis.names():
        state = analysis.try_situation(name)
        if isinstance(state, Situation):
            yield name, section(analysis, state)
    yield "plan", plan(analysis)


def overlapping(boxes):
    """Pairs of boxes that share more than the leading between lines, by plain sums."""
    for (n, a), (m, b) in itertools.combinations(enumerate(boxes), 2):
        wide = min(a.right(), b.right()) - max(a.left(), b.left())
        tall = min(a.bottom(), b.bottom()) - max(a.top(), b.top())
        if wide > 1.5 and tall > 1.5:
            yield n, m


def check(system, corner=140):
    view = SectionView()
    view.corner = corner
    for name, drawing in drawings(system):
        for size in SIZES:
            view.resize(*size)
            for units in UnitSystem:
                view.show_drawing(drawing, units, "", "Cleaning")
                room = QRectF(view.rect())
                covered = view._covered(view._captioned())
                words, left = placed(drawing, view._frame(), units, room, covered)
                boxes = [*covered, *(w.box for w in words)]
                bad = [(w, v) for w, v in overlapping(boxes) if w >= len(covered) or v >= len(covered)]
                assert not bad, (name, size, units, [words[i - len(covered)].text for pair in bad for i in pair])
                for each in words:
                    assert room.contains(each.box), (name, size, units, each.text)
                yield name, size, units, words, left


@pytest.mark.slow
@pytest.mark.parametrize("key", DEMOS)
def test_no_words_of_a_demo_lie_on_others(key, sizes):
    system = DEMOS[key]()
    for _ in sizes():
        assert sum(len(words) for *_, words, _ in check(system)) > 20


@pytest.mark.slow
@pytest.mark.parametrize("kind", FILTERS)
def test_no_words_of_any_kind_lie_on_others(kind, sizes):
    bare = apply(reading_room(), set_value("x", ("devices", "tank", "gravel"), 0.0))
    made = apply(bare, add_filter(bare, FILTERS[kind].first(new_site(bare, "tank"))))
    for _ in sizes():
        assert sum(len(words) for *_, words, _ in check(made)) > 20


def pieces(drawing, frame):
    """What pipes cover, px, by hand."""
    scale, left, base = frame
    for pipe in (s for s in drawing.shapes if isinstance(s, Polyline) and s.width > 0):
        for (x0, y0), (x1, y1) in itertools.pairwise(pipe.points):
            half = pipe.width / 2
            low, high = min(y0, y1) - half, max(y0, y1) + half
            x0, x1 = min(x0, x1) - half, max(x0, x1) + half
            yield QRectF(left + x0 * scale, base - high * scale, (x1 - x0) * scale, (high - low) * scale)


@pytest.mark.parametrize(("key", "what"), [("reading-room", "plan"), ("cascade", "plan"), ("back-room", "running")])
def test_measures_and_names_stand_beside_pipes(key, what, qapp):
    """Not across one, as at home the width of a tank, its name and a heading of a plan would be, and the height of a
    sump that a pipe joins to another.
    """
    theme.apply(qapp, "light", 1.0)
    view = SectionView()
    view.resize(*SIZES[1])
    drawing = dict(drawings(DEMOS[key]()))[what]
    view.show_drawing(drawing, UnitSystem.METRIC, "", "")
    frame = view._frame()
    words, _ = placed(drawing, frame, UnitSystem.METRIC, QRectF(view.rect()), view._covered(view._captioned()))
    aside = [w for w in words if isinstance(w.of, Dimension) or w.of.style == "label-strong" or w.of.anchor == "left"]
    aside = [w for w in aside if isinstance(w.of, Dimension) or w.of.style in ("label-strong", "label-under")]
    assert len(aside) >= 2
    for each in aside:
        for pipe in pieces(drawing, frame):
            shared = each.box.intersected(pipe)
            assert min(shared.width(), shared.height()) < 1.5, each.text


@pytest.mark.parametrize("key", ["reading-room", "courtyard-trough"])
def test_what_matters_stays_at_the_usual_size(key, qapp):
    """At 1280 × 800 and 100 % nothing but small tags gives way."""
    theme.apply(qapp, "light", 1.0)
    for name, size, _, words, left in check(DEMOS[key]()):
        if size == SIZES[1] and name != "plan":
            said = {w.of.style if isinstance(w.of, Label) else "dimension" for w in words}
            assert said >= ({"label-pumped", "label-under"} if key == "reading-room" else {"label-under"})
            assert len(left) <= len(words) / 4, (name, [each.text for each in left])


def row(*labels):
    return Drawing(tuple(Label(at, words, style, room=0) for at, words, style in labels))


def test_what_matters_more_keeps_its_place_and_the_other_moves(qapp):
    theme.apply(qapp, "light", 1.0)
    drawing = row(((0, 0), "small words", "label-small"), ((0, 0), "stop", "label-stop"))
    words, left = placed(drawing, (1.0, 200.0, 100.0), UnitSystem.METRIC, QRectF(0, 0, 400, 200))
    assert not left
    stop, small = words
    assert stop.text == "stop"
    assert stop.box.center().x() == pytest.approx(200, abs=1)
    assert stop.box.contains(QPointF(200, 100))
    assert not small.box.intersects(stop.box.adjusted(1, 1, -1, -1))
    assert small.grounded


def test_what_finds_no_room_is_kept_for_the_pointer(qapp):
    theme.apply(qapp, "light", 1.0)
    drawing = row(*(((0, 0), f"words {n}", "label-small") for n in range(40)))
    words, left = placed(drawing, (1.0, 60.0, 40.0), UnitSystem.METRIC, QRectF(0, 0, 120, 80))
    assert words
    assert len(words) + len(left) == 40
    assert not list(overlapping([w.box for w in words]))


def test_left_out_words_are_said_where_the_pointer_rests(path_page):
    from PySide6.QtTest import QTest

    view = path_page.view
    many = row(*(((0, 40 * n), "far too many words", "label-small") for n in range(300)))
    view.show_drawing(many + Drawing((box(-500, 0, 500, 12000, "glass"),)), UnitSystem.METRIC, "", "")
    view.grab()
    assert view.left_out
    spot = view.left_out[-1].box.center().toPoint()
    QTest.mouseMove(view, spot)
    assert view.toolTip() == "far too many words"


def test_what_is_placed_is_what_is_painted(qapp):
    """Ink stands in the boxes that were given, and nowhere else."""
    theme.apply(qapp, "light", 1.0)
    drawing = row(
        ((0, 0), "A name", "label-strong"), ((0, 5), "Other", "label-small"), ((150, -60), "right", "label-mark")
    )
    image = QImage(400, 200, QImage.Format.Format_RGB32)
    image.fill(0xFFFFFFFF)
    frame = (1.0, 200.0, 100.0)
    painter = QPainter(image)
    paint_drawing(painter, drawing, frame, UnitSystem.METRIC)
    painter.end()
    words, _ = placed(drawing, frame, UnitSystem.METRIC, QRectF(image.rect()).adjusted(2, 2, -2, -2))
    boxes = [w.box.adjusted(-3.5, -1, 3.5, 1) for w in words]
    inked = [
        QPointF(x + 0.5, y + 0.5) for x in range(400) for y in range(200) if image.pixelColor(x, y).lightness() < 160
    ]
    assert len(inked) > 100
    assert all(any(box.contains(spot) for box in boxes) for spot in inked)
    assert all(any(w.box.contains(spot) for spot in inked) for w in words)


def test_verdicts_break_at_a_space(qapp):
    from PySide6.QtGui import QFontMetrics

    fm = QFontMetrics(QFont(theme.FAMILY))
    words = "28.1 L, 3 others fall too"
    whole = fm.horizontalAdvance(words)
    assert in_lines(words, fm, whole + 2, 2) == [words]
    two = in_lines(words, fm, int(0.7 * whole), 2)
    assert " ".join(two) == words
    assert all(fm.horizontalAdvance(each) <= 0.7 * whole for each in two)
    assert in_lines(words, fm, int(0.7 * whole), 1)[0].endswith("…")
    # After a comma, and no number without its unit.
    assert in_lines("tank +0 mm, holds", fm, fm.horizontalAdvance("tank +0 mm, h"), 2) == ["tank +0 mm,", "holds"]
    assert in_lines("in 13 days", fm, fm.horizontalAdvance("13 days") + 3, 2) == ["in", "13 days"]


def words_of(plot, items):
    """The boxes of the words that a chart shows, and what they say."""
    import pyqtgraph as pg

    from fuente.ui.quiet_plot import box_of

    shown = [i for i in items if isinstance(i, pg.TextItem) and i.isVisible()]
    return [(box_of(plot, i), i.toPlainText()) for i in shown]


@pytest.mark.parametrize("size", [1.0, 1.5])
def test_words_of_charts_never_lie_on_each_other(window, qapp, size):
    """At any part that is looked at; the day to clean and today stay, marks of the past give way."""
    window._retheme("light", size)
    try:
        window.show_stage("keep")
        keep = window.page("keep")
        keep.work_now()
        window.show_stage("media")
        life = window.page("media").life
        life.work_now()
        for stage, chart in (("keep", keep.trends.chart), ("media", life.chart)):
            window.show_stage(stage)
            qapp.processEvents()
            low, high = chart.plot.viewRange()[0]
            for share in (1.0, 0.5, 3.0, 8.0):
                chart.plot.setXRange(low, low + share * (high - low), padding=0)
                qapp.processEvents()
                found = words_of(chart.plot, chart._items)
                assert found
                assert not list(overlapping([box for box, _ in found])), [words for _, words in found]
                if stage == "keep":
                    assert any("clean by" in words for _, words in found)
    finally:
        window._retheme("light", 1.0)
