"""Names and remarks in one line, without what other programs read as an end of line or a change of direction."""

from __future__ import annotations

import unicodedata
from typing import Annotated

from pydantic import AfterValidator


def one_line(text: str) -> str:
    """Without control characters and ends of lines, which other programs would read as something else.

    >>> one_line("Left\\ttank\\u2028below ")
    'Left tank below'
    """
    if text.isprintable() and "  " not in text and text == text.strip():
        return text
    plain = "".join(" " if unicodedata.category(c) in ("Cc", "Cf", "Cs", "Zl", "Zp") else c for c in text)
    return " ".join(plain.split())


Line = Annotated[str, AfterValidator(one_line)]


def within(name: str) -> str:
    """A name in the middle of a sentence: its first word small where that is written like any word at a beginning.

    >>> within("Foam wall"), within("B3"), within("Sump of Ann"), within("LED hood")
    ('foam wall', 'B3', 'sump of Ann', 'LED hood')
    """
    first = name.split(" ", 1)[0]
    return name[:1].lower() + name[1:] if first[1:] == first[1:].lower() and first[1:2].isalpha() else name
