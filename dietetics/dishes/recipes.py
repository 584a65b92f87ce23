"""A recipe as people paste it: title, what it makes, ingredients a line each, and steps that are
kept as text.

A pasted page holds more than that: times, ratings, courses, a story, notes, the figures somebody
else worked out. Each is known for what it is and set aside, to be seen and not to be counted. A
line that names food is never set aside.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field

from dietetics.amounts.grammar import read_amount
from dietetics.amounts.line_cleanup import is_aside, is_heading, without_number
from dietetics.amounts.line_reader import ASK, LineReader, LineReading
from dietetics.amounts.number_words import WHOLE
from dietetics.amounts.tokens import clean, tokenise
from dietetics.composition.foods import load_shelf
from dietetics.composition.sums import FoodContent, Item, asked
from dietetics.dishes.batches import Batch, BatchContent
from dietetics.dishes.dish_as_food import POURING_G_PER_ML
from dietetics.dishes.seasoning import seasoned
from dietetics.dishes.stated_yield import (
    TELLING,
    StatedYield,
    read_stated_yield,
    stated_yield_of_title,
)
from dietetics.dishes.steps import read_step
from dietetics.dishes.unweighed import expected_weight
from dietetics.errors import DieteticsError

MAX_TEXT = 60_000
MAX_LINES = 400
TITLE_WORDS, LAST_TITLE_LINE = 10, 2
# What stands behind the colon of "Method: blend" is the first step, behind "Ingredients: 1 banana"
# the first line.
_METHOD = re.compile(
    r"^(?:the )?(?:(?:cooking )?method|directions?|instructions?|steps?|preparation|procedure|to "
    r"cook|to make|what to do|"
    r"how to (?:make|cook|prepare)(?: (?:it|this|them|"
    r"the [\w -]{1,40}))?)(?: for the [\w -]{1,40})?(?:\s*\([^()]*\))?\s*(?::\s*(?P<rest>.*)|\.?)$",
    re.IGNORECASE,
)
_INGREDIENTS = re.compile(
    r"^(?:the )?(?:ingredients?(?: list)?|what (?:you|we)(?:'ll| will)? need|you(?:'ll| will)? "
    r"need|shopping list)"
    r"(?: for the [\w -]{1,40})?(?:\s*\([^()]*\))?\s*(?::\s*(?P<rest>.*)|\.?)$",
    re.IGNORECASE,
)
_LEAD = re.compile(
    r"^(?:(?:first(?:ly)?|second(?:ly)?|then|next|now|finally|lastly|after "
    r"(?:that|which)|meanwhile|so|and|okay|ok),?\s+)*"
    r"(?:(?:you|we|i)(?:'ll| will| can| just)?\s+)?(?:just\s+)?",
    re.IGNORECASE,
)
_TIMES = re.compile(
    r"\s*(?:about |approx\.? )?\d+\s*(?:min|h|sec|day)", re.IGNORECASE
)  # "Preparation: 5 minutes"
_ANNOUNCING = {
    "serves",
    "servings",
    "serving",
    "portions",
    "makes",
    "yield",
    "yields",
    "for",
    "enough",
}
_ASKS_FOR_NUMBER = re.compile(r"^(?:serves|servings?|yields?|makes|portions)\s*:?$", re.IGNORECASE)
_NOTES = re.compile(
    r"^(?:recipe )?(?:notes?|tips?(?: and tricks)?|cook's notes?|variations?|nutrition(?:al)?(?: "
    r"facts| information| info)?|"
    r"storage|"
    r"storing|comments?|faqs?|equipment|serving suggestions?|make[- ]ahead|substitutions?|"
    r"(?:more|other|related) recipes?\b.*|you (?:might|may) also like.*|reader "
    r"interactions?)(?:\s*\([^()]*\))?\s*:?$",
    re.IGNORECASE,
)
_STEP_NUMBER = re.compile(r"^step\s*\d+\s*[:.)-]?\s*", re.IGNORECASE)
_VERB = re.compile(
    r"^(?:add|allow|arrange|assemble|bake|beat|blanch|blend|boil|bring|brush|chill|chop|coat"
    r"|combine|cook|cool|cover|crumble|crush|cut|"
    r"dice|dissolve|divide|drain|drizzle|dry|enjoy|fill|finish|flip|fold|form|freeze|fry"
    r"|garnish|grate|grease|grill|grind|heat|keep|"
    r"knead|leave|let|line|lower|make|marinate|mash|measure|melt|mix|once|peel|pile|place|pour"
    r"|preheat|prepare|press|process|pulse|"
    r"puree|purée|put|reduce|refrigerate|reheat|remove|repeat|rest|return|rinse|roast|roll"
    r"|sauté|saute|scatter|scoop|scrub|season|"
    r"separate|serve|set|shake|shape|sift|simmer|slice|smash|soak|soften|spoon|spread|sprinkle"
    r"|squeeze|steam|stir|store|strain|"
    r"taste|tip|toast|top|toss|transfer|turn|warm|wash|weigh|when|whisk|whizz|wrap|zest)\b",
    re.IGNORECASE,
)
_UNDERLINED = re.compile(r"^(\*\*|__)(.+?)\1:?$")
_WHAT_FOR = re.compile(r"^(?:for|to) [^:]{1,40}:\s*", re.IGNORECASE)  # "for serving: 1 avocado"
_TOLD_OF = re.compile(r"^(?:so )?this is (?:my|our|a|an|the) ([\w' -]{3,60})", re.IGNORECASE)


@dataclass(frozen=True)
class Recipe:
    """A recipe as read. `lines` holds every ingredient line's readings in order; `steps` the method
    as written; `asides` what stood around them and is no food; `dishes` the practitioner's own
    dishes that a line may name.
    """

    title: str
    makes: StatedYield
    lines: tuple[LineReading, ...]
    steps: tuple[str, ...] = ()
    asides: tuple[str, ...] = ()
    dishes: Mapping[str, Batch] = field(default_factory=dict)

    @property
    def items(self) -> tuple[Item, ...]:
        """The lines that were read, as items."""
        return tuple(item_of(line, self.dishes) for line in self.lines if line.matched)

    @property
    def unmatched(self) -> tuple[LineReading, ...]:
        """The lines that gave no food with a weight, headings apart."""
        return tuple(line for line in self.lines if not line.matched and not line.heading)

    def batch(self, servings: float | None = None, yield_g: float | None = None) -> Batch:
        """Make the batch; given servings and yield stand before what the text says."""
        makes = self.makes
        weight = yield_g if yield_g is not None else makes.yield_g
        count = servings if servings is not None else makes.servings
        if count is None:
            count = _servings_by_size(
                makes, weight if weight is not None else sum(i.grams for i in self.items)
            )
        lines = [(item, "pot") for item in self.items]
        expected = expected_weight(lines, self.title, self.steps, load_shelf())
        matched = (line for line in self.lines if line.matched)
        return Batch(
            self.title,
            tuple(
                asked(item) if line.confidence == ASK else item
                for item, line in zip(self.items, matched, strict=True)
            ),
            weight,
            count,
            unread=tuple(line.text for line in self.unmatched),
            expected_g=expected.weights_g if expected else None,
        )


def item_of(line: LineReading, dishes: Mapping[str, Batch] | None = None) -> Item:
    """A matched line as an item, of a food or of one of the `dishes`; raises if it has no food or
    weight.
    """
    if line.food is None or line.grams is None:
        raise DieteticsError("nothing-matched")
    low = line.grams if line.grams_low is None else line.grams_low
    high = line.grams if line.grams_high is None else line.grams_high
    dish = (dishes or {}).get(line.food.key)
    content = FoodContent(line.food) if dish is None else BatchContent(dish)
    return Item(line.food.name, content, line.grams, low, high, f"“{line.text}”: {line.how}")


def _servings_by_size(makes: StatedYield, batch_g: float) -> float | None:
    if makes.serving_g:
        return batch_g / makes.serving_g if batch_g else None
    if makes.serving_ml and makes.volume_ml:
        return makes.volume_ml / makes.serving_ml
    if makes.serving_ml:
        return max(batch_g / (makes.serving_ml * POURING_G_PER_ML), 1e-9) if batch_g else None
    return None


# Words before "makes" that name no food: "This recipe makes 4 bowls".
_OF_A_YIELD = frozenset(
    [
        "this",
        "it",
        "recipe",
        "the",
        "total",
        "batch",
        "enough",
        "dinner",
        "lunch",
        "breakfast",
        "supper",
        "plenty",
        "meal",
        "about",
        "approx",
        "around",
        "whole",
        "roughly",
        "approximately",
        "dish",
        "quantity",
        "amount",
        "net",
        "final",
        "cooked",
        "and",
        "half",
        *WHOLE,
    ]
)


class _Page:
    """A pasted page taken apart line by line. `part` is where it is: head, ingredients, steps or
    notes.
    """

    def __init__(self, reader: LineReader, title: str) -> None:
        self.reader, self.title = reader, title
        self.makes = StatedYield()
        self.lines: list[LineReading] = []
        self.steps: list[str] = []
        self.asides: list[str] = []
        self.part = "head"
        self.told = False

    def take(self, raw: str, number: int) -> None:
        """Sort one line that is not empty; `number` counts such lines from 0."""
        if raw.startswith("#") or (
            not self.title and self._is_title(raw) and self._stands_as_title(raw, number)
        ):
            self._titled(raw)
        elif self._turns_page(raw):
            return
        elif self.part == "notes" and (
            self.lines or not self._measure_ahead(without_number(raw)) or not self._names_food(raw)
        ):
            self.asides.append(raw)
        elif self.part == "steps":
            self._in_steps(raw)
        else:
            self.part = "ingredients" if self.part == "notes" else self.part
            self._in_ingredients(raw)

    def _titled(self, raw: str) -> None:
        title, self.makes = stated_yield_of_title(
            raw.lstrip("# ").strip(), self.makes, self.reader.household
        )
        self.title = self.title or title

    def _is_title(self, raw: str) -> bool:
        if _METHOD.match(raw) or _INGREDIENTS.match(raw) or is_aside(raw):
            return False
        plain = re.sub(r"\([^()]*\)", " ", raw)
        tokens = tokenise(clean(plain))
        if not tokens or len(tokens) > TITLE_WORDS or raw.rstrip().endswith(":"):
            return False
        if (
            read_stated_yield(plain, StatedYield(), self.reader.household) is not None
            and tokens[0].lower in _ANNOUNCING
        ):
            return False
        amount = read_amount(tokens)
        if (
            amount is None
            or amount.taken == len(tokens)
            and not any(t.value is not None for t in tokens)
        ):
            return True
        return amount.terms[0].unit is None and not self._names_food(raw)

    def _stands_as_title(self, raw: str, number: int) -> bool:
        """True for the first line, and for one just below "Servings: 8" that is no heading and no
        food's name.
        """
        if number == 0 or number > LAST_TITLE_LINE:
            return number == 0
        if (
            self.part != "head"
            or self.lines
            or is_heading(raw)
            or is_aside(raw)
            or raw.rstrip().endswith((".", "!"))
        ):
            return False
        return all(reading.food is None for reading in self.reader.read(raw))

    def _turns_page(self, raw: str) -> bool:
        """True for a line that says what comes below it."""
        plain = raw.strip("*_= ").strip()
        for pattern, part in ((_METHOD, "steps"), (_INGREDIENTS, "ingredients"), (_NOTES, "notes")):
            found = pattern.match(plain)
            if found is not None and not (part == "steps" and _TIMES.match(found["rest"] or "")):
                self.part, self.told = part, part == "steps"
                rest = found.groupdict().get("rest")
                if rest:
                    self.take(rest.strip(), LAST_TITLE_LINE + 1)
                return True
        return False

    def _in_steps(self, raw: str) -> None:
        step = _STEP_NUMBER.sub("", without_number(raw))
        if self.told:
            step = re.sub(r"^\d{1,2}\s+(?=[A-ZÀ-Þ])", "", step)
        if is_heading(raw) or is_aside(raw):
            self.asides.append(raw)
        elif self.told and (
            self.lines or not self._measure_ahead(step) or not self._names_food(step)
        ):
            self.steps.append(step)
        elif not self._makes(raw):
            if _tells_what_to_do(step) or (raw.endswith(".") and len(raw.split()) >= 4):
                self.steps.append(step)
            else:
                self.lines.extend(self.reader.read(raw))

    def _in_ingredients(self, raw: str) -> None:
        if self._makes(raw):
            return
        step = _STEP_NUMBER.sub("", without_number(raw))
        if self._is_aside(raw):
            self.asides.append(raw)
        elif (
            (self.lines or step != raw)
            and _tells_what_to_do(step)
            and not self._measure_ahead(step)
        ):
            self.part = "steps"
            self.steps.append(step)
        else:
            self.lines.extend(self.reader.read(raw))

    def _makes(self, raw: str) -> bool:
        """True for a line that says what the recipe gives, and nothing of the ingredients."""
        found = read_stated_yield(raw, self.makes, self.reader.household)
        if found is None or self._is_more_than_a_yield(raw):
            return False
        self.makes = found
        if not self.title and (told := _TOLD_OF.match(raw)):
            self.title = told[1].strip().capitalize()
        return True

    def _is_more_than_a_yield(self, raw: str) -> bool:
        """True for a line that names something beside what it makes: "1 bouillon cube, made up to
        500 ml", "4 portions rice".
        """
        plain = re.sub(r"\([^()]*\)", " ", raw).strip()
        if is_heading(plain):
            return False
        plain = _WHAT_FOR.sub("", plain)
        told = TELLING.search(plain)
        before = plain[: told.start()] if told else plain
        if set(re.findall(r"[a-z']{2,}", before.lower())) - _OF_A_YIELD:
            return bool(self.lines) or self._is_food(before)
        if told is None or not before.strip():
            return False
        return self._is_food(plain[told.end() :])

    def _is_food(self, words: str) -> bool:
        return any(reading.food or reading.choices for reading in self.reader.read(words))

    def _is_aside(self, raw: str) -> bool:
        if self._measure_ahead(raw):
            return False
        if is_aside(raw):
            return True
        sentence = raw.rstrip().endswith((".", "!", "?")) and len(raw.split()) >= 4
        begun = any(line.matched for line in self.lines)
        return sentence and not begun and not self._amount_ahead(raw) and not self._names_food(raw)

    def _measure_ahead(self, raw: str) -> bool:
        """True where a line begins with an amount that has a measure."""
        found = read_amount(tokenise(clean(raw)))
        return found is not None and found.terms[0].unit is not None

    def _amount_ahead(self, raw: str) -> bool:
        return read_amount(tokenise(clean(raw))) is not None

    def _names_food(self, raw: str) -> bool:
        return any(reading.matched or reading.choices for reading in self.reader.read(raw))


def read_recipe(
    text: str, reader: LineReader, title: str = "", dishes: Mapping[str, Batch] | None = None
) -> Recipe:
    """Read a pasted recipe. Raises DieteticsError `recipe-empty`, `recipe-too-long` or
    `recipe-too-many-lines`.

    The first line is the title when it starts with "#", or when it holds no amount of a known food.
    `dishes` are those of the reader's shelf that are dishes of the practitioner.
    """
    if not text.strip():
        raise DieteticsError("recipe-empty")
    if len(text) > MAX_TEXT:
        raise DieteticsError("recipe-too-long", size=len(text), limit=MAX_TEXT)
    written = _joined([line.strip() for line in text.splitlines() if line.strip()])
    if len(written) > MAX_LINES:
        raise DieteticsError("recipe-too-many-lines", lines=len(written), limit=MAX_LINES)
    page = _Page(reader, title)
    for number, raw in enumerate(written):
        page.take(_UNDERLINED.sub(r"\2", raw), number)
    return Recipe(
        page.title or "Untitled",
        page.makes,
        seasoned(page.lines),
        tuple(page.steps),
        tuple(page.asides),
        dishes or {},
    )


def _joined(lines: list[str]) -> list[str]:
    """Lines, with a number below "Serves:" put behind it."""
    found: list[str] = []
    for line in lines:
        if found and _ASKS_FOR_NUMBER.match(found[-1]):
            found[-1] = f"{found[-1]} {line}"
        else:
            found.append(line)
    return found


def _tells_what_to_do(raw: str) -> bool:
    """True for a sentence of the method: it starts with a verb, and stops, goes on for long or
    takes its time.
    """
    if _VERB.match(_LEAD.sub("", raw)) is None:
        return False
    return raw.endswith((".", "!")) or read_step(raw).words() != "" or len(raw.split()) > 8
