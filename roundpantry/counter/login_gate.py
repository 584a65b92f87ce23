"""Guessing at passwords, slowed down before anything is hashed.

Wrong tries are counted by the name that was tried and by the address they came from, each apart;
after a few, both have to wait, twice as long every time. Who logged in with this browser before is
known by a signed cookie and counted apart: a stranger cannot lock a practitioner out. Nor can one
with a new device: an address that has not failed today has one try, however long the name waits.

Names and addresses are stored as digests: people type passwords into the field for the name.
Hashing a password takes a third of a second of one core, so that only some are hashed at once, over
all processes, and pages stay quick. No package that we know does more than count and lock.
"""

from __future__ import annotations

import fcntl
import os
import time
from collections import deque
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from pathlib import Path
from threading import BoundedSemaphore

from django.conf import settings
from django.core.signing import BadSignature, Signer
from django.http import HttpResponse
from django.utils.crypto import salted_hmac

from roundpantry.counter import clock
from roundpantry.counter.addresses import client_address
from roundpantry.counter.models import WrongLogins
from roundpantry.counter.requests import Request
from roundpantry.counter.state_changes import one_change

NAME, ADDRESS, DEVICE = "name", "address", "device"
FREE = {NAME: 5, ADDRESS: 20, DEVICE: 5}  # a practice shares an address, and everybody mistypes
MOST_WAIT_S = 900
FORGOTTEN = timedelta(days=1)
COOKIE, COOKIE_S = "known-device", 400 * 24 * 3600
SALT = "roundpantry.counter.login_gate"
HASHING_AT_ONCE = max(1, (os.cpu_count() or 2) - 1)
WAIT_TO_HASH_S, LOOK_AGAIN_S = 8.0, 0.02
_WAITING, _KNOWN_WAITING = BoundedSemaphore(1), BoundedSemaphore(1)  # of this process
_shut_until: dict[str, float] = {}  # by address, for this process
MOST_SHUT = 10_000
PAGES_A_SECOND = 3  # of refusals; a flood of tries is answered with a line of text
_refused: deque[float] = deque(maxlen=PAGES_A_SECOND)


class BusyError(Exception):
    """So many passwords are being checked that this one is not; the caller comes back later."""


def seconds_to_wait(failures: int, free: int) -> int:
    """How long to wait after so many wrong tries in a row: nothing for the free ones, then 2, 4, 8
    seconds and so on, up to a quarter of an hour.

    >>> [seconds_to_wait(n, 5) for n in (4, 5, 6, 7, 99)]
    [0, 2, 4, 8, 900]
    """
    over = failures - free
    return 0 if over < 0 else min(2 ** (min(over, 20) + 1), MOST_WAIT_S)


def wait_before(request: Request, name: str) -> int:
    """For how many seconds from now a try with this name is refused; 0 where it is looked at."""
    if is_known_device(request, name):
        return _left(DEVICE, _device_of(request, name))
    address = client_address(request)
    by_address = _left(ADDRESS, address)
    if not by_address and _failures(ADDRESS, address) == 0:
        return 0
    return max(by_address, _left(NAME, _plain(name)))


def is_address_waiting(request: Request) -> bool:
    """Whether the address itself has to wait, whatever name it tries."""
    return _left(ADDRESS, client_address(request)) > 0


@one_change
def note_wrong(request: Request, name: str) -> None:
    """Count a wrong try."""
    if is_known_device(request, name):
        _count(DEVICE, _device_of(request, name))
    else:
        _count(ADDRESS, client_address(request))
        _count(NAME, _plain(name))
    WrongLogins.objects.filter(last_at__lt=clock.now() - FORGOTTEN).delete()


@one_change
def note_right(request: Request, name: str) -> None:
    """Forget the wrong tries of somebody who has shown who they are. Those from their address may
    be somebody else's, and stay.
    """
    keys = [_digest(NAME, _plain(name))]
    if is_known_device(request, name):
        keys = [_digest(DEVICE, _device_of(request, name))]
    WrongLogins.objects.filter(key__in=keys).delete()


