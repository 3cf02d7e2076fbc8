"""Networks of up to 30 cells built and broken at random: always an answer or one clear sentence, never a
hang or a NaN.
"""

import math

import pytest
from hypothesis import Phase, given, settings
from hypothesis import strategies as st

from amounts import LPH
from fuente.errors import FuenteError
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.porous import foam
from fuente.hydraulics.pumps import PumpCurve
from fuente.network import Cell, LevelCurve, Link, Network, settle, steady
from fuente.network.duct import Duct, PumpDuct, Spout
from fuente.network.ducts import Ducts
from fuente.network.laws import Bulkhead, Gap, Pad, Spill, Standpipe, Weir
from fuente.network.model import FLOOR
from fuente.network.supplies import Header, Lines
from fuente.network.transient import Event, transient
from fuente.water.properties import water

STUFF = water(20)
FLOOR_CELL = Cell(FLOOR, "The floor", -1000.0, -999.0, LevelCurve.prism(-1000.0, -999.0, 1e4), sink=True)
PLAIN = (Phase.explicit, Phase.generate)  # a failing system is printed as it is: making it smaller takes minutes
MOST_STEPS = 20_000  # a run that takes more has hung


def build(random, tanks, chambers):
    """A rack over a chain of chambers: every tank drains by a standpipe into a header or the chain, a manifold feeds
    them.
    """
    cells, links, ducts = [], [], []

    def cell(key, floor, height, area):
        cells.append(Cell(key, key, floor, floor + height, LevelCurve.prism(floor, floor + height, area)))
        links.append(Link(f"{key}.spill", "spill", key, FLOOR, Spill(floor + height, 4 * math.sqrt(area)), "spill"))

    ends = []
    crest = 0.34
    for i in range(chambers):
        key = f"c{i}"
        cell(key, 0.0, 0.45, random.uniform(0.02, 0.2))
        ends.append(key)
        if i:
            crest -= random.uniform(0.004, 0.03)
            law = random.choice(
                [
                    Weir(crest, random.uniform(0.1, 0.5), crest),
                    Gap(0.0, 0.3, random.uniform(0.02, 0.06)),
                    Pad(0.0, 0.3, 0.4, 0.05, foam(random.choice([10, 20, 30])), STUFF),
                    Lines(Bulkhead(0.1, Pipe(0.045, 0.1, 1.5)), 2),
                ]
            )
            links.append(Link(f"x{i}", "x", ends[i - 1], key, law, "way"))
    headed = random.random() < 0.5
    if headed:
        bore = 0.0678
        cells.append(Cell("header", "header", 0.7, 2.7, LevelCurve.prism(0.7, 2.7, 0.01)))
        links.append(
            Link("down", "down", "header", "c0", Header(0.7, bore, 0, 0.01, 2.0, Pipe(bore, 0.6, 3), 0.25), "header")
        )
    previous = "m"
    ducts.append(
        PumpDuct(
            "pump",
            "Pump",
            ends[-1],
            "m",
            Pipe(0.04, 2.0, 6.0),
            "pump",
            "",
            curve=PumpCurve(random.uniform(2, 5), random.uniform(800, 9000) * LPH),
            intake=0.06,
            leak=random.choice([0.0, 0.02, 1.0]),
        )
    )
    for i in range(tanks):
        key = f"t{i}"
        floor = 0.9 + 0.45 * random.randrange(4)
        cell(key, floor, 0.3, random.uniform(0.05, 0.4))
        mouth = floor + random.uniform(0.2, 0.27)
        release = 0.7 if headed else 0.25
        pipe = Pipe(random.choice([0.0212, 0.0284, 0.0362]), mouth - release, 4.0)
        drain = Standpipe(mouth, release, pipe, 0.6 * pipe.bore, 1.4 * pipe.bore)
        links.append(Link(f"{key}.drain", "drain", key, "header" if headed else "c0", drain, "drain"))
        node = f"n{i}"
        ducts.append(Duct(f"h{i}", "h", previous, node, Pipe(0.026, random.uniform(0.1, 1), 0.5)))
        outlet = floor + random.uniform(0.05, 0.35)
        hose = Pipe(0.012, 0.4, random.uniform(4, 120))
        ducts.append(
            Spout(
                f"b{i}",
                "b",
                node,
                key,
                hose,
                "branch",
                "",
                random.random() < 0.1,
                outlet,
                outlet + random.choice([0, 0.01]),
            )
        )
        previous = node
    mark = random.uniform(0.1, 0.25)
    ids = [c.id for c in cells]
    return Network((*cells, FLOOR_CELL), tuple(links), {ends[-1]: mark}, (Ducts(ducts, ids),))


