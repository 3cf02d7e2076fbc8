"""The open document as a window works on it, without any toolkit."""

from fuente.session.session import Listener, Session, checked_aside

__all__ = ["Listener", "Session", "checked_aside"]
