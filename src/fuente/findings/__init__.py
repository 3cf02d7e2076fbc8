"""What Fuente would change: rules over the whole system, ranked."""

from fuente.findings.judge import findings, judge

__all__ = ["findings", "judge"]
