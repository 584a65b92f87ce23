"""Values that are worked out once for each state of what they are made from, and kept in memory.

A key holds the whole state (a row's number with the time of its last change, say), so a value that
is found is never stale. Several threads may work out the same value at once; each gets a whole one.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from typing import Any, Generic, TypeVar

Key = TypeVar("Key", bound=Hashable)
Value = TypeVar("Value")
Stamp = TypeVar("Stamp")

_READ: ContextVar[dict[Hashable, Any] | None] = ContextVar("read", default=None)


@contextmanager
def reading() -> Iterator[None]:
    """While one page or one document is put together: what `read_once` reads is read a single time,
    and forgotten at the end.
    """
    if _READ.get() is not None:
        yield
        return
    token = _READ.set({})
    try:
        yield
    finally:
        _READ.reset(token)


@contextmanager
def changing() -> Iterator[None]:
    """While something is changed: everything is read anew, what was read before is forgotten."""
    read = _READ.get()
    token = _READ.set(None)
    try:
        yield
    finally:
        _READ.reset(token)
        if read is not None:
            read.clear()


def read_once(key: Hashable, make: Callable[[], Value]) -> Value:
    """What `make` reads, once for a key inside `reading`, and anew each time outside it."""
    read = _READ.get()
    if read is None:
        return make()
    if key not in read:
        read[key] = make()
    found: Value = read[key]
    return found


class Kept(Generic[Key, Value]):
    """Values by key; all are forgotten when there are `most` of them, which is cheap and rare."""

    def __init__(self, most: int) -> None:
        self.most, self.values = most, dict[Key, Value]()

    def of(self, key: Key, make: Callable[[], Value]) -> Value:
        """The value of a key, made where it is not there."""
        try:
            return self.values[key]
        except KeyError:
            made = make()
        if len(self.values) >= self.most:
            self.values.clear()
        self.values[key] = made
        return made


class Newest(Generic[Stamp, Value]):
    """One value for each owner, made anew when its stamp is another.

    A stamp of large values is a tuple of them: a tuple compares the objects before what they hold.
    """

    def __init__(self, most: int) -> None:
        self.most, self.values = most, dict[int, tuple[Stamp, Value]]()

    def of(self, owner: int, stamp: Stamp, make: Callable[[], Value]) -> Value:
        """The owner's value for this stamp."""
        found = self.values.get(owner)
        if found is not None and found[0] == stamp:
            return found[1]
        made = make()
        if len(self.values) >= self.most:
            self.values.clear()
        self.values[owner] = (stamp, made)
        return made
