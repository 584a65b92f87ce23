"""The client's side: one booklet, by a link, without a login. Nothing else of the client is shown.
That nothing is kept by caches on the way and no address is told to anybody is seen to for every
answer under /s/, whatever its status, by `config.middleware.SameHeaders`.
"""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.contrib.auth.decorators import login_not_required
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_POST, require_safe

from dietetics.errors import DieteticsError
from dietetics.handover.booklet import Booklet
from dietetics.targets.measurements import read_weight_kg
from roundpantry.counter import clock
from roundpantry.counter.addresses import client_address
from roundpantry.counter.dates import dates_written
from roundpantry.counter.requests import Request
from roundpantry.handover import services
from roundpantry.handover.booklet_page import page_of
from roundpantry.handover.calendar_of_link import booklet_calendar
from roundpantry.handover.forms import DAY, AnswerForm
from roundpantry.handover.links import guesses_too_often, link_of, note_wrong, today_of, zone_of
from roundpantry.handover.models import Answered, ShareLink
from roundpantry.handover.records import booklet_made_at, stored_booklet

MADE = "X-Booklet"  # when the booklet was made: the phone keeps it from that; or that there is none
NO_BOOKLET = "none"
# The place of the page in which an answer is given; a meal's is where its day stands.
PLACES = {Answered.BOUGHT: "shop", Answered.COOKED: "cook", Answered.MEAL: "today", DAY: "today"}


def _opened(request: Request, token: str) -> tuple[ShareLink | None, HttpResponse | None]:
    """The link of a token, or what is answered to one that opens nothing. Whoever guesses is slowed
    down; a right link opens all the same.
    """
    link = link_of(token)
    if link is not None:
        return link, None
    asked_by = client_address(request)
    if guesses_too_often(asked_by):
        return None, _nothing(request, "handover/wait.html", 429)
    note_wrong(asked_by)
    return None, _nothing(request)


def _nothing(
    request: Request, template: str = "handover/gone.html", status: int = 404
) -> HttpResponse:
    """A page that says why nothing is shown, with the words that were sent, to be copied."""
    words = _typed(request)
    response = render(request, template, {"words": words["text"] or words["kg"]}, status=status)
    response[MADE] = NO_BOOKLET
    return response


@login_not_required
@require_safe
def shared(request: Request, token: str) -> HttpResponse:
    """The booklet on a phone."""
    link, refused = _opened(request, token)
    if link is None:
        assert refused is not None
        return refused
    services.note_opened(link)
    return _shown(request, link, token)


def _shown(request: Request, link: ShareLink, token: str, problem: str = "") -> HttpResponse:
    booklet, made_at = stored_booklet(link.week), booklet_made_at(link.week)
    if booklet is None:
        return _nothing(request)
    answers = list(link.answers.all())
    since = clock.now() - services.TAKEN_BACK
    meals = {one.place: one for one in answers if one.kind == Answered.MEAL}
    bought = {one.place for one in answers if one.kind == Answered.BOUGHT}
    cooked = {one.place for one in answers if one.kind == Answered.COOKED}
    cards = {one.card.letter: one for one in page_of(booklet).cards}
    today = today_of(link)
    dates = [link.week.start + timedelta(days=d) for d in range(len(booklet.days))]
    opened = today if today in dates else dates[0] if dates else today
    typed = _typed(request) if problem else {}
    # a meal of another day that was refused is shown where it was typed
    typed_day = typed["place"].partition("-")[0] if typed.get("kind") == Answered.MEAL else ""
    days: list[dict[str, Any]] = [
        {
            "day": day,
            "iso": dates[d].isoformat(),
            "is_now": dates[d] == opened,
            "is_open": dates[d] == opened or str(d) == typed_day,
            "is_today": dates[d] == today,
            "reminders": [one for one in booklet.reminders if max(0, one.day) == d],
            "meals": [
                {
                    "meal": meal,
                    "place": f"{d}-{m}",
                    "answered": meals.get(f"{d}-{m}"),
                    "how": meals[f"{d}-{m}"].text.partition(": ")[0] if f"{d}-{m}" in meals else "",
                    "cards": [cards[s.letter] for s in meal.servings if s.letter in cards],
                }
                for m, meal in enumerate(day.meals)
            ],
        }
        for d, day in enumerate(booklet.days)
    ]
    day_now = next((row for row in days if row["is_now"]), None)
    is_elsewhere = any(row["is_open"] and not row["is_now"] for row in days)
    left = [one for one in day_now["meals"] if _is_left(one)] if day_now is not None else []
    context = {
        "booklet": booklet,
        "day_now": day_now,
        "other_days": [row for row in days if row is not day_now],
        "next_meal": left[0] if left and day_now and day_now["is_today"] else None,
        "is_open_day": bool(left),
        "bought": bought,
        "evenings": _evenings(booklet, cooked),
        "allows": link.allows,
        "hows": services.MEAL_WORDS,
        "token": token,
        "problem": problem,
        "typed": typed,
        "shown": "week" if is_elsewhere else PLACES.get(typed["kind"], "ask") if typed else "",
        "today": today.isoformat(),
        "ratings": _ratings(booklet, answers),
        "remarks": [one for one in answers if one.kind == Answered.REMARK],
        "weights": [one for one in answers if one.kind == Answered.WEIGHT and one.at >= since],
        "since": since,
        "take_back": services.TAKE_BACK,
        "ends_on": link.ends_on,
    }
    status = 422 if problem else 200
    with dates_written(booklet.dates), timezone.override(zone_of(link)):
        response = render(request, "handover/shared.html", context, status=status)
    response[MADE] = made_at
    return response


