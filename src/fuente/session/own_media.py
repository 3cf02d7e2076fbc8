"""The builder's own media as a session keeps them: in the design, and on the shelf for others."""

from __future__ import annotations

from collections.abc import Callable

from fuente.catalogue import Medium
from fuente.devices.base import Edit
from fuente.document.media import OwnMedium, add_own, change_own, remove_own
from fuente.document.system import System
from fuente.session import own_library


class OwnMedia:
    """The shelf of all designs, and what a change of it does to the one that is open."""

    def __init__(self, system: Callable[[], System], edit: Callable[[Edit], bool], restocked: Callable[[], None]):
        """``system`` tells the document now, ``edit`` changes it, ``restocked`` hears that the shelf is another."""
        self.shelf = own_library.all_own()
        self._system, self._edit, self._restocked = system, edit, restocked

    def offered(self) -> list[Medium]:
        """What is on the shelf, as rows of cards offer it."""
        return [m.medium() for m in self.shelf]

    def keep(self, made: OwnMedium) -> bool:
        """Put a medium of the builder's own into the design, and on the shelf for others."""
        own_library.keep(made)
        self._restock()
        return self._edit(add_own(self._system().media, made))

    def change(self, old: OwnMedium, new: OwnMedium) -> None:
        """Other figures for a medium: the old ones stand on no shelf any more."""
        own_library.forget(old)
        own_library.keep(new)
        self._restock()
        if old in self._system().media:
            self._edit(change_own(self._system(), old, new))

    def remove(self, gone: OwnMedium) -> None:
        """Take a medium out of the design and off the shelf."""
        own_library.forget(gone)
        self._restock()
        if gone in self._system().media:
            self._edit(remove_own(self._system().media, gone))

    def _restock(self) -> None:
        self.shelf = own_library.all_own()
        self._restocked()
