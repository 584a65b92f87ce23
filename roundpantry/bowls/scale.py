"""A simulated kitchen scale, which stands in where none is attached.

A driver for a real scale needs `reading` alone. The simulated one pours towards its load, is noisy
to the gram, drifts a little while it stands on, and says when it has settled. It is a function of
the clock, so every process that knows what lies on its pan shows the same.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

TICK_S = 0.25
POUR_S = 0.6  # how quickly what is poured arrives
RESTLESS_G, QUIET_G = 1.6, 0.35
DRIFT_G_PER_S, MOST_DRIFT_G = 0.01, 2.0
SETTLED_TICKS, SETTLED_SPAN_G = 4, 1


@dataclass(frozen=True)
class Reading:
    """What a scale shows: whole grams above its tare, and whether it has settled."""

    grams: int
    settled: bool


@dataclass(frozen=True)
class SimulatedScale:
    """A stand-in: `before_g` lay on the pan until `changed_s`, `load_g` since; `tare_g` is taken
    off; on since `started_s`.
    """

    load_g: float
    before_g: float
    changed_s: float
    tare_g: float
    started_s: float

    def raw_g(self, at_s: float) -> float:
        """What presses on the cell, noise and drift included, before the tare is taken off."""
        since = max(0.0, at_s - self.changed_s)
        left = (self.before_g - self.load_g) * math.exp(-since / POUR_S)
        spread = RESTLESS_G if abs(left) > 0.5 else QUIET_G
        drift = min(MOST_DRIFT_G, DRIFT_G_PER_S * max(0.0, at_s - self.started_s))
        return self.load_g + left + spread * _noise(int(at_s / TICK_S)) + drift

    def shown_g(self, at_s: float) -> int:
        """Whole grams on the display."""
        return round(self.raw_g(at_s) - self.tare_g)

    def reading(self, at_s: float) -> Reading:
        """The display, and whether the last readings lie within a gram."""
        last = [self.shown_g(at_s - TICK_S * back) for back in range(SETTLED_TICKS)]
        moving = at_s - self.changed_s < TICK_S * SETTLED_TICKS
        return Reading(last[0], not moving and max(last) - min(last) <= SETTLED_SPAN_G)


def _noise(tick: int) -> float:
    """Between −1 and 1, the same for the same tick everywhere."""
    return ((tick * 1103515245 + 12345) % 2147483648) / 1073741824 - 1
