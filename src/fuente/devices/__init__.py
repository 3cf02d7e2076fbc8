"""Kinds of device. Each is a folder with five verbs; a new one is a folder and a line here."""

from fuente.devices.overflow import spec as _overflow
from fuente.devices.return_line import spec as _return
from fuente.devices.sump import spec as _sump
from fuente.devices.tank import spec as _tank

KINDS = {"tank": _tank.Tank, "overflow": _overflow.Overflow, "sump": _sump.Sump, "return_line": _return.ReturnSpec}
