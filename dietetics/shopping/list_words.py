"""A shopping list in words, on a page, as plain text and as rows of a table."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Sequence

from dietetics.composition.foods import Food
from dietetics.shopping.shopping_list import SECTIONS, Line, ShoppingList, loose_g
from dietetics.untrusted_input import harmless_cell
from dietetics.week.daynames import days_words

G_PER_OZ, OZ_PER_LB = 28.3495, 16
OVER_LEAST_G, OVER_LEAST_SHARE = 20.0, 0.1  # a smaller rest is not worth a line
COLUMNS = ("section", "food", "buy", "grams", "at_home_g", "left_over_g", "keeps_days", "for")
_IRREGULAR = {"loaf": "loaves", "leaf": "leaves"}


def plural(unit: str, count: float) -> str:
    """The unit in the number that is bought.

    >>> plural("bunch", 2), plural("tomato", 3), plural("can", 1), plural("loaf", 2)
    ('bunches', 'tomatoes', 'can', 'loaves')
    """
    if count == 1:
        return unit
    if unit in _IRREGULAR:
        return _IRREGULAR[unit]
    return unit + ("es" if unit.endswith(("ch", "sh", "s", "to", "go")) else "s")


def weight_words(grams: float, household: bool) -> str:
    """A weight as a shop says it: grams and kilograms, or ounces and pounds with the grams.

    >>> weight_words(1250, False), weight_words(560, True)
    ('1.25 kg', '1 lb 4 oz (560 g)')
    """
    metric = f"{grams / 1000:.3g} kg" if grams >= 1000 else f"{_round_g(grams):,.0f} g"
    if not household or grams < G_PER_OZ:
        return metric
    ounces = max(1, round(grams / G_PER_OZ))
    pounds, rest = divmod(ounces, OZ_PER_LB)
    words = [f"{pounds} lb"] if pounds else []
    words += [f"{rest} oz"] if rest else []
    return f"{' '.join(words)} ({metric})"


def _round_g(grams: float) -> float:
    """As precise as a shopper needs: whole grams below 20, fives below 100, tens above."""
    step = 1 if grams < 20 else 5 if grams < 100 else 10
    return round(grams / step) * step


def bought_name(food: Food) -> str:
    """The food as a shopper looks for it: without "raw", which is how it is sold."""
    return food.name.replace(", raw", "")


def buy_words(line: Line, household: bool) -> str:
    """What to put into the basket: "3 onions (2–4), about 370 g", "2 cans of 400 g", "650 g"."""
    if line.units is None:
        return weight_words(loose_g(line), household)
    least, likely, most = line.units
    words = f"{likely} {plural(line.package.unit, likely)}"
    if least != most:
        words += f" ({least}–{most})"
    size = line.package.usable_g.likely if line.package.usable_g else 0.0
    if _is_piece(line):
        with_peel = line.shop_g.likely / line.usable_g.likely if line.usable_g.likely else 1.0
        return f"{words}, about {weight_words(likely * size * with_peel, household)}"
    return f"{words} of {weight_words(line.package.net_g or size, household)}"


def _is_piece(line: Line) -> bool:
    """A piece or a bunch, whose weight is nature's, and not a package with a weight on it."""
    return line.section == "produce" and line.package.unit not in ("bag", "punnet", "tray", "tub")


def over_words(line: Line, household: bool) -> str:
    """What is left of the packages and how long it keeps; "" where it is hardly anything."""
    size = line.package.usable_g
    if line.units is None or size is None or line.section == "spices":
        return ""
    if line.over_g < OVER_LEAST_G or line.over_g < OVER_LEAST_SHARE * size.likely:
        return ""
    days = line.package.keeps_days
    keeps = "for months" if days >= 60 else days_words(days)
    begun = "" if _is_piece(line) else " once opened"
    return f"{weight_words(line.over_g, household)} left over, keeps {keeps}{begun}"


def home_words(line: Line, household: bool) -> str:
    """What is at home of it, in words; "" where nothing is."""
    return f"{weight_words(line.at_home_g, household)} at home" if line.at_home_g else ""


def allergens_met(line: Line, allergies: Iterable[str]) -> list[str]:
    """Allergens of the client that this food holds or may hold."""
    held = {*line.food.allergens, *line.food.traces}
    plain = {one.removesuffix("-trace") for one in held}
    return sorted(plain & set(allergies))


def by_section(found: ShoppingList) -> list[tuple[str, list[Line]]]:
    """The lines to buy under the names of their sections, in the order of the list."""
    sections: dict[str, list[Line]] = {}
    for line in found.to_buy:
        sections.setdefault(line.section, []).append(line)
    return [(SECTIONS[key], lines) for key, lines in sections.items()]


def plain_text(found: ShoppingList, title: str, household: bool) -> str:
    """The list as text to send or to print."""
    rows = [title, ""]
    for name, lines in by_section(found):
        rows.append(name)
        for line in lines:
            first = "a little: look at home first" if line.only_a_pinch else ""
            extra = [first, line.package.look_for, over_words(line, household)]
            told = "; ".join(words for words in extra if words)
            amount = buy_words(line, household)
            rows.append(f"[ ] {bought_name(line.food)}: {amount}" + (f" ({told})" if told else ""))
        rows.append("")
    enough = [bought_name(line.food) for line in found.lines if line.buys_nothing]
    if enough:
        rows += [f"At home already: {', '.join(enough)}.", ""]
    if found.unknown:
        rows += ["Check:", *(f"- {words}" for words in found.unknown), ""]
    return "\n".join(rows)


def as_csv(found: ShoppingList, household: bool) -> str:
    """The list as CSV, one row a line, with what is at home already."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    writer.writerows([harmless_cell(cell) for cell in row] for row in _rows(found.lines, household))
    return out.getvalue()


def _rows(lines: Sequence[Line], household: bool) -> Iterable[tuple[str, ...]]:
    for line in lines:
        yield (
            SECTIONS[line.section],
            bought_name(line.food),
            "" if line.buys_nothing else buy_words(line, household),
            f"{line.shop_g.likely:.0f}",
            f"{line.at_home_g:.0f}",
            f"{line.over_g:.0f}",
            str(line.package.keeps_days),
            "; ".join(dish for dish, _ in line.uses),
        )
