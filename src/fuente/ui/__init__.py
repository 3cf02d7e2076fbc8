"""The desktop application: the only package that knows Qt."""

import builtins

import PySide6.QtCore  # noqa: F401  it puts its hook in

# Qt's binding follows every import to see whether a module asks for other ways to spell Qt's names, and reads the whole
# source of each for that: a quarter of the start, half of a page's first showing. Nothing here spells them so.
builtins.__import__ = getattr(builtins, "__orig_import__", builtins.__import__)
