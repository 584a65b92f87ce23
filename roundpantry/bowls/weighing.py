"""Weighing as one serves: the pan of the simulated scale, and the weights that settled."""

from __future__ import annotations

from django.contrib.auth.models import User

from dietetics.errors import DieteticsError
from roundpantry.bowls.models import Bowl, BowlPart, ScalePan
from roundpantry.bowls.scale import SimulatedScale
from roundpantry.bowls.services import MOST_SERVED_G, note_served
from roundpantry.counter import clock
from roundpantry.counter.state_changes import one_change


def scale_of(user: User) -> SimulatedScale:
    """The practitioner's scale as it stands."""
    pan = _pan(user)
    return SimulatedScale(pan.load_g, pan.before_g, pan.changed_s, pan.tare_g, pan.started_s)


def _pan(user: User) -> ScalePan:
    pan = ScalePan.objects.filter(practitioner_id=user.pk).first()
    return pan or ScalePan(practitioner_id=user.pk, started_s=clock.seconds())


@one_change
def pour(user: User, grams: float) -> None:
    """Put more on the pan, or take some off (negative); never below nothing."""
    now, pan = clock.seconds(), _pan(user)
    standing = scale_of(user)
    pan.before_g = standing.load_g + (standing.before_g - standing.load_g) * (
        0.0 if now - pan.changed_s > 3 else 0.3
    )
    pan.load_g = max(0.0, min(MOST_SERVED_G * 2, pan.load_g + grams))
    pan.changed_s = now
    pan.save()


@one_change
def tare(user: User) -> None:
    """Take what lies on the pan for nothing."""
    pan = _pan(user)
    pan.tare_g = scale_of(user).raw_g(clock.seconds())
    pan.save()


@one_change
def empty(user: User) -> None:
    """Clear the scale and switch the scale on anew."""
    now = clock.seconds()
    ScalePan.objects.update_or_create(
        practitioner_id=user.pk,
        defaults={
            "load_g": 0.0,
            "before_g": 0.0,
            "changed_s": now - 60,
            "tare_g": 0.0,
            "started_s": now,
        },
    )


@one_change
def take_settled(user: User, bowl: Bowl, part: BowlPart) -> int:
    """Record the settled weight for a part and tare for the next. Raises DieteticsError while the
    scale still moves.
    """
    reading = scale_of(user).reading(clock.seconds())
    if not reading.settled:
        raise DieteticsError("scale-moving", grams=reading.grams)
    if reading.grams <= 0:
        raise DieteticsError("scale-empty", grams=reading.grams)
    note_served(bowl, part, float(reading.grams))
    tare(user)
    return reading.grams
