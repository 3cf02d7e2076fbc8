"""What costs less is really less, and as good."""

from __future__ import annotations

import pytest

from fuente.demo.lantern import lantern
from fuente.demo.reading_room import reading_room
from fuente.devices.base import Change, Edit, Rank
from fuente.document.system import apply
from fuente.findings import findings
from fuente.study.known import analysed
from fuente.units import UnitSystem
from fuente.workshop import cheaper as module
from fuente.workshop.cheaper import cheaper
from fuente.workshop.purchase import purchase


def bad(analysis):
    return {(f.code, f.owner) for f in findings(analysis) if f.rank < Rank.CONSIDER}


@pytest.mark.parametrize("make", [reading_room, lantern])
def test_each_alternative_is_cheaper_and_brings_nothing_bad(make):
    analysis = analysed(make())
    now = purchase(analysis, UnitSystem.METRIC)
    found = cheaper(analysis)
    assert found
    assert [c.saves for c in found] == sorted((c.saves for c in found), reverse=True)
    for each in found:
        other = analysed(apply(analysis.system, each.edit))
        then = purchase(other, UnitSystem.METRIC)
        assert now.total - then.total == pytest.approx(each.saves)
        assert each.saves >= 0.5
        assert bad(other) <= bad(analysis)


def test_a_sheet_of_one_thickness_less():
    """Without any 6 mm panel no 6 mm sheet is bought: 72 for it by the usual price."""
    found = cheaper(analysed(reading_room()))
    assert found[0].words == "with all 6 mm glass panels cut from 8 mm"
    assert found[0].saves == pytest.approx(5.0 * 2.0 * 1.2 * 6)


def test_what_would_break_is_not_cheaper(monkeypatch):
    """Four-millimetre walls cost less and bring a Stop: they are not said; harmless ones beside them are."""
    system = reading_room()
    thin = Edit("Thin", (Change(("devices", "sump", "thickness"), 0.004), Change(("devices", "sump", "bottom"), 0.004)))
    baffles = tuple(
        Change(("devices", "sump", "chambers", c.id, "exit", "thickness"), 0.008)
        for c in system.device("sump").chambers
        if c.exit
    )
    trap = Change(("devices", "sump", "chambers", "trap", "under", "thickness"), 0.008)
    thick = Edit("Thick", (*baffles, trap))
    other = analysed(apply(system, thin))
    assert purchase(other, UnitSystem.METRIC).total < purchase(analysed(system), UnitSystem.METRIC).total
    assert bad(other) - bad(analysed(system))
    monkeypatch.setattr(module, "_alternatives", lambda analysis: iter([(thin, "thin"), (thick, "thick")]))
    assert [c.words for c in cheaper(analysed(system))] == ["thick"]
