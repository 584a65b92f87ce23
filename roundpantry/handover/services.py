"""Changes of state of the hand-over: booklets made, links given and withdrawn, answers taken."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta
from hashlib import sha256

from dietetics.errors import DieteticsError
from dietetics.handover.booklet import Booklet, Wishes, booklet_json
from dietetics.targets.needs_table import hides_numbers
from roundpantry.clients.models import Client, Measurement
from roundpantry.counter import clock
from roundpantry.counter.state_changes import one_change
from roundpantry.handover.links import new_nonce
from roundpantry.handover.models import (
    Answered,
    BookletWishes,
    OutboxMessage,
    ShareLink,
    StoredBooklet,
)
from roundpantry.handover.outbox import postbox
from roundpantry.handover.records import stored_booklet
from roundpantry.weeks.models import Week

ALLOWED = ("meals", "shopping", "prep", "remark", "rating", "weight")
MOST_REMARKS_A_DAY = 100  # on one link; of everything else there is one for each place
MOST_REMARK = 1000
LEAST_KG, MOST_KG = 20.0, 350.0
ON_THE_LINK = " on the link"  # what the client sent; what was typed for them stays
RATINGS = (1, 2, 3, 4, 5)
MEAL_WORDS = ("as planned", "partly", "swapped", "skipped")
TAKE_BACK = "take back"  # what was sent, instead of how it went
TAKEN_BACK = timedelta(days=1)  # so long after it was sent
TAKES_BACK = (Answered.MEAL, Answered.REMARK, Answered.WEIGHT)


@one_change
def keep_booklet(week: Week, booklet: Booklet) -> None:
    """Keep a booklet as it was made; made again, it replaces the one before."""
    StoredBooklet.objects.update_or_create(week=week, defaults={"content": booklet_json(booklet)})


@one_change
def keep_wishes(client: Client, wishes: Wishes) -> None:
    """Keep how a client wants their booklet written."""
    facts = {
        "figures": wishes.figures,
        "portions": wishes.portions,
        "energy": wishes.energy,
        "dates": wishes.dates,
        "chosen_knowing": hides_numbers(client.conditions),
    }
    BookletWishes.objects.update_or_create(client=client, defaults=facts)


@one_change
def send_message(client: Client, text: str) -> None:
    """Hand a message for a client to whatever carries messages. Raises DieteticsError."""
    if not text.strip():
        raise DieteticsError("message-empty")
    postbox().send(client, text.strip())


@one_change
def note_passed_on(message: OutboxMessage) -> None:
    """The practitioner has passed the message on by their own means."""
    message.passed_on_at = clock.now()
    message.save(update_fields=["passed_on_at"])


@one_change
def remove_message(message: OutboxMessage) -> None:
    """Take a message out of the outbox."""
    message.delete()


@one_change
def give_link(week: Week, ends_on: date, allows: Sequence[str]) -> ShareLink:
    """A new link to a week's booklet; what was given before stays until it is withdrawn."""
    return ShareLink.objects.create(
        week=week, nonce=new_nonce(), ends_on=ends_on, allows=[a for a in ALLOWED if a in allows]
    )


@one_change
def note_read(week: Week) -> None:
    """The practitioner has seen what came back."""
    Answered.objects.filter(link__week=week, is_read=False).update(is_read=True)


@one_change
def withdraw_link(link: ShareLink) -> None:
    """From now on the link opens nothing, on any device that is online."""
    link.withdrawn_at = clock.now()
    link.save(update_fields=["withdrawn_at"])


@one_change
def open_again(link: ShareLink) -> None:
    """Open a link that a restore closed: the practitioner knows that it was not withdrawn."""
    link.closed_by_restore_at = None
    link.save(update_fields=["closed_by_restore_at"])


@one_change
def note_opened(link: ShareLink) -> None:
    """Count that a link was opened."""
    link.opened += 1
    link.opened_at = clock.now()
    link.save(update_fields=["opened", "opened_at"])


def _answered(link: ShareLink, permission: str) -> Booklet:
    """The booklet that is answered; what is not allowed on this link is refused."""
    if permission not in link.allows:
        raise DieteticsError("answer-not-allowed")
    booklet = stored_booklet(link.week)
    if booklet is None:
        raise DieteticsError("answer-not-allowed")
    return booklet


def _known(is_there: bool) -> None:
    if not is_there:
        raise DieteticsError("answer-place-unknown")


@one_change
def answer_meal(link: ShareLink, place: str, how: str, text: str) -> None:
    """How a meal went. The last answer for a meal stands. Raises DieteticsError."""
    _known(_answered(link, "meals").has_meal(place))
    if how not in MEAL_WORDS:
        raise DieteticsError("answer-unknown", known=", ".join(sorted(MEAL_WORDS)))
    words = f"{how}: {text.strip()}" if text.strip() else how
    Answered.objects.update_or_create(
        link=link,
        kind=Answered.MEAL,
        place=place,
        defaults={"text": words[:MOST_REMARK], "is_read": False},
    )