def remember_device(response: HttpResponse, name: str) -> None:
    """Let this browser show later that this practitioner has logged in with it."""
    device = f"{_digest(NAME, _plain(name))}.{os.urandom(9).hex()}"
    response.set_cookie(
        COOKIE,
        Signer(salt=SALT).sign(device),
        max_age=COOKIE_S,
        secure=settings.SESSION_COOKIE_SECURE,
        httponly=True,
        samesite="Lax",
        path="/login/",
    )


def is_known_device(request: Request, name: str) -> bool:
    """Whether this practitioner has logged in with this browser before."""
    return _device_of(request, name) != ""


def is_a_flood() -> bool:
    """Whether this process has refused more tries in the last second than people make: the next is
    answered as cheaply as can be.
    """
    now = time.monotonic()
    flood = len(_refused) == PAGES_A_SECOND and now - _refused[0] < 1.0
    _refused.append(now)
    return flood


def forget_in_this_process() -> None:
    """Forget what this process alone remembers, so that a test begins anew."""
    _refused.clear()
    _shut_until.clear()


def shut_out(request: Request, wait_s: int) -> None:
    """Remember in this process that an address waits, so that its next try costs nothing."""
    if len(_shut_until) >= MOST_SHUT:
        _shut_until.clear()
    _shut_until[client_address(request)] = clock.seconds() + wait_s


def seconds_shut(request: Request) -> int:
    """For how many seconds more this process refuses an address without looking at anything; 0 for
    one that is not known to wait, and for a browser that may be a practitioner's.
    """
    left = _shut_until.get(client_address(request), 0.0) - clock.seconds()
    return 0 if left <= 0 or request.COOKIES.get(COOKIE) else -int(-left // 1)


@contextmanager
def place_to_hash(is_known: bool = False) -> Iterator[None]:
    """One of the places in which passwords are hashed, over all processes of the program. Raises
    BusyError where none becomes free. One thread of a process waits for strangers and one for known
    browsers; the others have pages to show.
    """
    waiting = _KNOWN_WAITING if is_known else _WAITING
    if not waiting.acquire(blocking=False):
        raise BusyError
    try:
        place = _place_in_time()
        try:
            yield
        finally:
            os.close(place)
    finally:
        waiting.release()


def _place_in_time() -> int:
    ends = time.monotonic() + WAIT_TO_HASH_S
    while (place := _free_place()) is None:
        if time.monotonic() > ends:
            raise BusyError
        time.sleep(LOOK_AGAIN_S)
    return place


def _free_place() -> int | None:
    """A place to hash that nobody holds, held from now on until it is closed."""
    for number in range(HASHING_AT_ONCE):
        file = Path(settings.HOME) / f".hashing-{number}"
        place = os.open(file, os.O_RDWR | os.O_CREAT, 0o600)
        try:
            fcntl.flock(place, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            os.close(place)
        else:
            return place
    return None


def _plain(name: str) -> str:
    return name.strip().casefold()


def _device_of(request: Request, name: str) -> str:
    """The number of a browser that this practitioner has logged in with; "" for others."""
    try:
        device = Signer(salt=SALT).unsign(request.COOKIES.get(COOKIE, ""))
    except BadSignature:
        return ""
    whose, _, number = device.partition(".")
    return number if whose == _digest(NAME, _plain(name)) else ""


def _digest(kind: str, value: str) -> str:
    return salted_hmac(f"{SALT}.{kind}", value, algorithm="sha256").hexdigest()[:40]


def _row(kind: str, value: str) -> WrongLogins | None:
    since = clock.now() - FORGOTTEN
    return WrongLogins.objects.filter(key=_digest(kind, value), last_at__gte=since).first()


def _failures(kind: str, value: str) -> int:
    row = _row(kind, value)
    return row.count if row is not None else 0


def _left(kind: str, value: str) -> int:
    """Seconds that a name, an address or a device still waits."""
    row = _row(kind, value)
    if row is None:
        return 0
    ends = row.last_at + timedelta(seconds=seconds_to_wait(row.count, FREE[kind]))
    return max(0, -int(-(ends - clock.now()).total_seconds() // 1))


def _count(kind: str, value: str) -> None:
    row = _row(kind, value)
    WrongLogins.objects.update_or_create(
        key=_digest(kind, value), defaults={"count": (row.count if row else 0) + 1}
    )
