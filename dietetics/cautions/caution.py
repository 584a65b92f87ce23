"""What a caution is: how serious, what, why, what to do, whom to ask, and where it is known from."""

from __future__ import annotations

from dataclasses import dataclass

SEVERITIES = ("serious", "warn", "note")  # the most serious first
LOCAL = "Rules differ by place; medical nutrition therapy belongs to licensed practice."


@dataclass(frozen=True)
class Caution:
    """One caution. `measure` grows with what caused it: an acknowledged one comes back when it gets worse."""

    key: str
    severity: str
    text: str
    action: str
    ask: str = ""
    source: str = "common practice"
    measure: float = 0.0

    def comes_back(self, acknowledged_measure: float) -> bool:
        """True when it is worse than when it was acknowledged (by more than a hundredth)."""
        return self.measure > acknowledged_measure * 1.01 + 1e-9
