"""Kinds of device. Each is a folder with five verbs; a new one is a folder and a line here."""

from fuente.devices.hang_on import spec as _hang_on
from fuente.devices.header import spec as _header
from fuente.devices.join import spec as _join
from fuente.devices.manifold import spec as _manifold
from fuente.devices.overflow import spec as _overflow
from fuente.devices.return_line import spec as _return
from fuente.devices.standpipe import spec as _standpipe
from fuente.devices.sump import spec as _sump
from fuente.devices.tank import spec as _tank
from fuente.devices.top_up import spec as _top_up

KINDS = {
    "tank": _tank.Tank,
    "overflow": _overflow.Overflow,
    "standpipe": _standpipe.StandpipeSpec,
    "hang_on": _hang_on.HangOn,
    "header": _header.HeaderSpec,
    "sump": _sump.Sump,
    "join": _join.JoinSpec,
    "return_line": _return.ReturnSpec,
    "manifold": _manifold.Manifold,
    "top_up": _top_up.TopUp,
}
