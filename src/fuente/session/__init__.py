"""The open document as a window works on it, without any toolkit."""

from fuente.session.aside import checked_aside, fix_aside, remedies_aside
from fuente.session.listener import Listener
from fuente.session.session import Session

__all__ = ["Listener", "Session", "checked_aside", "fix_aside", "remedies_aside"]
