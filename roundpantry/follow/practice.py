"""The practice as a whole: how many clients are due, and how they are doing."""

from __future__ import annotations

import csv
import io
from datetime import date, timedelta
from typing import Any

from django.contrib.auth.models import User
from django.db.models import Count, OuterRef, Subquery

from dietetics.follow.course import Course
from roundpantry.clients.records import clients_of
from roundpantry.counter import clock
from roundpantry.counter.dates import day_text
from roundpantry.follow.course_page import weight_of
from roundpantry.follow.records import next_visit, open_flags

RECENT_DAYS = 90  # without a weigh-in for so long nothing is said of the course
SOON_DAYS = 7
MOST_CLIENTS = 300


def _rows(user: User, today: date) -> list[dict[str, Any]]:
    mine = OuterRef("pk")
    found = (
        clients_of(user)
        .filter(archived=False)
        .annotate(
            visit_on=Subquery(next_visit(mine)),
            flag_on=Subquery(open_flags(mine)),
            visit_count=Count("visits", distinct=True),
        )
        .order_by("visit_on", "name")
    )
    return [_row(client, today) for client in found[:MOST_CLIENTS]]


def _row(client: Any, today: date) -> dict[str, Any]:
    weight = weight_of(client)
    recent = weight is not None and today - weight.line.now.day <= timedelta(days=RECENT_DAYS)
    course = weight.judgement.course if weight is not None and recent else Course.UNKNOWN
    return {
        "client": client,
        "goal": client.get_goal_display(),
        "course": course,
        "words": weight.judgement.words if weight is not None and recent else "no recent weigh-in",
        "visit_on": client.visit_on,
        "visit": day_text(client.visit_on) if client.visit_on else "none set",
        "is_overdue": client.visit_on is not None and client.visit_on < today,
        "flag_on": day_text(client.flag_on) if client.flag_on else "",
        "visits": client.visit_count,
        "days_since": (today - weight.line.now.day).days if weight else None,
    }


def practice_page(user: User) -> dict[str, Any]:
    """Counts, and a row a client."""
    today = clock.today()
    rows = _rows(user, today)
    soon = today + timedelta(days=SOON_DAYS)
    counts = [
        ("clients", len(rows)),
        ("visits overdue", sum(row["is_overdue"] for row in rows)),
        (
            f"visits in {SOON_DAYS} days",
            sum(row["visit_on"] is not None and today <= row["visit_on"] <= soon for row in rows),
        ),
        ("blood values outside their range", sum(bool(row["flag_on"]) for row in rows)),
    ]
    courses = [(one.value, sum(row["course"] is one for row in rows)) for one in Course]
    return {"rows": rows, "counts": counts, "courses": [row for row in courses if row[1]]}


def practice_csv(user: User) -> str:
    """A row a client without name, number or date of birth: goal, course, visits, days since the
    last weigh-in.
    """
    today = clock.today()
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(
        ("goal", "course", "visits", "visit_overdue", "value_outside_range", "days_since_weigh_in")
    )
    rows = [
        (
            row["goal"],
            row["course"].value,
            row["visits"],
            "yes" if row["is_overdue"] else "no",
            "yes" if row["flag_on"] else "no",
            "" if row["days_since"] is None else row["days_since"],
        )
        for row in _rows(user, today)
    ]
    writer.writerows(sorted(rows, key=str))  # in no order that would tell who is who
    return out.getvalue()
