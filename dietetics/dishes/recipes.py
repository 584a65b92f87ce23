"""A recipe as people paste it: title, what it makes, ingredients a line each, and steps that are kept as text.

"Serves 6-8 they say. We filled 7 x 1 cup pots, pot weighed 1.74 kg when done." gives the servings that
were counted and the yield that was weighed; a claim gives way to a count.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace

from dietetics.amounts.grammar import Term, read_amount
from dietetics.amounts.reader import LineReader, LineReading
from dietetics.amounts.tokens import Token, clean, tokenise
from dietetics.amounts.units import Household, millilitres
from dietetics.composition.sums import FoodContent, Item
from dietetics.dishes.batches import Batch, make_batch
from dietetics.dishes.steps import read_step
from dietetics.errors import DieteticsError

MAX_TEXT = 60_000
MAX_LINES = 200
BATCH_DENSITY_G_PER_ML = 1.0  # for a serving given by volume alone: cooked dishes, ± 15 %, common practice
_METHOD = re.compile(r"^(method|directions?|instructions?|steps?|preparation|to cook|how to)\b[^\d]*:?$", re.IGNORECASE)
_INGREDIENTS = re.compile(r"^(ingredients?|you need|what you need)\s*:?$", re.IGNORECASE)
_VERB = re.compile(
    r"^(?:add|bake|blanch|blend|boil|bring|chill|chop|combine|cook|cool|cover|drain|fold|fry|grill|heat|leave|let|mash|mix|pour|"
    r"press|put|rinse|roast|sauté|saute|scrub|season|serve|set|simmer|slice|soak|spread|sprinkle|steam|stir|strain|tip|toss|turn|"
    r"warm|whisk)\b",
    re.IGNORECASE,
)
_YIELD_WORDS = {"weighed", "weighs", "weighing", "yield", "yields", "yielded", "weight"}
_SERVE_WORDS = {"serves", "servings", "serve", "feeds", "portions"}
_MAKE_WORDS = {"makes", "made", "yield", "yields", "gives"}
_FILL_WORDS = {"filled", "fills", "fill"}
_COUNT_WORDS = {"servings", "portions", "mornings"}
_TELLING_WORDS = _YIELD_WORDS | _SERVE_WORDS | _MAKE_WORDS | _FILL_WORDS | _COUNT_WORDS | {"serving"}
_SERVING_NOUNS = {
    "serving",
    "servings",
    "portion",
    "portions",
    "pots",
    "pot",
    "jars",
    "people",
    "bowls",
    "mornings",
    "meals",
    "helpings",
    "patties",
    "balls",
    "pieces",
    "muffins",
    "bars",
}


@dataclass(frozen=True)
class Makes:
    """What a recipe says it gives. Grams are measured; volume in mL; `remarks` say what was chosen and why."""

    servings: float | None = None
    yield_g: float | None = None
    serving_ml: float | None = None
    serving_g: float | None = None
    volume_ml: float | None = None
    claimed: str = ""
    remarks: tuple[str, ...] = ()


@dataclass(frozen=True)
class Recipe:
    """A recipe as read. `lines` holds every ingredient line's readings in order; `steps` the method as written."""

    title: str
    makes: Makes
    lines: tuple[LineReading, ...]
    steps: tuple[str, ...] = ()

    @property
    def items(self) -> tuple[Item, ...]:
        """The lines that were read, as items."""
        return tuple(item_of(line) for line in self.lines if line.matched)

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
            count = _servings_by_size(makes, weight if weight is not None else sum(i.grams for i in self.items))
        return make_batch(self.title, self.items, weight, count)


def item_of(line: LineReading) -> Item:
    """A matched line as an item; raises if it has no food or weight."""
    if line.food is None or line.grams is None:
        raise DieteticsError("nothing-matched")
    low = line.grams if line.grams_low is None else line.grams_low
    high = line.grams if line.grams_high is None else line.grams_high
    return Item(line.food.name, FoodContent(line.food), line.grams, low, high, f"“{line.text}”: {line.how}")


