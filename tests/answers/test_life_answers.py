"""Answers about living water, each figure against arithmetic of its own; the command that follows weeks."""

from __future__ import annotations

import json
import math

import pytest

from fuente.answers import ask
from fuente.cli import main
from fuente.demo.nursery import nursery
from fuente.demo.reading_room import reading_room
from fuente.document.files import save
from fuente.errors import FuenteError
from fuente.study.analysis import Analysis
from fuente.study.limits import Limits

DAY = 86400.0
ION = 62.0049 / 14.0067


def close(got, wanted, rel=1e-3):
    assert {k: got[k] for k in wanted} == {k: pytest.approx(v, rel=rel) for k, v in wanted.items()}


def test_oxygen():
    """Tables: 8.26 mg/L at 25 °C, 6.77 with 35 g/kg; at 1 500 m about 0.835 of it."""
    close(ask("oxygen", {"temperature": "25"}), {"saturation": 8.26e-3, "four_fifths": 6.61e-3})
    assert ask("oxygen", {"temperature": "25", "salinity": "35"})["saturation"] == pytest.approx(6.77e-3, rel=5e-3)
    high = ask("oxygen", {"temperature": "25", "altitude": "1500 m"})["saturation"]
    assert high / 8.26e-3 == pytest.approx(0.83, abs=0.01)


def test_drip():
    """10 L a day into 200 L: a twentieth; 1 − e^(−0.05); 1 g of nitrogen a day stands at 1/10 g/L."""
    got = ask(
        "drip", {"volume": "200 L", "rate": "10 L/day", "made": "1 g/day", "nitrate": "100 mg/L", "new": "5 mg/L"}
    )
    stands = 5e-3 + ION * 0.1
    close(
        got,
        {
            "share": 0.05,
            "renewed": 1 - math.exp(-0.05),
            "stands": stands,
            "after": stands + (0.1 - stands) * math.exp(-0.35),
            "litres": 0.07,
        },
    )


def test_water_change():
    got = ask("water-change", {"volume": "300 L", "share": "30 %", "nitrate": "40 mg/L", "new": "5 mg/L", "cold": "15"})
    close(got, {"litres": 0.09, "after": 29.5e-3, "cools": 3.0, "heat": 0.09 * 4.17e6 * 10})


def test_heaters():
    """5.5 · 1.5 + 15 · 0.6 = 17.25 W/K."""
    close(ask("heater", {"glass": "1.5 m2", "surface": "0.6 m2"}), {"watts": 155.25, "each_of_two": 93.15})
    got = ask("heater-stuck", {"volume": "300 L", "glass": "1.5 m2", "surface": "0.6 m2", "watts": "300 W"})
    ends = 20 + 300 / 17.25
    close(got, {"ends": ends, "hours": 0.3 * 4.17e6 / 17.25 * math.log((ends - 25) / (ends - 28))})
    weak = ask("heater-stuck", {"volume": "300 L", "glass": "1.5 m2", "surface": "0.6 m2", "watts": "60 W"})
    assert weak["hours"] == math.inf


def test_evaporation():
    """ASHRAE: A·(p_w − p_a)·0.089/Y in kg/s with kPa, half of it for still water."""
    pressure = {25: 3.169, 20: 2.339}
    rate = 0.6 * (pressure[25] - 0.5 * pressure[20]) * 0.089 / 2450 * 0.5 / 1000
    close(ask("evaporation", {"area": "0.6 m2"}), {"a_day": rate * DAY, "a_week": rate * 7 * DAY}, 5e-3)
    half = ask("evaporation", {"area": "0.6 m2", "cover": "50 %"})["a_day"]
    assert half == pytest.approx(rate * DAY / 2, rel=5e-3)


def test_start_dose():
    """300 L to 2 mg/L: 0.6 g of nitrogen, 0.73 g of ammonia, 7.6 mL of 10 % at 0.957 kg/L; 2.29 g of the salt."""
    got = ask("start-dose", {"volume": "300 L", "ph": "8", "temperature": "25"})
    close(
        got,
        {"nitrogen": 0.6e-3, "solution": 0.6e-3 * 17.031 / 14.007 / 95.7, "salt": 0.6e-3 * 53.49 / 14.007},
        2e-3,
    )
    assert got["free"] == pytest.approx(2e-3 * 0.0537, rel=0.01)


def test_carbon():
    close(ask("carbon", {"volume": "300 L"}), {"mass": 0.3, "half": 0.15, "swap": 21 * DAY})
    close(ask("carbon", {"volume": "300 L", "dose": "2", "life": "30 days"}), {"mass": 0.6, "swap": 15 * DAY})


def test_hours_of_air():
    """6 g of feed a day: 3.9 + 4.57 · 0.2484 g of oxygen; half a metre a day through 0.6 m², 1.126 for the warmth."""
    got = ask("hours-of-air", {"volume": "300 L", "surface": "0.6 m2", "feed": "6 g/day"})
    use = (6 * 0.65 + 4.57 * 6 * 0.45 * 0.092) * 1e-3 / DAY
    takes = 0.6 * 0.5 / DAY * 1.024**5
    full = 8.2635e-3
    ends = full - use / takes
    hours = 0.3 / takes * math.log((0.9 * full - ends) / (4e-3 - ends))
    close(got, {"use": use, "hours": hours}, 2e-3)
    assert got["half_stock"] > 2 * got["hours"]
    missing = use - takes * (full - 4e-3)
    assert got["battery"] == pytest.approx(missing / (0.279 * 0.02 * 0.5 * (1 - 4e-3 / full)), rel=2e-3)
    light = ask("hours-of-air", {"volume": "300 L", "surface": "0.6 m2", "feed": "0.3 g/day"})
    assert light["hours"] == math.inf
    assert light["battery"] == 0