def _is_left(row: dict[str, Any]) -> bool:
    """True for a meal that is planned and not answered yet."""
    return bool(row["meal"].servings) and row["answered"] is None


def _evenings(booklet: Booklet, cooked: set[str]) -> list[dict[str, Any]]:
    """The cooking evenings with their lines: clock, minutes after the start, words, ticked."""
    found: list[dict[str, Any]] = []
    for e, evening in enumerate(booklet.evenings):
        minutes = evening.minutes or (None,) * len(evening.lines)
        rows = []
        for n, (line, minute) in enumerate(zip(evening.lines, minutes, strict=True)):
            at, _, words = line.partition("  ")
            place = f"{e}-{n}"
            done = place in cooked
            row = {"at": at, "words": words, "minute": minute, "place": place, "done": done}
            rows.append(row)
        is_over = all(row["done"] for row in rows)
        is_open = not is_over and not any(one["is_open"] for one in found)
        found.append({"evening": evening, "rows": rows, "number": e, "is_open": is_open})
    return found


def _typed(request: Request) -> dict[str, str]:
    """What was sent and refused: it stays in the field it was typed into."""
    names = ("kind", "place", "text", "kg")
    return {name: str(request.POST.get(name, ""))[:2000] for name in names}


def _ratings(booklet: Booklet, answers: list[Answered]) -> list[dict[str, Any]]:
    """The dishes of the week, each with how much it was liked."""
    given = {one.place: one.number for one in answers if one.kind == Answered.RATING}
    names = {s.name for day in booklet.days for meal in day.meals for s in meal.servings}
    return [{"name": name, "stars": given.get(name[:60])} for name in sorted(names)]


@login_not_required
@require_safe
def calendar(request: Request, token: str) -> HttpResponse:
    """The week's meals and cooking as a calendar that a program can ask for again and again."""
    link, refused = _opened(request, token)
    booklet = stored_booklet(link.week) if link is not None else None
    if link is None or booklet is None:
        return refused or _nothing(request)
    content = booklet_calendar(booklet, link)
    return HttpResponse(content, content_type="text/calendar; charset=utf-8")


@csrf_exempt
@login_not_required
@require_POST
def answer(request: Request, token: str) -> HttpResponse:
    """Something the client reports. It changes no plan.

    What may be done here rests on the address alone, on no cookie: whoever knows it may answer, and
    nobody else can make a browser answer. So there is no token of a form that a phone without
    cookies, or a page that was kept for days, could lack; a browser that says that another site
    sent the form is refused.
    """
    if request.headers.get("Sec-Fetch-Site") == "cross-site":
        return _nothing(request, "handover/other_site.html", 403)
    link, refused = _opened(request, token)
    if link is None:
        assert refused is not None
        return refused
    form = AnswerForm(request.POST)
    if not form.is_valid():
        return _shown(request, link, token, "Not understood, so nothing was saved.")
    given = form.cleaned_data
    try:
        _taken(link, given)
    except DieteticsError as error:
        return _shown(request, link, token, str(error))
    has_own_place = given["kind"] in (Answered.MEAL, Answered.BOUGHT, Answered.COOKED)
    place = PLACES.get(given["kind"], "ask")
    anchor = f"{given['kind']}-{given['place']}" if has_own_place else place
    return redirect(f"/s/{token}/#{anchor}")


def _taken(link: ShareLink, given: dict[str, Any]) -> None:
    """Keep one answer, or take one back. Raises DieteticsError."""
    if given["how"] == services.TAKE_BACK:
        services.take_back(link, given["kind"], given["place"])
    elif given["kind"] == Answered.MEAL:
        services.answer_meal(link, given["place"], given["how"], given["text"])
    elif given["kind"] == DAY:
        services.answer_day(link, given["place"])
    elif given["kind"] == Answered.BOUGHT:
        services.answer_bought(link, given["place"], given["how"] == "yes")
    elif given["kind"] == Answered.COOKED:
        services.answer_cooked(link, given["place"], given["how"] == "yes")
    elif given["kind"] == Answered.REMARK:
        services.answer_remark(link, given["text"], today_of(link))
    elif given["kind"] == Answered.RATING:
        services.answer_rating(link, given["place"], given["stars"])
    else:
        if not given["kg"].strip():
            raise DieteticsError("answer-empty")
        services.answer_weight(link, read_weight_kg(given["kg"]), today_of(link))


@login_not_required
@require_safe
def worker(request: Request, token: str) -> HttpResponse:
    """The small script that keeps the page for when there is no network. It knows only this link's
    own address.
    """
    _, refused = _opened(request, token)
    if refused is not None:
        return refused
    return render(
        request, "handover/worker.js.txt", {"token": token}, content_type="text/javascript"
    )
