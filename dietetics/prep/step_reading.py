"""Steps of a recipe read as tasks: clauses with a known verb, their times, devices and order.

What a cook reads between the lines is read here by rules: cutting hangs on nothing, cooking needs
what is ready so far, "meanwhile" runs beside the task before, "at the end" waits for all. What is
not written is taken from a table and marked as a guess.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from dietetics.amounts.denials import NOT_TO_DO
from dietetics.composition.foods import cell_number, read_table
from dietetics.dishes.steps import OR_OVERNIGHT, read_step
from dietetics.prep.cutting import cutting_min
from dietetics.prep.tasks import BLENDER, BURNER, NIGHT_MINUTES, OVEN, PRESSURE, Minutes, Task
from dietetics.untrusted_input import ascii_digits

MOST_STEP = 600  # characters read at once: a longer step is read in parts
NO_EVENING_MIN = 240.0  # minutes: a wait of four hours or overnight is taken overnight
NIGHT = Minutes(480.0, 600.0, 720.0)
AT_THE_END = re.compile(
    r"\b(?:at the (?:very )?end|(?:just )?before serving|to serve|serve immediately|last)\b"
)
MEANWHILE = re.compile(r"^(?:meanwhile|while\b|in the meantime|at the same time)")
NO_TASK = re.compile(
    r"^(?:(?:pre-?)?heat (?:the |your )?oven|(?:reduce|lower|turn (?:off|down|up))\b|keeps?\b|"
    r"store\b|serve\b|enjoy\b|line (?:a|the|two)\b|take out\b|note\b|cool leftovers)"
)
# What is no work of the evening and is read beside it: what need not be done, another way, what
# happens to what is left over.
DENIED = rf"{NOT_TO_DO}\b"
NOTE = re.compile(
    rf"^(?:{DENIED}|you can also|you (?:can|could|may) (?:even |instead |use |make |swap )|"
    r"alternatively|optional(?:ly)?\b|if you(?:'d| would)? (?:don't|do not|prefer|like|want|wish)|"
    r"if (?:preferred|desired|liked)|tips?:|notes?\b|"
    r"tip\b(?! (?:in|into|it|them|the|out|onto|over)\b)|"
    r"(?:it |they |this |leftovers? )?(?:will )?"
    r"(?:keeps?|stores?|freezes?) (?:well|in|for|up|until)\b|store\b|leftovers?\b|"
    r"thaw\b.*\bbefore (?:reheating|eating|serving)|freeze (?:any |the )?left)"
)
# "Don't drain the beans, add them": what is denied ends at the comma.
STARTS_DENIED = re.compile(rf"^{DENIED}")
AFTER_DENIED = re.compile(r",\s*(?:but |just |instead |simply )*")
# "Once it has been in the freezer for 25 minutes, cut it": what was done before.
SAID_BEFORE = re.compile(
    r"^(?:once|when|after|as soon as) (?:it|they|the [a-zé -]{1,30}) "
    r"(?:has|have|is|are|had|was|were)\b[^,]*(?:,|$)"
)
NIGHT_BEFORE = re.compile(r"\b(?:night|evening|day) before\b")
# A Dutch oven is a pot, and an ice cube tray no baking tray.
IN_THE_OVEN = re.compile(
    r"(?<!dutch )\boven\b(?![- ]?(?:proof|safe|glove|mitt))|(?<!cube )(?<!cubes )\btray\b"
)
BRINGS_TO_BOIL = re.compile(r"\b(?:bring|return)\b.*\b(?:boil|simmer)\b")
UNDER_PRESSURE = re.compile(r"\bpressure cooker\b|\b(?:high|low) pressure\b")
PER_SIDE = re.compile(r"\b(?:each side|per side|on (?:each|both) sides?)\b")
# Where one clause ends and the next begins. A comma or an "and" ends one only before a verb.
ENDS = re.compile(r"[.;](?:\s|$)|,?\s+(?:and\s+)?then\s+")
BEFORE_VERB = re.compile(r",\s*(?:and\s+)?|\s+and\s+")
EVERYTHING = re.compile(
    r"\beverything\b|\ball\b(?!-| (?:over|the way|a?round|night|day|purpose)\b)"
)
# Words that look like verbs and are none where they stand.
NOUNS = re.compile(
    r"\b(?:(?:low|medium|high|gentle|the|over|off)[- ]+)+heat\b|"
    r"\bdry pan\b|\bto taste\b|\bthe rest\b"
)
# "Stir the flour, salt and yeast": a food, unless it is said of what.
NAMES_TOO = re.compile(
    r"(?:salt|juice|zest)\b(?! (?:the|it|them|both|generously|lightly|well|[a-z]+s)\b)"
)
COMPOUND = re.compile(r"\b(air|slow|pressure|stir|steam|water|pan)[ -](fry|cook)\b", re.IGNORECASE)
# "Heat the oil in a large pan": a minute or two, and no pot that has to get hot through.
HEATS_A_PAN = re.compile(
    r"^(?:heat|warm)\b[^,;.]{0,40}?\b"
    r"(?:oil|pan|skillet|wok|griddle|splash of (?:water|stock|broth))\b"
)
NOT_JUST_A_PAN = re.compile(r"\b(?:sauce|soup|milk|cream|gravy|broth to|stock to|water to)\b")
PAN_HOT = Minutes(1.0, 1.0, 3.0)
# "Press the mixture into the tin" takes no weight and no wait.
PRESSED_INTO = re.compile(r"^press\b.*\b(?:into|onto|in|to) (?:the|a|an|your) ")
# "Refrigerate for up to 2 weeks": how it keeps. "Overnight or up to 2 days" is a wait.
KEEPS_DAYS = re.compile(
    r"^(?!.*\b(?:overnight|at least|hours?|minutes?)\b)(?:cover(?:ed)? and |then )?"
    r"(?:refrigerate|chill|freeze|keep|put|place|leave)\b.*\bup to "
    r"(?:an?|one|two|three|four|five|six|\d+)(?:[ -](?:or|to) \w+)?[ -]*(?:days?|weeks?|months?)\b"
)
HANDS_AT_MOST = 3.0  # minutes of a time after "cook for": so short is stood beside


@dataclass(frozen=True)
class Verb:
    """What is known of a verb: see `tables/prep_verbs.csv`."""

    name: str
    kind: str
    hands_min: float
    per_100g: float
    wait: Minutes
    timed: str
    device: str
    celsius: float | None
    night: bool


@dataclass(frozen=True)
class Ingredient:
    """What a recipe takes, by the words it may be called, with its grams as cooked now; `simmers`
    is how long a dry grain or bean usually does, `family` what kind of food it is.
    """

    words: frozenset[str]
    grams: float
    is_vegetable: bool = False
    simmers: Minutes | None = None
    family: str = ""


@dataclass(frozen=True)
class Clause:
    """A piece of a step with one verb. `beside` runs at the same time as the task before; `before`
    and `notes` are what is said in front of it and after it and is no work.
    """

    text: str
    verb: Verb
    beside: bool = False
    at_end: bool = False
    written: str = ""
    before: tuple[str, ...] = ()
    notes: tuple[str, ...] = ()
    night: bool = False


@lru_cache(maxsize=1)
def _verbs() -> tuple[Mapping[str, Verb], re.Pattern[str]]:
    by_form: dict[str, Verb] = {}
    for row in read_table("prep_verbs.csv"):
        likely = cell_number(row["wait_likely"]) or 0.0
        wait = Minutes(
            cell_number(row["wait_low"]) or likely, likely, cell_number(row["wait_high"]) or likely
        )
        verb = Verb(
            row["verb"],
            row["kind"],
            float(row["hands_min"]),
            float(row["per_100g"]),
            wait,
            row["timed"],
            row["device"],
            cell_number(row["celsius"]),
            row["when"] == "night",
        )
        by_form |= dict.fromkeys(row["forms"].split(), verb)
    longest = sorted(by_form, key=len, reverse=True)
    return by_form, re.compile(rf"\b(?:{'|'.join(map(re.escape, longest))})\b")


def verb_named(name: str) -> Verb:
    """The verb of this name. Raises KeyError for one that the table does not know."""
    return next(verb for verb in _verbs()[0].values() if verb.name == name)


def _starts_with_verb(text: str) -> re.Match[str] | None:
    """A verb at the head of a clause, where an imperative stands; "let it" and the like before it
    are passed over.
    """
    _, pattern = _verbs()
    if NAMES_TOO.match(text):
        return None
    return pattern.match(
        re.sub(r"^(?:let (?:it |them )?|to |gently |carefully |finely )+", "", text)
    )


def _pieces(text: str) -> Iterator[str]:
    """A step cut where one thing to do ends and the next begins."""
    for sentence in ENDS.split(text):
        rest = sentence.strip()
        if NOTE.search(rest):
            note, rest = _note_and_rest(rest)
            yield note
        while rest:
            cut = next(
                (m for m in BEFORE_VERB.finditer(rest) if _starts_with_verb(rest[m.end() :])), None
            )
            if cut is None:
                yield rest
                break
            if cut.start():
                yield rest[: cut.start()].strip()
            rest = rest[cut.end() :].strip()


def _note_and_rest(sentence: str) -> tuple[str, str]:
    """A sentence that begins as a note, cut where something to do begins after a comma: only after
    what is denied; another way holds to the end.
    """
    if STARTS_DENIED.search(sentence):
        for cut in AFTER_DENIED.finditer(sentence):
            if _starts_with_verb(sentence[cut.end() :]):
                return sentence[: cut.start()].strip(), sentence[cut.end() :].strip()
    return sentence, ""


def _said_beside(piece: str, is_begun: bool) -> tuple[str, str]:
    """(what is no work, what is): a note, the heat of the oven and how a pan is stirred are no work
    of their own, a state that was reached stands before it.
    """
    keeps = NOTE.search(piece) or KEEPS_DAYS.search(piece)
    if keeps or NO_TASK.search(piece) or is_begun and piece.startswith("stirring"):
        return piece, ""
    said = SAID_BEFORE.search(piece)
    return (said[0].strip(" ,"), piece[said.end() :].strip(" ,")) if said else ("", piece)


def clauses_of(step: str) -> list[Clause]:
    """The clauses of a step that are something to do, in their order, each with what stands beside
    it and is no work.
    """
    written = ascii_digits(step[:MOST_STEP]).strip().lstrip("-•*0123456789.) ")
    written = COMPOUND.sub(lambda match: f"{match[1]}-{match[2]}", written)
    text = written.lower()
    at_end = bool(AT_THE_END.search(text))
    found: list[Clause] = []
    rest: list[str] = []  # what no verb is known for
    before: dict[int, list[str]] = {}  # what stands in front of a clause, by its place
    after: dict[int, list[str]] = {}  # what stands behind it
    beside = False
    for cut in _pieces(text):
        piece = cut
        if MEANWHILE.search(cut):
            beside = True
            if cut.startswith("while"):
                before.setdefault(len(found), []).append(cut)  # a task already
                continue
            piece = MEANWHILE.sub("", cut).strip(" ,")
        note, piece = _said_beside(piece, bool(found))
        if note:
            beside_it = before if piece or not found else after
            beside_it.setdefault(len(found) - (beside_it is after), []).append(note)
        verb = _verb_or_time(piece)
        if verb is not None:
            found.append(Clause(piece, verb, beside, at_end))
            beside = False
        elif found and piece and not found[-1].text.endswith(piece):
            found[-1] = replace(found[-1], text=f"{found[-1].text}, {piece}")
        elif re.search(r"\w", piece):
            rest.append(piece)
    if found and rest:
        found[0] = replace(found[0], text=", ".join((*rest, found[0].text)))
    elif rest:
        found = [Clause(", ".join(rest), verb_named("do"), beside, at_end)]
    if found:
        after.setdefault(len(found) - 1, []).extend(before.pop(len(found), ()))
    return [
        replace(
            one,
            night=bool(NIGHT_BEFORE.search(text)),
            written=_as_written(one.text, text, written),
            before=tuple(_as_written(note, text, written) for note in before.get(at, ())),
            notes=tuple(_as_written(note, text, written) for note in after.get(at, ())),
        )
        for at, one in enumerate(found)
    ]


def is_aside(text: str) -> bool:
    """True for what need not be done, another way, and how it keeps."""
    return bool(NOTE.search(text.lower()) or KEEPS_DAYS.search(text.lower()))


def is_note(step: str) -> bool:
    """True for a step that holds nothing to do: another way, how it keeps, what need not be."""
    plain = ascii_digits(step[:MOST_STEP]).strip().lstrip("-•*0123456789.) ").lower()
    patterns = (NOTE, KEEPS_DAYS, SAID_BEFORE, NO_TASK)
    told = any(pattern.search(plain) for pattern in patterns)
    return told and not clauses_of(step)


def parts_of(step: str) -> list[str]:
    """A step in parts that are read at once: whole where it is short, else cut after sentences, and
    between words where a sentence does not end.
    """
    found, rest = [], step.strip()
    while len(rest) > MOST_STEP:
        head = rest[:MOST_STEP]
        cut = max(head.rfind(". "), head.rfind("; "), head.rfind("\n")) + 1
        if cut <= 0:
            cut = head.rfind(" ") + 1 or MOST_STEP
        found.append(rest[:cut].strip())
        rest = rest[cut:].strip()
    return [part for part in (*found, rest) if part]


def _as_written(piece: str, lowered: str, written: str) -> str:
    """A piece with the capitals it was written with, "°C" among them."""
    at = lowered.find(piece)
    if at < 0 or len(lowered) != len(written):
        return piece
    return written[at : at + len(piece)]


def _verb_or_time(piece: str) -> Verb | None:
    """The verb of a piece; "do" where nobody knows the word, and it takes its time."""
    timed = read_step(piece).minutes is not None
    return _verb_of(piece) or (verb_named("do") if timed else None)


def _verb_of(piece: str) -> Verb | None:
    by_form, pattern = _verbs()
    if piece.startswith("transfer to a blender"):
        return None  # what is done there is said after it
    if BRINGS_TO_BOIL.match(piece):
        return by_form["boil"]
    if PRESSED_INTO.search(piece):
        return by_form["spread"]
    if re.match(r"^leave\b.*\b(?:fridge|refrigerator)\b", piece):
        return by_form["chill"]
    match = _starts_with_verb(piece) or pattern.search(NOUNS.sub("", piece))
    return by_form[match[0]] if match else None


def task_of_clause(
    clause: Clause,
    key: str,
    dish: str,
    ingredients: Sequence[Ingredient],
    oven_celsius: float | None,
) -> Task:
    """A clause as a task of its dish, with nothing said yet of what it comes after.

    Times that are written stand; the others come from the table and are marked as guesses.
    """
    verb, text = clause.verb, clause.text
    read = read_step(text)
    device = _device_of(clause)
    guessed = set()
    hands = Minutes.guess(verb.hands_min + _more_hands(verb, text, ingredients))
    if HEATS_A_PAN.search(text) and not NOT_JUST_A_PAN.search(text):
        verb = replace(verb, wait=PAN_HOT)
        hands = Minutes.guess(1.0)
    wait, celsius = verb.wait, read.celsius
    written = None if read.minutes is None else _minutes_of(text, read.minutes)
    if written is not None and PER_SIDE.search(text):
        written = written.times(2)
    night = (
        verb.night
        or clause.night
        or ("overnight" in text and not _is_shorter(text, written))
        or (written is not None and written.low >= NIGHT_MINUTES)
    )
    if night:
        wait = NIGHT
    elif written is None:
        wait = _usual_wait(verb, text, ingredients)
        guessed |= {"hands"} | ({"wait"} if wait.likely else set())
    elif _is_of_hands(verb, device, written):
        hands, wait = _hands_and_wait(text, device, written)
    else:
        wait = written
        guessed.add("hands")
    if device == OVEN and celsius is None:
        celsius = oven_celsius or verb.celsius or 200.0
        if oven_celsius is None:
            guessed.add("celsius")
    trays = max(1, -(-round(_grams_of(text, ingredients)) // TRAY_G)) if device == OVEN else 1
    words = "; ".join((*clause.before, clause.written or text, *clause.notes))
    sentence = f"{words[0].upper()}{words[1:]}"
    return Task(
        key,
        dish,
        sentence,
        verb.name,
        hands,
        wait,
        device,
        celsius if device == OVEN else None,
        min(trays, MOST_TRAYS),
        night=night,
        guessed=frozenset(guessed),
        dishes=(dish,),
    )


AT_LEAST = re.compile(r"\bat least\b|\bor up to\b|\bor (?:longer|more|overnight)\b|\bup to\b")
STOOD_BY = re.compile(
    r"\b(?:constantly|continuously|often|frequently|all the time|keep stirring)\b"
)
ALL_BY_HAND_MIN, STOOD_BY_SHARE = (
    10.0,
    0.4,
)  # a longer time in a pan is short and often: our judgement


def _minutes_of(text: str, minutes: tuple[float, float]) -> Minutes:
    """A written time. "At least 30 minutes or up to 4 hours" is planned with the least of them."""
    low, high = minutes
    if AT_LEAST.search(text) and high > low:
        return Minutes(low, low, high)
    return Minutes(low, (low + high) / 2, high)


def _is_shorter(text: str, written: Minutes | None) -> bool:
    """True for "2 hours or overnight", which fits into the evening; 4 hours do not."""
    return bool(written is not None and OR_OVERNIGHT.search(text) and written.low < NO_EVENING_MIN)


def _hands_and_wait(text: str, device: str, written: Minutes) -> tuple[Minutes, Minutes]:
    """A time in a pan: all of it by hand where it is short or stirred often, else a share."""
    if device != BURNER or written.likely <= ALL_BY_HAND_MIN or STOOD_BY.search(text):
        return written, Minutes()
    return written.times(STOOD_BY_SHARE), written.times(1 - STOOD_BY_SHARE)


TRAY_G, MOST_TRAYS = 1000, 2  # two trays rather than a crowded one: common practice
CUT = frozenset({"chop", "grate"})
MOST_MORE_HANDS = 12.0  # minutes: a guess from grams is not stretched further


def _usual_wait(verb: Verb, text: str, ingredients: Sequence[Ingredient]) -> Minutes:
    """The table's time of a verb; for grains and beans that are named, the longest of theirs."""
    known = [one.simmers for one in named_in(text, ingredients) if one.simmers is not None]
    if BRINGS_TO_BOIL.search(text) or verb.name not in ("boil", "simmer", "cook") or not known:
        return verb.wait
    return max(known, key=lambda minutes: minutes.likely)


