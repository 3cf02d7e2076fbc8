"""What is wrong with an entry, in one sentence."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, ValidationError

from fuente.units import shown


def first_sentence(error: ValidationError, model: Any, within: str = "") -> str:
    """What is wrong first, in words, and where; ``model`` is what was being made."""
    first = error.errors(include_url=False)[0]
    message = first["msg"].removeprefix("Value error, ")
    where = within + " → ".join(_place(part) for part in first["loc"])
    if first["type"] == "value_error":
        return message
    limits = {"greater_than_equal": ("ge", "at least"), "less_than_equal": ("le", "at most")}
    if first["type"] in limits:
        key, words = limits[first["type"]]
        label, quantity = _field(first["loc"], model)
        limit = float(first["ctx"][key])
        value = shown(limit, quantity) if quantity else f"{limit:g}"
        return f"{label or where} must be {words} {value}."
    counts = {"too_short": ("min_length", "at least"), "too_long": ("max_length", "at most")}
    kind = first["type"].removeprefix("string_")
    if kind in counts:
        key, words = counts[kind]
        label = _field(first["loc"], model)[0] or where
        of = " letters" if kind != first["type"] else ""
        return f"{label[:1].upper()}{label[1:]} must have {words} {first['ctx'][key]}{of}."
    return f"{where or 'The design'}: {message[:1].lower()}{message[1:]}."


def _place(part: int | str) -> str:
    return str(part + 1) if isinstance(part, int) else str(part).replace("_", " ")


def _field(location: tuple[int | str, ...], model: Any) -> tuple[str, str]:
    """Label and quantity of a field by its location in a model."""
    node: Any = model
    label, quantity = "", ""
    for part in location:
        if isinstance(part, int):
            continue
        fields = getattr(node, "model_fields", None)
        if not fields or part not in fields:
            return label, quantity
        info = fields[part]
        extra = info.json_schema_extra if isinstance(info.json_schema_extra, dict) else {}
        label = str(extra.get("label") or part.replace("_", " ").capitalize())
        quantity = str(extra.get("quantity") or "")
        node = _model_of(info.annotation)
    return label, quantity


def _model_of(annotation: Any) -> Any:
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return annotation
    for arg in getattr(annotation, "__args__", ()):
        found = _model_of(arg)
        if found is not None:
            return found
    return None
