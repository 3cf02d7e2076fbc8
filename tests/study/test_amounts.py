"""Rules for how much media, against the parts and by hand."""

from __future__ import annotations

import pytest

from fuente.catalogue import consumables
from fuente.demo.reading_room import reading_room
from fuente.demo.trough import trough
from fuente.devices.base import Change, Edit
from fuente.devices.site import KEPT, OXYGEN
from fuente.document.system import apply, set_value
from fuente.life.load import NITROGEN_OF_PROTEIN, areal_rate
from fuente.study.amounts import LEAST_LIVED_ON, amounts
from fuente.study.carries import carries
from fuente.study.known import analysed


def schools(system, **values):
    return apply(system, Edit("", tuple(Change(("schools", k), v) for k, v in values.items())))


def test_what_there_is_by_the_parts():
    """Three pads of 45 × 33 cm less clearance and 11 L of carriers: litres and dry kilograms."""
    study = analysed(reading_room())
    areal, litres, kilos = amounts(study)
    sump = next(d for d in study.system.devices if d.kind == "sump")
    foam = next(c for c in sump.chambers if c.role == "foam")
    from fuente.devices import kind_of
    from fuente.devices.pieces import Medium, Pad

    pieces = kind_of(sump).parts(sump, study.sites["sump"], study.running).others
    pads = [p for p in pieces if isinstance(p, Pad) and p.thickness and p.length]
    loose = [p for p in pieces if isinstance(p, Medium)]
    assert len(foam.pads) == sum(p.count for p in pads)
    solid = sum(p.count * p.length * p.width * p.thickness for p in pads)
    assert litres.there == pytest.approx(solid + loose[0].bulk)
    medium = study.system.catalogue.medium(loose[0].medium)
    dry = [c.dry for c in consumables() if c.kind == "foam"]
    assert kilos.there == pytest.approx(loose[0].bulk * medium.dry + solid * sum(dry) / len(dry))
    assert areal.there == pytest.approx(next(c for c in carries(study) if not c.device).surface)


def test_what_the_rules_want():
    study = analysed(schools(reading_room(), litres=0.1, kilos=2.0))
    areal, litres, kilos = amounts(study)
    tank = study.system.tanks[0]
    water = study.running.volume["tank"]
    assert litres.wants == pytest.approx(0.1 * water)
    assert kilos.wants == pytest.approx(2.0 * water / 0.1)
    rate = areal_rate(KEPT, tank.temperature, OXYGEN, 0.0)[0]
    assert areal.wants == pytest.approx(tank.fed * tank.protein * NITROGEN_OF_PROTEIN / rate)
    assert not kilos.met
    assert areal.met


def test_how_far_apart_the_rules_are_is_how_far_apart_media_are():
    study = analysed(reading_room())
    _, litres, kilos = amounts(study)
    media = [m for m in study.system.catalogue.media.values() if m.surface >= LEAST_LIVED_ON]
    all_of = [m.surface for m in media] + [c.surface for c in consumables() if c.kind == "foam"]
    assert litres.apart == pytest.approx(max(all_of) / min(all_of))
    by_weight = [m.surface / m.dry for m in media]
    assert kilos.apart == pytest.approx(max(by_weight) / min(by_weight))
    tank = study.system.tanks[0]
    rate = areal_rate(KEPT, tank.temperature, OXYGEN, 0.0)[0]
    assert litres.most == pytest.approx(litres.wants * max(all_of) * rate / (NITROGEN_OF_PROTEIN * tank.protein))


def test_a_claimed_core_is_another_surface():
    outer, core = (amounts(analysed(schools(reading_room(), surface=s)))[1].apart for s in ("outer", "core"))
    assert core != pytest.approx(outer, rel=1e-3)


def test_without_feed_nothing_is_wanted_and_all_is_there():
    system = apply(trough(), set_value("", ("devices", "trough", "feed"), 0.0))
    areal, litres, _ = amounts(analysed(apply(system, set_value("", ("devices", "trough", "heads"), 0))))
    assert areal.wants == 0.0
    assert areal.met
    assert litres.wants > 0
