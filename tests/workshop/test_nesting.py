"""Sheets, pads and lengths: nothing overlaps, every cut runs from edge to edge, and the use is near the optimum."""

from __future__ import annotations

import itertools
import random
from functools import cache

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fuente.errors import EntryError
from fuente.halting import Halted, halted_when, telling
from fuente.workshop.lattice import pads_from, sheets_for
from fuente.workshop.lengths import cut_lengths
from fuente.workshop.nesting import nest
from fuente.workshop.sheet_cuts import Board, Item, Nest

TINY = 1e-6


def parts_of(size, kerf, rng, least=0.08):
    """A sheet cut up at random from edge to edge: what comes out of it, with no waste but the kerf."""
    length, width = size
    if length * width < 0.12 or rng.random() < 0.08:
        return [size]
    upright = rng.random() < length / (length + width)
    whole = length if upright else width
    if whole < 2 * least + kerf:
        return [size]
    at = round(rng.uniform(0.3, 0.7) * whole, 3)
    rest = round(whole - at - kerf, 6)
    halves = ((at, width), (rest, width)) if upright else ((length, at), (length, rest))
    return [p for half in halves for p in parts_of(half, kerf, rng, least)]


def checked(found: Nest, kerf: float, trim: float = 0.0) -> None:
    """Cut the sheet up as its cuts say: each from edge to edge of one piece, and every panel a piece by itself."""
    pieces = [(trim, trim, found.board.length - trim, found.board.width - trim)]
    for number, cut in enumerate(found.cuts, 1):
        assert cut.number == number
        (x0, y0), (x1, y1) = cut.start, cut.end
        upright = abs(x1 - x0) < TINY
        for piece in pieces:
            a, b, c, d = piece
            if upright and abs(y0 - b) < TINY and abs(y1 - d) < TINY and a < x0 < c + kerf:
                parts = [(a, b, x0 - kerf / 2, d), (x0 + kerf / 2, b, c, d)]
                break
            if not upright and abs(x0 - a) < TINY and abs(x1 - c) < TINY and b < y0 < d + kerf:
                parts = [(a, b, c, y0 - kerf / 2), (a, y0 + kerf / 2, c, d)]
                break
        else:
            raise AssertionError(f"cut {number} runs through no piece from edge to edge")
        pieces.remove(piece)
        pieces += [p for p in parts if p[2] - p[0] > TINY and p[3] - p[1] > TINY]
    for placed in found.placed:
        at, item = placed.at, placed.item
        assert sorted((at.length, at.width)) == pytest.approx(sorted((item.length, item.width)))
        assert item.turns or not placed.turned
        assert any(
            (a, b, c, d) == pytest.approx((at.x, at.y, at.x + at.length, at.y + at.width), abs=TINY)
            for a, b, c, d in pieces
        ), f"{item.key} is not cut free"
    for offcut in found.offcuts:
        assert any((a, b) == pytest.approx((offcut.x, offcut.y), abs=TINY) for a, b, _, _ in pieces)


SIZES = st.tuples(st.integers(30, 700), st.integers(30, 500))


@settings(max_examples=60, deadline=None)
@given(st.lists(SIZES, min_size=1, max_size=14), st.sampled_from([0.0, 0.003]), st.sampled_from([0.0, 0.01]))
def test_every_layout_can_be_cut(sizes, kerf, trim):
    items = [Item(f"{k}", a / 1000, b / 1000, turns=k % 3 > 0) for k, (a, b) in enumerate(sizes)]
    boards = [Board("own", 0.6, 0.4, count=1, own=True), Board("sheet", 1.2, 0.9, 30.0), Board("half", 0.6, 0.9, 17.0)]
    made = nest(items, boards, kerf=kerf, trim=trim)
    keys = [p.item.key for n in made.nests for p in n.placed] + [i.key for i in made.unfit]
    assert sorted(keys) == sorted(i.key for i in items)
    assert sum(n.board.key == "own" for n in made.nests) <= 1
    for found in made.nests:
        checked(found, kerf, trim)
        assert 0 <= found.waste <= 1 - found.used + TINY
    assert made.bound <= made.waste + TINY


