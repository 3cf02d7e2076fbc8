"""The open document as a window works on it, without any toolkit."""

from fuente.session.aside import Solved, checked_aside, fix_aside, remedies_aside, solved_aside
from fuente.session.listener import Listener
from fuente.session.prepared import prepare, prepared
from fuente.session.session import VAST, Session

__all__ = [
    "VAST",
    "Listener",
    "Session",
    "Solved",
    "checked_aside",
    "fix_aside",
    "prepare",
    "prepared",
    "remedies_aside",
    "solved_aside",
]
