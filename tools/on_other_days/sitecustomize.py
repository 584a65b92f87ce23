"""Read by every Python process of tests with the clock set (`./pantry test --on DAY`).

The library that sets the clock (libfaketime 0.9.10) takes a sleep until a moment of the monotonic
clock for one of the clock it has set, and refuses it; a sleep for so long it lets through.
"""

import select
import time


def sleep_for(seconds: float) -> None:
    """Sleep as `time.sleep` does."""
    if seconds < 0:
        raise ValueError("sleep length must be non-negative")
    select.select([], [], [], seconds)


time.sleep = sleep_for
