"""The *Why?* drawer: a derivation laid out as an outline, ready for its template."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import HttpResponse
from django.shortcuts import render

from dietetics.composition.derivation import Derivation
from roundpantry.counter.requests import Request


@dataclass(frozen=True)
class OutlineStep:
    """A derivation step with the steps below it already laid out."""

    title: str
    figure: str
    sentence: str
    source: str
    parts: tuple[OutlineStep, ...]
    deep: bool


def outline(step: Derivation, depth: int = 0) -> OutlineStep:
    """Lay out a derivation; steps below the second are folded until asked for."""
    parts = tuple(outline(part, depth + 1) for part in step.parts)
    return OutlineStep(step.title, step.figure, step.sentence, step.source, parts, depth >= 1)


def render_why(request: Request, derivation: Derivation) -> HttpResponse:
    """Answer "Why?" with the drawer, or with a page of its own where the script did not ask."""
    template = (
        "counter/why.html" if request.htmx and not request.htmx.boosted else "counter/why_page.html"
    )
    return render(request, template, {"why": outline(derivation)})