@pytest.mark.parametrize(("seed", "kerf"), [(s, k) for s in range(6) for k in (0.0, 0.003)])
def test_near_the_optimum_where_it_is_known(seed, kerf):
    """Panels of a sheet that was cut up without waste go back on one sheet; at most a twentieth is left beside it."""
    sizes = parts_of((2.0, 1.2), kerf, random.Random(seed))
    items = [Item(f"{k}", a, b) for k, (a, b) in enumerate(sizes)]
    random.Random(seed + 50).shuffle(items)
    made = nest(items, [Board("sheet", 2.0, 1.2, 50.0)], kerf=kerf, seconds=1.0)
    on_one = max(sum(p.at.area for p in n.placed) for n in made.nests)
    assert on_one >= 0.95 * sum(i.length * i.width for i in items)
    for found in made.nests:
        checked(found, kerf)


def test_leftovers_go_first_and_what_fits_nowhere_is_said():
    items = [Item("small", 0.3, 0.2), Item("large", 1.0, 0.5), Item("huge", 3.0, 0.5)]
    made = nest(items, [Board("sheet", 1.2, 0.8, 20.0), Board("scrap", 0.35, 0.25, count=1, own=True)])
    assert {n.board.key: [p.item.key for p in n.placed] for n in made.nests} == {"scrap": ["small"], "sheet": ["large"]}
    assert [i.key for i in made.unfit] == ["huge"]
    assert (made.price, made.bought) == (20.0, pytest.approx(0.96))


def test_the_cheaper_sheet_is_bought():
    items = [Item(f"{k}", 0.5, 0.4) for k in range(2)]
    made = nest(items, [Board("large", 2.0, 1.0, 90.0), Board("small", 1.0, 0.5, 30.0)])
    assert [n.board.key for n in made.nests] == ["small"]


def test_the_search_tells_and_stops():
    items = [Item(f"{k}", 0.1 + 0.01 * k, 0.2 + 0.005 * k) for k in range(15)]
    told: list[float] = []
    with telling(told.append):
        made = nest(items, [Board("sheet", 1.0, 0.7)], seconds=0.3)
    assert made.tried > 200
    assert 0 <= told[0] < told[-1] <= 0.31
    with pytest.raises(Halted), halted_when(lambda: True):
        nest(items, [Board("sheet", 1.0, 0.7)], seconds=10)


def test_sizes_that_are_none():
    for items, boards, more in (
        ([Item("a", 0.0, 1.0)], [Board("s", 1, 1)], {}),
        ([Item("a", 0.1, 0.1)], [Board("s", 0.01, 1)], {"trim": 0.01}),
        ([Item("a", 0.1, 0.1)], [Board("s", 1, 1)], {"kerf": -1.0}),
        ([Item(f"{k}", 0.1, 0.1) for k in range(401)], [Board("s", 1, 1)], {}),
    ):
        with pytest.raises(EntryError):
            nest(items, boards, **more)


# -- pads ------------------------------------------------------------------------------------------------------