@one_change
def answer_day(link: ShareLink, day: str) -> None:
    """Every meal of a day that nothing was said of went as planned. Raises DieteticsError."""
    allowed = _answered(link, "meals")
    try:
        number = (date.fromisoformat(day) - link.week.start).days
    except ValueError:
        number = -1
    said = set(link.answers.filter(kind=Answered.MEAL).values_list("place", flat=True))
    places = allowed.meal_places(number)
    _known(bool(places))
    for place in (one for one in places if one not in said):
        Answered.objects.create(link=link, kind=Answered.MEAL, place=place, text=MEAL_WORDS[0])


@one_change
def take_back(link: ShareLink, kind: str, place: str) -> None:
    """Take back what was sent on the link within a day: a meal, a remark, a weight with the
    measurement it made. Raises DieteticsError `answer-past`.
    """
    row = link.answers.filter(kind=kind, place=place, at__gte=clock.now() - TAKEN_BACK).first()
    if row is None or kind not in TAKES_BACK:
        raise DieteticsError("answer-past")
    if kind == Answered.WEIGHT:
        Measurement.objects.filter(
            client=link.week.client,
            kind="weight",
            day=date.fromisoformat(place),
            reported_by=Measurement.CLIENT,
            typed__endswith=ON_THE_LINK,
        ).delete()
    row.delete()


@one_change
def answer_bought(link: ShareLink, food: str, is_bought: bool) -> None:
    """A line of the shopping list ticked, or not. Raises DieteticsError."""
    _known(_answered(link, "shopping").has_food(food))
    _ticked(link, Answered.BOUGHT, food, is_bought)


@one_change
def answer_cooked(link: ShareLink, place: str, is_done: bool) -> None:
    """A step of a cooking evening ticked, or not. Raises DieteticsError."""
    _known(_answered(link, "prep").has_step(place))
    _ticked(link, Answered.COOKED, place, is_done)


def _ticked(link: ShareLink, kind: str, place: str, is_ticked: bool) -> None:
    mine = Answered.objects.filter(link=link, kind=kind, place=place)
    if is_ticked and not mine.exists():
        Answered.objects.create(link=link, kind=kind, place=place)
    elif not is_ticked:
        mine.delete()


@one_change
def answer_remark(link: ShareLink, text: str, day: date) -> None:
    """A remark. The same words on the same day are one, however often they are sent; other words
    never take their place. Raises DieteticsError.
    """
    _answered(link, "remark")
    if not text.strip():
        raise DieteticsError("answer-empty")
    if len(text) > MOST_REMARK:
        raise DieteticsError("answer-too-long", length=len(text), most=MOST_REMARK)
    since = clock.now() - timedelta(days=1)
    today = link.answers.filter(kind=Answered.REMARK, at__gte=since)
    if today.count() >= MOST_REMARKS_A_DAY:
        raise DieteticsError("answer-too-often", most=MOST_REMARKS_A_DAY)
    place = f"{day.isoformat()}-{sha256(text.strip().encode()).hexdigest()[:32]}"
    Answered.objects.update_or_create(
        link=link, kind=Answered.REMARK, place=place, defaults={"text": text.strip()}
    )


@one_change
def answer_rating(link: ShareLink, dish: str, stars: float) -> None:
    """How much a dish was liked, from 1 to 5; the last answer stands. Raises DieteticsError."""
    _known(_answered(link, "rating").has_dish(dish))
    if stars not in RATINGS:
        raise DieteticsError("answer-unknown", known=", ".join(map(str, RATINGS)))
    Answered.objects.update_or_create(
        link=link,
        kind=Answered.RATING,
        place=dish[:60],
        defaults={"number": stars, "is_read": False},
    )


@one_change
def answer_weight(link: ShareLink, kg: float, day: date) -> None:
    """A weight of a day; the last of a day stands. It is a measurement reported by the client.
    Raises DieteticsError.
    """
    _answered(link, "weight")
    if not LEAST_KG <= kg <= MOST_KG:
        raise DieteticsError("answer-weight", kg=kg, least=LEAST_KG, most=MOST_KG)
    Answered.objects.update_or_create(
        link=link,
        kind=Answered.WEIGHT,
        place=day.isoformat(),
        defaults={"number": kg, "is_read": False},
    )
    facts = {"client": link.week.client, "kind": "weight", "day": day}
    facts["reported_by"] = Measurement.CLIENT
    Measurement.objects.filter(**facts, typed__endswith=ON_THE_LINK).delete()
    Measurement.objects.create(**facts, value=kg, typed=f"{kg:g} kg{ON_THE_LINK}")
