"""The practitioner's side: the booklet made and printed, links given, answers read."""

from __future__ import annotations

from datetime import timedelta

from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe

from dietetics.errors import DieteticsError
from dietetics.handover.booklet import REMARK_LINES, REMARKS, Booklet
from dietetics.targets.needs_table import hides_numbers
from roundpantry.counter import clock
from roundpantry.counter.dates import day_text
from roundpantry.counter.forms import problem_of
from roundpantry.counter.long_work import few_at_once
from roundpantry.counter.requests import Request
from roundpantry.handover import services
from roundpantry.handover.booklet_made import booklet_of
from roundpantry.handover.booklet_page import page_of
from roundpantry.handover.everything import everything_of
from roundpantry.handover.forms import ALLOWED_WORDS, BookletForm, LinkForm, MessageForm
from roundpantry.handover.links import is_open, link_days, token_of
from roundpantry.handover.models import Answered, OutboxMessage
from roundpantry.handover.pdf import booklet_pdf
from roundpantry.handover.portion_card import card_page
from roundpantry.handover.records import (
    answers_of,
    closed_links_of,
    links_of,
    outbox_of,
    stored_booklet,
    wishes_of,
)
from roundpantry.shopping.records import trip_of, weeks_bought_for
from roundpantry.weeks.models import Week
from roundpantry.weeks.views import client_or_404, week_or_404

LINK_DAYS, MOST_ANSWERS, MOST_MESSAGES = 14, 400, 200


@require_safe
def of_client(request: Request, client_pk: int) -> HttpResponse:
    """The hand-over of the client's newest week."""
    week = client_or_404(request, client_pk).weeks.first()
    if week is None:
        return render(request, "handover/no_week.html")
    return redirect("handover:week", week.pk)


@require_safe
def week_page(request: Request, pk: int) -> HttpResponse:
    """The booklet of a week, its links, and what came back, which is seen from now on."""
    week = week_or_404(request, pk)
    services.note_read(week)
    return _page(request, week)


def _page(
    request: Request, week: Week, problem: str = "", typed: dict[str, str] | None = None
) -> HttpResponse:
    try:
        booklet = stored_booklet(week)
    except DieteticsError as error:
        booklet, problem = None, problem or str(error)
    today = clock.today()
    first, last = link_days(today)
    hidden = hides_numbers(week.client.conditions)
    rows = [
        {
            "link": link,
            "address": request.build_absolute_uri(f"/s/{token_of(link)}/"),
            "is_open": is_open(link, today),
            "allows": ", ".join(ALLOWED_WORDS[key] for key in link.allows if key in ALLOWED_WORDS),
        }
        for link in links_of(request.user).filter(week=week)
    ]
    context = {
        "week": week,
        "booklet": booklet,
        "wishes": BookletForm(initial=vars(booklet.wishes if booklet else wishes_of(week.client))),
        "household": weeks_bought_for(request.user, week, trip_of(week).also)[1:],
        "links": rows,
        **_came_back(week, booklet),
        "allowed": [
            (key, words, not (hidden and key == Answered.WEIGHT))
            for key, words in ALLOWED_WORDS.items()
        ],
        "hidden": hidden,
        "ends_on": max(week.start + timedelta(days=LINK_DAYS), first).isoformat(),
        "first_end": first.isoformat(),
        "last_end": last.isoformat(),
        "draft": (typed or {}).get("text") or _draft(week, rows),
        "in_outbox": outbox_of(request.user).filter(client=week.client).first(),
        "problem": problem,
        "typed": typed or {},
    }
    return render(request, "handover/week.html", context, status=422 if problem else 200)


def _came_back(week: Week, booklet: Booklet | None) -> dict[str, object]:
    """What the client answered, in words; ticks of the shopping list as a count."""
    lines = {key for s in booklet.shopping for key, _ in s.lines} if booklet else set()
    told, bought, cooked = [], 0, 0
    steps = sum(len(evening.lines) for evening in booklet.evenings) if booklet else 0
    for one in answers_of(week)[:MOST_ANSWERS]:
        if one.kind == Answered.BOUGHT:
            bought += one.place in lines
        elif one.kind == Answered.COOKED:
            cooked += 1
        elif one.kind == Answered.MEAL:
            told.append((one.at, f"{_meal_name(booklet, one.place)}: {one.text}"))
        elif one.kind == Answered.RATING:
            told.append((one.at, f"{one.place}: {one.number:g} of 5"))
        elif one.kind == Answered.WEIGHT:
            told.append((one.at, f"weight {one.number:g} kg on {one.place}"))
        else:
            told.append((one.at, f"“{one.text}”"))
    ticked = [f"{bought} of {len(lines)} bought"] if bought else []
    ticked += [f"{cooked} of {steps} steps of cooking done"] if cooked else []
    return {"answers": told, "ticked": ", ".join(ticked)}


def _meal_name(booklet: Booklet | None, place: str) -> str:
    """A meal of the booklet by its place: "Monday breakfast"."""
    day, _, meal = place.partition("-")
    if booklet is not None and day.isdecimal() and meal.isdecimal():
        days = booklet.days[int(day) : int(day) + 1]
        meals = days[0].meals[int(meal) : int(meal) + 1] if days else ()
        if meals:
            return f"{days[0].name} {meals[0].name.lower()}"
    return "a meal"


def _draft(week: Week, rows: list[dict[str, object]]) -> str:
    """A short message to copy. The program sends nothing."""
    address = next((row["address"] for row in rows if row["is_open"]), "")
    first = week.client.name.split()[0]
    words = f"Hello {first}, your week from {day_text(week.start)} is ready"
    return f"{words}: {address}" if address else f"{words}. I will bring it on paper."


