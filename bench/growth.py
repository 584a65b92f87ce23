"""How the time of every reader of text grows with its text: a text four times as long takes about
four times the seconds. The tests count lines of Python; only seconds show what a pattern does
inside the library of regular expressions.
"""

from __future__ import annotations

import contextlib
import time

from dietetics.amounts.grammar import forget_amounts
from dietetics.errors import DieteticsError
from dietetics.tests.test_growth import HOSTILE, Reader, readers

SHORTER, LONGER = 2_000, 8_000
MOST_GROWTH = 2.6**2  # linear is 4, quadratic 16
TOO_SHORT_S = 0.01  # less than this is no danger
TRIES = 3


def measured() -> None:
    """Print the readers whose time grows far faster than their text, three times over."""
    pairs, found = 0, []
    for name, reader in readers():
        for piece in HOSTILE:
            pairs += 1
            times = times_the_seconds(reader, piece)
            if times > MOST_GROWTH:
                found.append(f"{name} {piece!r}: {times:.0f} times")
    print(f"text four times as long: {pairs} readers and pieces")
    print(f"  above {MOST_GROWTH:.1f} times the seconds: {len(found)}")
    for line in found:
        print(f"  {line}")


def times_the_seconds(reader: Reader, piece: str) -> float:
    """How many times the seconds a text four times as long takes; 0 where it takes none."""
    texts = [(piece * length)[:length] for length in (SHORTER, LONGER)]
    longer = seconds(reader, texts[1])
    return 0.0 if longer < TOO_SHORT_S else longer / max(seconds(reader, texts[0]), 1e-6)


def seconds(reader: Reader, text: str) -> float:
    """The least processor time of some tries; an error of ours is an answer."""
    least = float("inf")
    for _ in range(TRIES):
        forget_amounts()
        before = time.process_time()
        with contextlib.suppress(DieteticsError):
            reader(text)
        least = min(least, time.process_time() - before)
        if least < TOO_SHORT_S / 10:
            break
    return least
