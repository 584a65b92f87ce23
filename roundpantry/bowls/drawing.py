"""The dish seen from above: wedges and heaps whose area is their volume, and a rim of protein
shares.

Pure geometry in SVG units. The well in the middle holds toppings and sauces, the ring around it the
rest; both are drawn so that area ÷ volume is the same everywhere, whatever the bowl weighs.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from dietetics.amounts.weighing import amount_text
from dietetics.composition.sums import Figure
from dietetics.dishes.bowls import BOWL_ML, Bowl, Portion, main_group
from dietetics.handover.booklet import PicturePart
from roundpantry.bowls.records import BATCH_GROUP

SIZE = 480
CENTRE = SIZE / 2
CAPACITY_RADIUS = 186.0
LARGEST_RADIUS = 201.0  # a fuller bowl is drawn smaller, and the page says that it does not fit
RIM_INNER, RIM_OUTER = 205.0, 219.0
GAP_DEGREES, WHOLE_TURN = 0.9, 359.9
WELL_GROUPS = {
    "nut",
    "seed",
    "nut-butter",
    "condiment",
    "oil",
    "sweetener",
    "herb-spice",
    "dried-fruit",
}
WELL_MOST_ML = 120.0
GLAZES = {
    "grain": "grain",
    "starchy-vegetable": "root",
    "legume": "bean",
    "soy-food": "curd",
    "wheat-protein": "curd",
    "leafy-green": "leaf",
    "vegetable": "ripple",
    "mushroom": "gill",
    "fruit": "berry",
    "dried-fruit": "berry",
    "nut": "speckle",
    "seed": "speckle",
    "nut-butter": "wave",
    "plant-milk": "wave",
    "plant-yoghurt": "wave",
    "herb-spice": "leaf",
    "condiment": "wave",
    "sweetener": "wave",
    "oil": "wave",
    "processed": "weave",
    "batch": "weave",
}
NAME_FITS_DEGREES = 34.0
BADGE_FITS_DEGREES = 7.0


@dataclass(frozen=True)
class Slice:
    """One drawn part: its outline, its glaze, where its number, name and handle go."""

    key: str
    number: int
    name: str
    glaze: str
    path: str
    badge: tuple[str, str] | None
    name_at: tuple[str, str] | None
    handle: tuple[str, str]
    direction: tuple[str, str]
    step: str
    grams: str
    amount: str


@dataclass(frozen=True)
class RimArc:
    """A part's share of the protein on the rim."""

    key: str
    number: int
    glaze: str
    path: str
    title: str


@dataclass(frozen=True)
class Dish:
    """The whole drawing."""

    slices: tuple[Slice, ...]
    rim: tuple[RimArc, ...]
    food_radius: str
    fill_text: str
    overflows: bool
    summary: str


def group_shown(portion: Portion) -> str:
    """The food group a part is drawn as: its own, or what a batch holds most of."""
    return main_group(portion.item) if portion.group == BATCH_GROUP else portion.group


def glaze_of(group: str) -> str:
    """The glaze pattern of a food group."""
    return GLAZES[group]


def area_radius(volume_ml: float) -> float:
    """The radius of a disc whose area stands for `volume_ml`."""
    return CAPACITY_RADIUS * math.sqrt(max(volume_ml, 0.0) / BOWL_ML)


def _point(radius: float, degrees: float) -> tuple[float, float]:
    turned = math.radians(degrees - 90)
    return CENTRE + radius * math.cos(turned), CENTRE + radius * math.sin(turned)


def _at(radius: float, degrees: float) -> tuple[str, str]:
    x, y = _point(radius, degrees)
    return f"{x:.1f}", f"{y:.1f}"


def sector_path(inner: float, outer: float, start: float, end: float) -> str:
    """The outline of a ring's sector between two angles (degrees, clockwise from the top)."""
    sweep = end - start
    if sweep >= WHOLE_TURN:
        return _circle(outer, 1) + (_circle(inner, 0) if inner > 0.01 else "")
    large = 1 if sweep > 180 else 0
    x1, y1 = _point(outer, start)
    x2, y2 = _point(outer, end)
    path = f"M{x1:.2f} {y1:.2f}A{outer:.2f} {outer:.2f} 0 {large} 1 {x2:.2f} {y2:.2f}"
    if inner <= 0.01:
        return path + f"L{CENTRE:.2f} {CENTRE:.2f}Z"
    x3, y3 = _point(inner, end)
    x4, y4 = _point(inner, start)
    return path + f"L{x3:.2f} {y3:.2f}A{inner:.2f} {inner:.2f} 0 {large} 0 {x4:.2f} {y4:.2f}Z"