def _is_of_hands(verb: Verb, device: str, written: Minutes) -> bool:
    """True where a written time is stood beside, false where it passes alone."""
    if verb.device == BURNER and verb.timed == "w":
        return written.high <= HANDS_AT_MOST
    return verb.timed == "h" and device != OVEN


def _device_of(clause: Clause) -> str:
    """The verb's usual device, or the one the words name."""
    text, verb = clause.text, clause.verb
    if verb.kind in ("early", "end"):
        return ""
    if verb.kind == "cook" and UNDER_PRESSURE.search(text) and verb.name != "rest":
        return PRESSURE
    heated = read_step(text).celsius is not None  # no pan is told its degrees
    if verb.device == BURNER and (heated or IN_THE_OVEN.search(text)):
        return OVEN
    if re.search(r"\bblender\b|\bfood processor\b", text):
        return BLENDER
    return verb.device


def named_in(text: str, ingredients: Sequence[Ingredient]) -> list[Ingredient]:
    """The ingredients that a text names."""
    plain = re.findall(r"[a-zé-]+", text.lower())
    words = {word.rstrip("s").removesuffix("e") for word in plain}
    return [one for one in ingredients if one.words & words]


def _grams_of(text: str, ingredients: Sequence[Ingredient]) -> float:
    """Grams of what a clause names; of everything where it names nothing."""
    named = named_in(text, ingredients) or list(ingredients)
    return sum(one.grams for one in named)