@require_POST
@few_at_once
def make(request: Request, pk: int) -> HttpResponse:
    """Make the booklet of a week that was handed over."""
    week, form = week_or_404(request, pk), BookletForm(request.POST)
    if week.frozen_at is None:
        return _page(request, week, "Hand over the week first: a booklet is made of a fixed week.")
    if not form.is_valid():
        return _page(request, week, f"Not made. {problem_of(form)}")
    services.keep_wishes(week.client, form.wishes())
    services.keep_booklet(week, booklet_of(week, form.wishes()))
    return redirect("handover:week", pk)


@require_POST
def message(request: Request, pk: int) -> HttpResponse:
    """Put a message for the client in the outbox."""
    week, form = week_or_404(request, pk), MessageForm(request.POST)
    if not form.is_valid():
        sent = {"text": str(request.POST.get("text", ""))[:4000]}
        return _page(request, week, f"Not put in the outbox. {problem_of(form)}", sent)
    services.send_message(week.client, form.cleaned_data["text"])
    return redirect("handover:outbox")


@require_safe
def outbox(request: Request) -> HttpResponse:
    """Messages that wait to be passed on, and those that were."""
    rows = outbox_of(request.user)[:MOST_MESSAGES]
    return render(request, "handover/outbox.html", {"outbox_messages": rows})


def _message_or_404(request: Request, message_pk: int) -> OutboxMessage:
    found = outbox_of(request.user).filter(pk=message_pk).first()
    if found is None:
        raise Http404("no such message")
    return found


@require_POST
def passed_on(request: Request, message_pk: int) -> HttpResponse:
    """Note that a message was passed on."""
    services.note_passed_on(_message_or_404(request, message_pk))
    return redirect("handover:outbox")


@require_POST
def remove_message(request: Request, message_pk: int) -> HttpResponse:
    """Take a message out of the outbox."""
    services.remove_message(_message_or_404(request, message_pk))
    return redirect("handover:outbox")


@require_safe
def everything(request: Request, client_pk: int) -> HttpResponse:
    """All that is stored about a client, as one file."""
    client = client_or_404(request, client_pk)
    response = HttpResponse(everything_of(client), content_type="application/zip")
    response["Content-Disposition"] = f'attachment; filename="client-{client.pk}.zip"'
    return response


@require_POST
def give_link(request: Request, pk: int) -> HttpResponse:
    """A new link to the booklet."""
    week, form = week_or_404(request, pk), LinkForm(request.POST)
    if stored_booklet(week) is None:
        return _page(request, week, "Make the booklet first: the link shows it.")
    if not form.is_valid():
        sent = {"ends_on": str(request.POST.get("ends_on", ""))[:20]}
        return _page(request, week, f"Not given. {problem_of(form)}", sent)
    services.give_link(week, form.cleaned_data["ends_on"], form.cleaned_data["allows"])
    return redirect("handover:week", pk)


@require_POST
def withdraw(request: Request, pk: int, link_pk: int) -> HttpResponse:
    """Close a link at once."""
    week = week_or_404(request, pk)
    link = links_of(request.user).filter(week=week, pk=link_pk).first()
    if link is None:
        raise Http404("no such link")
    services.withdraw_link(link)
    return redirect("handover:week", pk)


@require_safe
def closed_links(request: Request) -> HttpResponse:
    """The links that a restore closed, to be opened again or withdrawn."""
    return render(request, "handover/closed_links.html", {"links": closed_links_of(request.user)})


@require_POST
def after_restore(request: Request, link_pk: int) -> HttpResponse:
    """Open a link that a restore closed, or withdraw it."""
    link = closed_links_of(request.user).filter(pk=link_pk).first()
    if link is None:
        raise Http404("no such link")
    if request.POST.get("do") == "open":
        services.open_again(link)
    else:
        services.withdraw_link(link)
    return redirect("handover:closed-links")


def _booklet_or_404(request: Request, pk: int) -> tuple[Week, Booklet]:
    week = week_or_404(request, pk)
    booklet = stored_booklet(week)
    if booklet is None:
        raise Http404("no booklet was made of this week")
    return week, booklet


@require_safe
def booklet_page(request: Request, pk: int) -> HttpResponse:
    """The booklet to read and print."""
    week, booklet = _booklet_or_404(request, pk)
    return render(
        request,
        "handover/booklet.html",
        {
            "week": week,
            "booklet": booklet,
            "page": page_of(booklet),
            "remarks": REMARKS,
            "remark_lines": REMARK_LINES,
        },
    )


@require_safe
def portion_card(request: Request) -> HttpResponse:
    """Outlines at true size, to train the eye."""
    return render(request, "handover/portion_card.html", card_page())


@require_safe
def pdf(request: Request, pk: int) -> HttpResponse:
    """The booklet as PDF: A4, or Letter; usual or large type."""
    week, booklet = _booklet_or_404(request, pk)
    letter, large = request.GET.get("paper") == "letter", request.GET.get("type") == "large"
    today = clock.today()
    links = links_of(request.user).filter(week=week)
    link = next((one for one in links if is_open(one, today)), None)
    address = request.build_absolute_uri(f"/s/{token_of(link)}/") if link else ""
    content = booklet_pdf(booklet, letter, large, address)
    response = HttpResponse(content, content_type="application/pdf")
    name = f"week-{week.start.isoformat()}.pdf"
    response["Content-Disposition"] = f'inline; filename="{name}"'
    return response
