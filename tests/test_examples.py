"""The worked examples of public physics, with values from tables, charts or by hand, are run."""

import doctest
from importlib import import_module

import pytest

WITH_EXAMPLES = {
    "water.properties": 5,
    "hydraulics.weirs": 1,
    "hydraulics.drains": 1,
    "hydraulics.pipes": 1,
    "hydraulics.header": 1,
    "hydraulics.settling": 1,
    "life.load": 1,
}


@pytest.mark.parametrize(("name", "count"), WITH_EXAMPLES.items())
def test_examples_give_what_they_say(name, count):
    from fuente.water.properties import water

    result = doctest.testmod(import_module(f"fuente.{name}"), extraglobs={"water": water})
    assert result.attempted >= count
    assert result.failed == 0