def most_by_force(length, width, a, b):
    """Most a × b pads out of a sheet in whole numbers by cuts from edge to edge, every place of a cut tried."""

    @cache
    def most(u, v):
        if u > v:
            u, v = v, u
        best = int(min(a, b) <= u and max(a, b) <= v)
        for at in range(1, u // 2 + 1):
            best = max(best, most(*sorted((at, v))) + most(*sorted((u - at, v))))
        for at in range(1, v // 2 + 1):
            best = max(best, most(*sorted((u, at))) + most(*sorted((u, v - at))))
        return best

    return most(*sorted((length, width)))


@settings(max_examples=80, deadline=None)
@given(st.integers(4, 34), st.integers(4, 30), st.integers(2, 11), st.integers(2, 9))
def test_pads_equal_brute_force(length, width, a, b):
    made = pads_from(length / 100, width / 100, a / 100, b / 100)
    assert most_by_force(length, width, a, b) <= made.count <= made.bound
    for one, other in itertools.combinations(made.laid, 2):
        apart_x = one.x + one.length <= other.x + TINY or other.x + other.length <= one.x + TINY
        apart_y = one.y + one.width <= other.y + TINY or other.y + other.width <= one.y + TINY
        assert apart_x or apart_y
    for pad in made.laid:
        assert sorted((pad.length, pad.width)) == pytest.approx(sorted((a / 100, b / 100)))
        assert pad.x >= -TINY
        assert pad.y >= -TINY
        assert pad.x + pad.length <= length / 100 + TINY
        assert pad.y + pad.width <= width / 100 + TINY


def test_five_blocks_hold_what_straight_cuts_do_not():
    """The pinwheel: four 2 × 1 round a unit hole on 3 × 3; straight cuts leave room for as many there, but not on
    5 × 5 for 3 × 2, where four stand round the hole and straight cuts give three.
    """
    assert most_by_force(5, 5, 3, 2) == 3
    made = pads_from(0.05, 0.05, 0.03, 0.02)
    assert made.count == 4
    assert made.waste == pytest.approx(1 / 25)


def test_kerf_and_grain_cost_pads():
    assert pads_from(0.2, 0.1, 0.04, 0.02).count == 25
    with_cuts = most_by_force(21, 11, 5, 3)  # a kerf of 10 on two sides of everything
    assert pads_from(0.2, 0.1, 0.04, 0.02, kerf=0.01).count == with_cuts < 25
    assert pads_from(1.0, 0.5, 0.3, 0.45, turns=False).count == 3
    assert sheets_for(7, pads_from(1.0, 0.5, 0.45, 0.3)) == 3
    with pytest.raises(EntryError):
        sheets_for(1, pads_from(1.0, 0.5, 1.2, 0.3))
    with pytest.raises(EntryError):
        pads_from(1.0, 0.5, 0.01, 0.01)


# -- lengths ---------------------------------------------------------------------------------------------------


@settings(max_examples=60, deadline=None)
@given(st.lists(st.integers(20, 1500), min_size=1, max_size=10), st.lists(st.integers(50, 900), max_size=2))
def test_lengths_hold_their_pieces(sizes, own):
    pieces = [(f"{k}", s / 1000) for k, s in enumerate(sizes)]
    made = cut_lengths(pieces, 1.4, [o / 1000 for o in own], kerf=0.003)
    done = [p for bar in made.bars for p in bar.pieces]
    assert sorted(done + list(made.unfit)) == sorted(pieces)
    assert all(length > 1.4 for _, length in made.unfit)
    for bar in made.bars:
        assert sum(p[1] for p in bar.pieces) + 0.003 * (len(bar.pieces) - 1) <= bar.length + 1e-9
        assert bar.own == (bar.length != 1.4)
    assert sum(bar.own for bar in made.bars) <= len(own)


def test_few_lengths():
    """First fit of the longest takes four lengths of 10 here, three do: 5+3+2, 5+3+2 and 4+4 with no kerf."""
    pieces = [(f"{k}", float(s)) for k, s in enumerate((4, 4, 5, 5, 3, 3, 2, 2, 2))]
    assert cut_lengths(pieces, 10.0, kerf=0.0).bought == 3
    worse = [(f"{k}", s / 100) for k, s in enumerate((44, 24, 24, 22, 21, 17, 8, 8, 6, 6))]  # 180 in all
    assert cut_lengths(worse, 0.6, kerf=0.0).bought == 3
    made = cut_lengths([("a", 1.0), ("b", 0.45), ("c", 0.5)], 3.0, [1.0], kerf=0.002)
    assert {bar.own: [p[0] for p in bar.pieces] for bar in made.bars} == {True: ["a"], False: ["c", "b"]}
    assert made.bars[1].rest == pytest.approx(3.0 - 0.95 - 0.004)