def _servings_by_size(makes: Makes, batch_g: float) -> float | None:
    if makes.serving_g:
        return batch_g / makes.serving_g
    if makes.serving_ml and makes.volume_ml:
        return makes.volume_ml / makes.serving_ml
    if makes.serving_ml:
        return max(batch_g / (makes.serving_ml * BATCH_DENSITY_G_PER_ML), 1e-9) if batch_g else None
    return None


def read_recipe(text: str, reader: LineReader, title: str = "") -> Recipe:
    """Read a pasted recipe. Raises DieteticsError `recipe-empty` or `recipe-too-long`.

    The first line is the title when it starts with "#", or when it holds no amount and no known food.
    """
    if not text.strip():
        raise DieteticsError("recipe-empty")
    if len(text) > MAX_TEXT or len(text.splitlines()) > MAX_LINES:
        raise DieteticsError("recipe-too-long", size=len(text), limit=MAX_TEXT)
    makes = Makes()
    lines: list[LineReading] = []
    steps: list[str] = []
    in_steps = False
    for number, raw in enumerate(line.strip() for line in text.splitlines()):
        if not raw:
            continue
        if raw.startswith("#"):
            title = title or raw.lstrip("# ").strip()
            makes = _from_title(raw, makes, reader.household)
        elif _METHOD.match(raw):
            in_steps = True
        elif _INGREDIENTS.match(raw):
            in_steps = False
        elif in_steps or (lines and _tells_what_to_do(raw)):
            steps.append(raw)
        elif (found := read_makes(raw, makes, reader.household)) is not None:
            makes = found
        elif number == 0 and not title and _looks_like_title(raw):
            title = raw
        else:
            lines.extend(reader.read(raw))
    return Recipe(title or "Untitled", makes, tuple(lines), tuple(steps))


def _looks_like_title(raw: str) -> bool:
    tokens = tokenise(clean(raw))
    return read_amount(tokens) is None and not any(t.value is not None for t in tokens) and len(tokens) <= 8


def _tells_what_to_do(raw: str) -> bool:
    """True for a sentence of the method among the ingredients: it starts with a verb, and stops or takes its time."""
    if _VERB.match(raw) is None:
        return False
    return raw.endswith(".") or read_step(raw).words() != ""


def _from_title(raw: str, makes: Makes, household: Household) -> Makes:
    found = read_makes(raw.lstrip("# "), makes, household, only_counts=True)
    return found if found is not None else makes


def read_makes(text: str, before: Makes, household: Household, only_counts: bool = False) -> Makes | None:
    """Read a line that says what a recipe gives, or return None when it says no such thing."""
    makes, changed = before, False
    for clause in re.split(r"(?<=[a-z0-9])\.\s+(?=[A-Z])|[,;](?=\s)|\bor so\b", clean(text)):
        tokens = [t for t in tokenise(clause) if t.text not in ":.="]
        for index, token in enumerate(tokens):
            read = _clause(tokens, index, token.lower, household)
            if read is not None:
                makes, changed = _merge(makes, read, clause.strip(), counted=token.lower in _FILL_WORDS), True
                break
        if only_counts and changed:
            break
    return makes if changed else None


def _clause(tokens: Sequence[Token], index: int, word: str, household: Household) -> Makes | None:
    """What one clause gives, read from the word that announces it."""
    if word not in _TELLING_WORDS:
        return None
    rest = list(tokens[index + 1 :])
    amount = read_amount(_without_filler(rest))
    term = amount.terms[0] if amount else None
    if word in _FILL_WORDS and term is not None:
        return _filled(_without_filler(rest), household)
    if word in _YIELD_WORDS and term is not None and term.unit is not None and term.unit.kind == "mass":
        return Makes(yield_g=float(term.quantity.likely) * term.unit.worth)
    if word == "serving" and index == 0 and term is not None:
        return _serving_size(term, household)
    if word in _MAKE_WORDS and term is not None:
        return _made(term, _without_filler(rest), household)
    if word in _SERVE_WORDS and index == 0 and term is not None and term.unit is None:
        return Makes(servings=float(term.quantity.likely), claimed=_claim(term))
    if word in _COUNT_WORDS and index > 0:
        return _counted_before(tokens, index, household)
    return None


