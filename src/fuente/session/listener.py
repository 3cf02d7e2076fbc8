"""What a session tells whoever shows it."""

from __future__ import annotations

from typing import Protocol

from fuente.devices.base import Finding


class Listener(Protocol):
    """Who shows a session."""

    def changed(self) -> None:
        """Document or analysis are others."""

    def selection_changed(self) -> None:
        """Another station is the subject."""

    def situation_changed(self) -> None:
        """Another situation is shown."""

    def refused(self, sentence: str) -> None:
        """An edit that cannot be."""

    def saved(self) -> None:
        """The file is written, or could not be: see ``save_error``."""

    def save_soon(self) -> None:
        """Call ``autosave`` after a pause without edits."""

    def solve_soon(self) -> None:
        """Call ``solved_aside`` of what is ``coming``, away from the eye, and give its result to ``solved``; until the
        latest is there, again.
        """

    def check_soon(self) -> None:
        """Call ``checked_aside`` after a pause without edits, away from the eye, and give its result to ``checked``."""

    def judge_soon(self) -> None:
        """Call ``judge`` when the eye has had its frame."""

    def try_soon(self) -> None:
        """As ``check_soon``, with ``remedies_aside`` and ``remedied``."""

    def fix_soon(self, finding: Finding) -> None:
        """Call ``fix_aside`` away from the eye, and give the finding and its result to ``fixed``."""

    def stop_check(self) -> None:
        """What is checked aside is of no use any more."""
