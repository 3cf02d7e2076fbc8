"""The first filling through a float."""

from __future__ import annotations

from fuente.devices.pieces import FirstRun, note
from fuente.devices.site import Site
from fuente.devices.top_up.spec import TopUp


def commission(spec: TopUp, site: Site) -> tuple[FirstRun, ...]:
    """Let it fill until it throttles; lift it, and hold it down."""
    return (
        FirstRun(
            f"{spec.id}.float",
            "Try the float",
            0,
            note("Let the top-up fill until it throttles; then lift its float by hand"),
            note("it shuts dry; under the float a finger's gap is left, so that nothing holds it down"),
            10,
        ),
    )
