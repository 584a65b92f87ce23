"""What a run takes of a sweep: a part of it by chance, all of it with `./pantry test --hostile`.

`./pantry test` chooses a new seed each time and prints it; PANTRY_SEED brings a run back as it was.
"""

from __future__ import annotations

import math
import os
import random
from collections.abc import Iterable
from typing import TypeVar

Kind = TypeVar("Kind")
LONG = os.environ.get("PANTRY_HOSTILE") == "long"
# set before the tests are spread over processes, so that all of them have the same
SEED = os.environ.setdefault("PANTRY_SEED", str(random.SystemRandom().randrange(1_000_000)))


def sample(name: str, whole: Iterable[Kind], share: float, least: int = 1) -> list[Kind]:
    """Return a share of `whole` in its order, by the run's seed and the sweep's name; `least`
    of them at least, and everything in the long form.
    """
    items = list(whole)
    if LONG:
        return items
    count = min(len(items), max(least, math.ceil(len(items) * share)))
    chosen = random.Random(f"{SEED}-{name}").sample(range(len(items)), count)
    return [items[n] for n in sorted(chosen)]


def again() -> str:
    """How to see a failure of a sweep again, for its message."""
    return f"again with PANTRY_SEED={SEED}"