def _circle(radius: float, turn: int) -> str:
    """A whole circle as two halves: one arc from a point to itself is nothing at all."""
    top, bottom = f"{CENTRE:.2f} {CENTRE - radius:.2f}", f"{CENTRE:.2f} {CENTRE + radius:.2f}"
    half = f"A{radius:.2f} {radius:.2f} 0 1 {turn} "
    return f"M{top}{half}{bottom}{half}{top}Z"


def _in_well(portion: Portion) -> bool:
    return portion.group in WELL_GROUPS and portion.volume_ml <= WELL_MOST_ML


def _sectors(
    portions: Sequence[tuple[int, Portion]], inner: float, outer: float
) -> Iterator[PicturePart]:
    """The parts of one ring, each with the share of the turn that it has of the volume."""
    total, start = sum(portion.volume_ml for _, portion in portions), 0.0
    for number, portion in portions:
        sweep = 360.0 * portion.volume_ml / total if total else 0.0
        gap = min(GAP_DEGREES, sweep / 4) if len(portions) > 1 else 0.0
        glaze = glaze_of(group_shown(portion))
        yield PicturePart(
            number, glaze, inner, outer, start + gap / 2, max(start, start + sweep - gap / 2)
        )
        start += sweep


def picture_of(bowl: Bowl) -> tuple[PicturePart, ...]:
    """The bowl as sectors: the well in the middle and the ring around it, by number."""
    numbered = list(enumerate(bowl.portions, 1))
    well = [pair for pair in numbered if _in_well(pair[1])]
    ring = [pair for pair in numbered if not _in_well(pair[1])]
    scale = _scale_of(bowl)
    well_radius = area_radius(sum(p.volume_ml for _, p in well)) * scale
    food_radius = area_radius(bowl.volume_ml) * scale
    parts = [*_sectors(ring, well_radius, food_radius), *_sectors(well, 0.0, well_radius)]
    return tuple(sorted(parts, key=lambda part: part.number))


def _scale_of(bowl: Bowl) -> float:
    """How much smaller a bowl is drawn that holds more than fits."""
    return min(1.0, LARGEST_RADIUS / max(area_radius(bowl.volume_ml), 1e-9))


def badge_at(part: PicturePart) -> tuple[str, str] | None:
    """Where the number of a part stands; None where there is no room for it."""
    fits = part.end - part.start >= BADGE_FITS_DEGREES and part.outer - part.inner > 22
    return _at((part.inner + part.outer) / 2, (part.start + part.end) / 2) if fits else None


def _slice(part: PicturePart, portion: Portion) -> Slice:
    middle, radius = (part.start + part.end) / 2, (part.inner + part.outer) / 2
    x, y = _point(1.0, middle)
    named = part.end - part.start >= NAME_FITS_DEGREES and part.outer - part.inner > 60
    return Slice(
        portion.key,
        part.number,
        portion.item.label.split(",")[0],
        part.glaze,
        sector_path(part.inner, part.outer, part.start, part.end),
        badge_at(part),
        (_at(radius, middle)[0], f"{_point(radius, middle)[1] + 24:.1f}") if named else None,
        _at(part.outer, middle),
        (f"{x - CENTRE:.4f}", f"{y - CENTRE:.4f}"),
        f"{amount_text(portion.step)} {portion.unit}",
        f"{portion.item.grams:.0f}",
        portion.amount_text,
    )


def _rim(bowl: Bowl, protein: Figure) -> list[RimArc]:
    start, arcs = 0.0, []
    for number, portion in enumerate(bowl.portions, 1):
        share = bowl.share_of(portion, protein.key)
        if not share:
            continue
        sweep = 360.0 * share
        gap = min(0.8, sweep / 4)
        path = sector_path(RIM_INNER, RIM_OUTER, start + gap / 2, start + sweep - gap / 2)
        title = f"{portion.item.label}: {share:.0%} of the protein"
        arcs.append(RimArc(portion.key, number, glaze_of(group_shown(portion)), path, title))
        start += sweep
    return arcs


def draw(bowl: Bowl) -> Dish:
    """Draw a bowl."""
    slices = [_slice(part, bowl.portions[part.number - 1]) for part in picture_of(bowl)]
    scale = _scale_of(bowl)
    parts = ", ".join(f"{p.item.label} {p.amount_text}" for p in bowl.portions) or "nothing yet"
    return Dish(
        tuple(slices),
        tuple(_rim(bowl, bowl.total["protein_g"])),
        f"{area_radius(bowl.volume_ml) * scale:.1f}",
        f"{bowl.volume_ml:,.0f} mL of a 1-litre bowl"
        + ("" if scale == 1.0 else f", drawn at {scale**2:.0%} of its area"),
        bowl.volume_ml > BOWL_ML,
        f"The dish from above: {parts}.",
    )
