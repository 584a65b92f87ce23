"""Work counted in lines of Python that are walked: the same on every machine, busy or not."""

from __future__ import annotations

import contextlib
import sys
from collections.abc import Callable
from functools import _lru_cache_wrapper, cache
from types import FrameType
from typing import Any

from dietetics.errors import DieteticsError

WORTH_ASKING = 4_000  # lines; a text that takes fewer is no danger, and its ratio says little


def lines_walked(action: Callable[[], object]) -> int:
    """How many lines of Python an action walks through; an error of ours ends it like an answer."""
    walked = 0

    def count(frame: FrameType, event: str, argument: object) -> Any:
        nonlocal walked
        walked += event == "line"
        return count

    forget_texts()
    before = sys.gettrace()
    sys.settrace(count)
    try:
        with contextlib.suppress(DieteticsError):
            action()
    finally:
        sys.settrace(before)
    return walked


def times_the_work(read: Callable[[str], object], piece: str, size: int, times: int) -> float:
    """How many times the lines a text `times` as long takes; 0 where it takes few at all."""
    texts = [(piece * length)[:length] for length in (size, size * times)]
    lines_walked(lambda: read(texts[0]))  # tables are read from their files once, not each time
    long = lines_walked(lambda: read(texts[1]))
    return 0.0 if long < WORTH_ASKING else long / max(1, lines_walked(lambda: read(texts[0])))


def forget_texts() -> None:
    """Empty every memory of the core that is kept by what it was asked (tables stay)."""
    core = [one for one in sys.modules if one.startswith("dietetics.") and ".tests" not in one]
    for memory in _memories(tuple(core)):
        memory.cache_clear()


@cache
def _memories(modules: tuple[str, ...]) -> list[_lru_cache_wrapper[Any]]:
    loaded = [vars(sys.modules[name]) for name in modules]
    found = [one for held in loaded for one in held.values() if isinstance(one, _lru_cache_wrapper)]
    return [one for one in found if one.__wrapped__.__code__.co_argcount]