def test_carries():
    """20 m² at 0.5 mg/L and 25 °C: 20 · 0.5^0.7 · 1.07^7 g of nitrogen, over 0.0414."""
    turned = 20 * 0.5**0.7 * 1.07**7 * 1e-3 / DAY
    close(ask("carries", {"area": "20 m2"}), {"nitrogen": turned, "feed": turned / (0.45 * 0.092)})
    # At 3 mg/L the 6 mg/L of oxygen let through no more than (6 − 0.5)/3.2.
    rich = ask("carries", {"area": "20 m2", "ammonia": "3 mg/L", "temperature": "18"})
    assert rich["nitrogen"] == pytest.approx(20 * (5.5 / 3.2) ** 0.7 * 1e-3 / DAY, rel=1e-6)


def test_doses_by_the_bottle_and_the_spoon():
    from fuente.life.dosing import dose_of

    litres, salt = dose_of(1e-3, 0.25)
    assert litres == pytest.approx(1e-3 * 17.031 / 14.007 / 0.25 / (998 - 102.5), rel=1e-9)
    assert salt == pytest.approx(3.819e-3, rel=1e-3)


def test_nitrate():
    """6 g of feed a day into 300 L: 1.739 g of nitrogen a week, 7.9 mg/L between limit and new water as nitrogen."""
    got = ask("nitrate", {"volume": "300 L", "feed": "6 g/day"})
    week, room = 6 * 0.45 * 0.092 * 7e-3, 0.3 * 35e-3 / ION
    close(
        got,
        {
            "share": week / room,
            "litres": 0.3 * week / room,
            "drip": week / 7 / room,
            "plants": week / 7 / 0.4e-3,
            "rises": ION * week / 0.3,
        },
    )


@pytest.mark.parametrize(
    ("name", "given", "says"),
    [
        ("nitrate", {"volume": "300 L", "feed": "6 g/day", "limit": "4 mg/L"}, "no change"),
        ("water-change", {"volume": "300 L", "share": "120 %"}, "0 to 100"),
        ("drip", {"volume": "0 L", "rate": "1 L/day"}, "above zero"),
        ("start-dose", {"volume": "300 L", "strength": "60 %"}, "0.5 to 30"),
        ("hours-of-air", {"volume": "3 L", "surface": "1 m2", "feed": "1 g/day", "least": "9 mg/L"}, "at most"),
        ("evaporation", {"area": "1 m2", "cover": "130 %"}, "0 to 100"),
    ],
)
def test_what_cannot_be_is_said(name, given, says):
    with pytest.raises(FuenteError, match=says):
        ask(name, given)


# -- the command ---------------------------------------------------------------------------------------------------


@pytest.fixture
def file(tmp_path):
    path = tmp_path / "tank.fuente"
    save(reading_room(), path)
    return str(path)


def test_weeks_as_data(file, capsys):
    main(["life", file, "--days", "10", "--start", "fishless", "--json"])
    data = json.loads(capsys.readouterr().out)
    assert data["times"][:2] == [0.0, 21600.0]
    assert data["times"][-1] == 10 * DAY
    tank = data["cells"]["tank"]
    assert set(tank) >= {"ammonia", "nitrite", "nitrate", "oxygen", "alkalinity", "salt", "temperature", "ph", "volume"}
    assert all(len(tank[k]) == len(data["times"]) for k in ("ammonia", "nitrate", "ph"))
    assert data["doses"][0]["time"] == 0.0
    assert [p["cell"] for p in data["places"]] == ["sump.foam.0", "sump.bed"]
    limits = Limits(Analysis(reading_room()))
    assert data["carries"]["feed"] == pytest.approx(limits.carries.feed)
    assert data["places"][1]["most"] == pytest.approx(limits.paces[1].most, rel=1e-6)


def test_weeks_in_words(file, capsys):
    main(["life", file, "--days", "60", "--start", "fishless"])
    words = capsys.readouterr().out
    assert "Animals may come on day" in words
    assert "alkalinity lasts for" in words
    assert "waits for ammonia" in words
    main(["life", file, "--days", "2", "--situation", "power-cut"])
    assert "oxygen from 2." in capsys.readouterr().out


@pytest.mark.parametrize(
    ("more", "says"),
    [
        (["--start", "magic"], "fishless, seeded, bucket, fish, mature"),
        (["--situation", "storm"], "its situations are"),
        (["--days", "9999"], "ten years"),
        (["--days", "soon"], ""),
    ],
)
def test_bad_input_is_one_sentence(file, capsys, more, says):
    assert main(["life", file, *more]) == 2
    error = capsys.readouterr().err
    assert says in error
    assert len(error.strip().splitlines()) == 1


def test_a_rack_of_tubs_is_said_by_tub(tmp_path, capsys):
    path = tmp_path / "nursery.fuente"
    save(nursery(), path)
    main(["life", str(path), "--days", "3"])
    assert capsys.readouterr().out.count("nitrate (NO₃) up to") == 8
