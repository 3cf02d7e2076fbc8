"""Amounts as a builder reads them."""

from fuente.devices.shop import Shop


def test_an_amount_has_its_currency_where_there_is_one():
    assert Shop().in_money(1234.56) == "1\u202f235"
    assert Shop(currency="€").in_money(1234.56) == "1\u202f235 €"
    assert Shop(currency="€").in_money(0.304, 2) == "0.30 €"