def break_one(random, network):
    """Block a drain, stop the pump, or open the check valve."""
    what = random.choice(["pump", "drain", "leak", "valve"])
    group = network.groups[0]
    if what == "drain":
        drains = [k for k in network.links if k.kind == "drain"]
        chosen = random.choice(drains)
        law = chosen.law
        shut = Standpipe(law.mouth, law.release, law.pipe, law.prime_from, law.prime_to, random.choice([0.0, 0.3]))
        return network.replace_links({chosen.id: shut})
    if what == "valve":
        branch = random.choice([d.id for d in group.ducts if d.kind == "branch"])
        return network.like(groups=(group.changed({branch: {"shut": True}}),))
    change = {"pump": {"on": random.random() < 0.3, "leak": random.choice([0.0, 0.02, 1.0])}}
    return network.like(groups=(group.changed(change),))


def sane(network, levels):
    for cell in network.cells:
        assert math.isfinite(levels[cell.id])
        assert levels[cell.id] >= cell.floor - 1e-9


@settings(max_examples=30, phases=PLAIN)
@given(st.integers(1, 18), st.integers(1, 9), st.randoms(use_true_random=False))
def test_random_systems_run_or_say_why(tanks, chambers, random):
    network = build(random, tanks, chambers)
    try:
        run = steady(network)
    except FuenteError as error:
        assert str(error).endswith(".")
        return
    sane(network, run.level)
    assert run.imbalance < 1e-9
    assert all(math.isfinite(q) for q in run.flow.values())


@settings(max_examples=12, phases=PLAIN)
@given(st.integers(1, 12), st.integers(1, 6), st.randoms(use_true_random=False))
def test_random_systems_keep_their_water_when_broken(tanks, chambers, random):
    network = build(random, tanks, chambers)
    try:
        start = steady(network).level
    except FuenteError as error:
        assert str(error).endswith(".")
        return
    faults, now = [], network
    for i in range(random.randrange(1, 4)):
        now = break_one(random, now)
        faults.append(Event(5.0 + 60.0 * i, "break", now))
    steps = 0

    def count(share):
        nonlocal steps
        steps += 1
        assert 0 < share <= 1
        return steps < MOST_STEPS

    history = transient(network, start, 400.0, faults, progress=count)
    assert steps < MOST_STEPS
    total = history.volumes.sum(axis=1)
    assert abs(total - total[0]).max() < 1e-9 * total[0]
    for i, cell in enumerate(network.cells):
        assert history.levels[:, i].min() >= cell.floor - 1e-9


@settings(max_examples=8, phases=PLAIN)
@given(st.integers(1, 8), st.integers(1, 5), st.randoms(use_true_random=False))
def test_random_systems_come_to_rest(tanks, chambers, random):
    network = build(random, tanks, chambers)
    try:
        start = steady(network)
        off = network.like(groups=(network.groups[0].changed({"pump": {"on": False, "leak": 1.0}}),))
        rest = settle(off, start.level)
    except FuenteError as error:
        assert str(error).endswith(".")
        return
    assert rest.total == pytest.approx(start.total, rel=1e-9)
    # At the end nothing pours any more: a film over a mouth or a rim may still drain.
    assert max((abs(q) for q in rest.flow.values()), default=0.0) < 1e-6