def _more_hands(verb: Verb, text: str, ingredients: Sequence[Ingredient]) -> float:
    """More minutes of hands for more food."""
    if not verb.per_100g:
        return 0.0
    named = named_in(text, ingredients)
    if not named and (verb.kind == "early" or EVERYTHING.search(text.lower())):
        named = [one for one in ingredients if verb.kind != "early" or one.is_vegetable]
    if verb.name in CUT:
        return sum(cutting_min(text, one.grams, one.family) for one in named)
    return min(verb.per_100g * sum(one.grams for one in named) / 100, MOST_MORE_HANDS)


def tasks_of_step(
    step: str, key: str, dish: str, ingredients: Sequence[Ingredient], oven_celsius: float | None
) -> list[tuple[Clause, Task]]:
    """The clauses of a step with their tasks, keyed `key`-1, `key`-2 …

    A heat that was written holds for what goes into the oven after it; what is left overnight was
    put together before, on the same evening.
    """
    found: list[tuple[Clause, Task]] = []
    oven_celsius = oven_heat_of([step]) or oven_celsius
    for n, clause in enumerate(clauses_of(step), start=1):
        task = task_of_clause(clause, f"{key}-{n}", dish, ingredients, oven_celsius)
        if task.device == OVEN and "celsius" not in task.guessed:
            oven_celsius = task.celsius
        if task.night:
            found = [(c, replace(t, night=True)) for c, t in found]
        found.append((clause, task))
    return found


def oven_heat_of(steps: Sequence[str]) -> float | None:
    """The heat of "heat the oven to …", for what is roasted later without a figure."""
    for step in steps:
        if re.search(r"heat (?:the |your )?oven", step.lower()):
            heat = read_step(step).celsius
            if heat is not None:
                return heat
    return None
