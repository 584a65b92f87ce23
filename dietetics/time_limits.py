"""How long a search may take on the clock, for everybody who searches; and a switch that takes the
clock away.

A person waits two seconds at most, so every search minds the clock. A test must not: where the
processor is taken away for a while, an answer would stay unfound that is found on another day.
Without the clock only counts of steps and of nodes end a search, and it ends at the same place on
every machine.
"""

from __future__ import annotations

import math
import time

_SWITCH = {"clock": True}


def now_s() -> float:
    """Seconds of a clock that only runs forward; it stands still where the clock is switched
    off.
    """
    return time.perf_counter() if _SWITCH["clock"] else 0.0


def limit_s(seconds: float) -> float:
    """The seconds a solver may take: a hundredth at least, no limit where the clock is switched
    off.
    """
    return max(seconds, 0.01) if _SWITCH["clock"] else math.inf


def mind_the_clock(clock: bool) -> None:
    """Switch the clock on, as it is in the program, or off, for tests."""
    _SWITCH["clock"] = clock
