"""A timetable held against every rule a second time, sharing nothing with what made it.

Minute by minute: who has hands in what, what stands on which burner, what is in which oven at which
heat. It knows only the tasks, the kitchen and the starts.
"""

from __future__ import annotations

from collections.abc import Mapping

from dietetics.errors import DieteticsError
from dietetics.prep.timetable import OVEN_CHANGE_MIN, PREHEAT_MIN, Timetable

Span = tuple[int, int]


def broken_rules(found: Timetable) -> list[str]:
    """What a timetable breaks, in words; nothing where it can be cooked."""
    asked, starts = found.asked, found.starts
    broken = [f"“{t.text}” has no start" for t in asked.tasks if t.key not in starts]
    if broken:
        return broken
    for task in asked.tasks:
        start = starts[task.key]
        if task.night:
            broken.append(f"“{task.text}” belongs to the evening before")
        if task.key in asked.started:
            if start != asked.started[task.key]:
                broken.append(f"“{task.text}” has begun already and was moved")
            continue
        if start < asked.now:
            broken.append(f"“{task.text}” starts in the past")
        ends = {}
        for key in task.after:
            other = next(t for t in asked.tasks if t.key == key)
            ends[key] = starts[key] + round(other.hands.likely) + round(other.wait.likely)
        if ends and start < max(ends.values()):
            broken.append(f"“{task.text}” starts before what it needs is done")
        behind = ends.get(task.behind, max(ends.values(), default=0))
        too_late = task.within is not None and ends and start > behind + task.within
        if too_late and task.key not in found.late:
            broken.append(f"“{task.text}” comes too late and that is not said")
    pots = [] if asked.started else _big_pots(found)  # a cook who has begun does as they can
    return broken + _crowded(found) + _ovens(found) + pots


def _spans(found: Timetable, device: str) -> list[Span]:
    """When the tasks of a device hold it."""
    spans = []
    for task in found.asked.tasks:
        start = found.starts[task.key]
        hands, wait = round(task.hands.likely), round(task.wait.likely)
        if device == "hands":
            spans.append((start, start + hands))
        elif task.device == device:
            end = start + hands + (0 if device == "blender" else wait)
            spans.append((start, end))
    return spans


def _most_at_once(spans: list[Span]) -> int:
    """The most spans that hold any one minute."""
    minutes: dict[int, int] = {}
    for start, end in spans:
        for minute in range(start, end):
            minutes[minute] = minutes.get(minute, 0) + 1
    return max(minutes.values(), default=0)


def _crowded(found: Timetable) -> list[str]:
    kitchen = found.asked.kitchen
    limits: Mapping[str, int] = {
        "hands": kitchen.cooks,
        "burner": kitchen.burners,
        "blender": kitchen.blenders,
        "pressure cooker": kitchen.pressure_cookers,
        **kitchen.others,
    }
    broken = []
    for device, most in limits.items():
        used = _most_at_once(_spans(found, device))
        if used > most:
            broken.append(f"{device}: {used} at once, there are {most}")
    return broken


def _big_pots(found: Timetable) -> list[str]:
    """Dishes that hold more than three litres on the hob, from the heat until they are shared out,
    and three minutes of washing.
    """
    spans: dict[str, tuple[int, int]] = {}
    for task in found.asked.tasks:
        start, end = found.starts[task.key], found.starts[task.key] + task.minutes
        if task.device == "burner" and task.pot_g > 3000:
            first, last = spans.get(task.dish, (start, end))
            spans[task.dish] = min(first, start), max(last, end)
    for task in found.asked.tasks:
        end = found.starts[task.key] + task.minutes
        for dish in set(task.dishes) & set(spans) if task.verb == "portion" else ():
            spans[dish] = spans[dish][0], max(spans[dish][1], end)
    held = [(start, end + 2) for start, end in spans.values()]
    used = _most_at_once(held)
    there = found.asked.kitchen.big_pots
    return [f"big pots: {used} at once, there are {there}"] if used > there else []


def _ovens(found: Timetable) -> list[str]:
    """Trays and heats of each oven, minute by minute."""
    kitchen = found.asked.kitchen
    trays: dict[tuple[int, int], int] = {}
    heats: dict[int, list[tuple[int, int, float | None, str]]] = {}
    broken = []
    for task in found.asked.tasks:
        if task.device != "oven":
            continue
        oven = found.ovens.get(task.key, -1)
        if not 0 <= oven < kitchen.ovens:
            broken.append(f"“{task.text}” is in no oven")
            continue
        start = found.starts[task.key] + round(task.hands.likely)
        end = start + round(task.wait.likely)
        if start < PREHEAT_MIN and task.key not in found.asked.started:
            broken.append(f"“{task.text}” goes into a cold oven")
        heats.setdefault(oven, []).append((start, end, task.celsius, task.text))
        for minute in range(start, end):
            trays[oven, minute] = trays.get((oven, minute), 0) + task.trays
    if any(used > kitchen.trays for used in trays.values()):
        broken.append("more trays than an oven takes")
    for loads in heats.values():
        broken += _too_close(loads)
    return broken


def _too_close(loads: list[tuple[int, int, float | None, str]]) -> list[str]:
    """Two heats in one oven with no time to change between them."""
    broken = []
    for n, (start, end, heat, text) in enumerate(loads):
        for other_start, other_end, other_heat, other_text in loads[n + 1 :]:
            apart = start >= other_end + OVEN_CHANGE_MIN or other_start >= end + OVEN_CHANGE_MIN
            if heat != other_heat and not apart and start < end and other_start < other_end:
                broken.append(f"“{text}” and “{other_text}” want different heats at once")
    return broken


def checked(found: Timetable) -> Timetable:
    """The timetable, when it breaks no rule. Raises DieteticsError `prep-broken`."""
    broken = broken_rules(found)
    if broken:
        raise DieteticsError("prep-broken", rules="; ".join(broken))
    return found