def _without_filler(tokens: Sequence[Token]) -> list[Token]:
    skip = 0
    while skip < len(tokens) and tokens[skip].lower in {"about", "around", "of", "up", "is", "was", "the", "roughly"}:
        skip += 1
    return list(tokens[skip:])


def _claim(term: Term) -> str:
    low, high = float(term.quantity.low), float(term.quantity.high)
    return f"{low:g}–{high:g}" if low != high else ""


def _volume(term: Term, household: Household) -> float:
    return float(term.quantity.likely) * millilitres(term.unit, household) if term.unit is not None else 0.0


def _serving_size(term: Term, household: Household) -> Makes | None:
    if term.container is not None:
        return _serving_size(term.container, household)
    if term.unit is None:
        return None
    if term.unit.kind == "mass":
        return Makes(serving_g=float(term.quantity.likely) * term.unit.worth)
    volume = _volume(term, household)
    return Makes(serving_ml=volume) if volume else None


def _made(term: Term, rest: Sequence[Token], household: Household) -> Makes | None:
    if term.unit is None:
        amount = read_amount(rest)
        noun = rest[amount.taken].lower if amount and amount.taken < len(rest) else ""
        count = float(term.quantity.likely)
        return Makes(servings=count, claimed=_claim(term)) if noun in _SERVING_NOUNS or not noun else None
    if term.unit.key == "serving":
        return Makes(servings=float(term.quantity.likely), claimed=_claim(term))
    if term.unit.kind == "mass":
        return Makes(yield_g=float(term.quantity.likely) * term.unit.worth)
    volume = _volume(term, household)
    return Makes(volume_ml=volume) if volume else None


def _counted_before(tokens: Sequence[Token], index: int, household: Household) -> Makes | None:
    """ "about 10 servings of 2 tbsp": the count stands before the word, the size may stand after it."""
    before = _without_filler(tokens[:index])
    amount = read_amount(before)
    if amount is None or amount.taken != len(before):
        return None
    term = amount.terms[0]
    made = Makes(servings=float(term.quantity.likely), claimed=_claim(term))
    size = read_amount(_without_filler(tokens[index + 1 :]))
    inner = _serving_size(size.terms[0], household) if size else None
    return replace(made, serving_ml=inner.serving_ml, serving_g=inner.serving_g) if inner else made


def _filled(rest: Sequence[Token], household: Household) -> Makes | None:
    """ "filled 7 x 1 cup pots": seven servings of a cup were counted."""
    count = next((t.value for t in rest if t.value is not None), None)
    after = next((i for i, t in enumerate(rest) if t.lower == "x"), None)
    if count is None:
        return None
    inner = read_amount(rest[after + 1 :]) if after is not None else None
    size = _serving_size(inner.terms[0], household) if inner else None
    made = Makes(servings=float(count))
    return replace(made, serving_ml=size.serving_ml, serving_g=size.serving_g) if size else made


def _merge(before: Makes, read: Makes, clause: str, counted: bool) -> Makes:
    """Put what a clause says on top of what was read before; a count stands before a claim."""
    remarks = [] if counted else list(before.remarks)
    servings, claimed = before.servings, before.claimed or read.claimed
    if read.servings is not None:
        if servings is not None and servings != read.servings:
            remarks.append(
                f"“{clause}” counts {read.servings:g}; it stands before the earlier {servings:g}"
                if counted
                else f"“{clause}” also says {read.servings:g} servings; {servings:g} was kept"
            )
        if servings is None or counted:
            servings = read.servings
    if counted and before.claimed:
        remarks.append(f"“{clause}” is a count; it stands before the claim of {before.claimed}")
    if read.claimed and not counted:
        remarks.append(f"“{read.claimed}” servings is a range: {read.servings:g} is taken until a count is given")
    return Makes(
        servings=servings,
        yield_g=read.yield_g if read.yield_g is not None else before.yield_g,
        serving_ml=read.serving_ml or before.serving_ml,
        serving_g=read.serving_g or before.serving_g,
        volume_ml=read.volume_ml or before.volume_ml,
        claimed=claimed,
        remarks=tuple(remarks),
    )
