"""Steps of a recipe cut into clauses: one thing to do each, with a known verb, and what stands
beside it and is no work (another way, how it keeps, what need not be done).
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from functools import lru_cache

from dietetics.amounts.denials import NOT_TO_DO
from dietetics.amounts.number_words import ONE_OF_WHOLE, WHOLE
from dietetics.composition.foods import cell_number, read_table
from dietetics.dishes.steps import read_step
from dietetics.prep.tasks import Minutes
from dietetics.untrusted_input import ascii_digits

MOST_STEP = 600  # characters read at once: a longer step is read in parts
AT_THE_END = re.compile(
    r"\b(?:at the (?:very )?end|(?:just )?before serving|to serve|serve immediately|last)\b"
)
MEANWHILE = re.compile(r"^(?:meanwhile|while\b|in the meantime|at the same time)")
NO_TASK = re.compile(
    r"^(?:(?:pre-?)?heat (?:the |your )?oven|(?:reduce|lower|turn (?:off|down|up))\b|keeps?\b|"
    r"store\b|serve\b|enjoy\b|line (?:a|the|two)\b|take out\b|note\b|cool leftovers|"
    r"(?:return|put) (?:the pan|the pot|it) (?:back )?(?:on|onto|to|over) (?:the|a [a-z]+) heat)"
)
# What is no work of the evening and is read beside it: what need not be done, another way, what
# happens to what is left over.
DENIED = rf"{NOT_TO_DO}\b"
NOTE = re.compile(
    rf"^\(?(?:{DENIED}|you can also|or\b(?! until\b)|you(?:'ll| will)? need\b|"
    r"you (?:can|could|may) (?:even |instead |use |make |swap )|"
    r"alternatively|optional(?:ly)?\b|if you(?:'d| would)? (?:don't|do not|prefer|like|want|wish)|"
    r"if (?:preferred|desired|liked)|tips?:|notes?\b|"
    r"tip\b(?! (?:in|into|it|them|the|out|onto|over)\b)|"
    r"(?:it |they |this |these |leftovers? |(?:the|any) [a-zé -]{1,30}? )?"
    r"(?:will |can |should |may )?"
    r"(?:keeps?|stores?|freezes?|lasts?|be (?:kept|stored|frozen)) (?:well|in|for|up|until)\b|"
    r"store\b|leftovers?\b|"
    r"(?:it|they|this|these|the [a-zé -]{1,30}?) (?:will|should|may|might) "
    r"(?!(?:now |then )?(?:need|take|be ready|rest|rise|chill|soak|simmer|cook|bake|boil|marinate|"
    r"stand|sit|cool|steep|go|stay)\b)|"
    r"(?:it|this|they|these) (?:tastes?|is|are|gets?) (?:even |at (?:its|their) )?"
    r"(?:best|better)\b|"
    r"(?:let (?:it|them|the [a-z]+) )?thaw\b.*\bbefore (?:reheating|eating|serving)|"
    r"freeze (?:(?:any |the |your )?(?:left|rest\b|extra)|(?:what|whatever|any(?:thing)?)\b))"
)
# In brackets behind something to do: "(or bake for 20 minutes)", "(skip this if they are soft)".
IN_BRACKETS = re.compile(
    r"\s*\((?:or|if|unless|optional(?:ly)?|skip|you|no need|don't|do not)\b[^()]*\)"
)
# "Don't drain the beans, add them": what is denied ends at the comma.
STARTS_DENIED = re.compile(rf"^{DENIED}")
AFTER_DENIED = re.compile(r",\s*(?:but |just |instead |simply )*")
# "Once it has been in the freezer for 25 minutes, cut it": what was done before.
SAID_BEFORE = re.compile(
    r"^(?:once|when|after|as soon as) (?:it|they|the [a-zé -]{1,30}) "
    r"(?:has|have|is|are|had|was|were)\b[^,]*(?:,|$)|"
    r"^(?:once|when) (?:cool|cold|cooled|soft|done|hot|tender|ready)(?: enough[^,]*)?(?:,|$)"
)
NIGHT_BEFORE = re.compile(r"\b(?:night|evening|day) before\b")
BRINGS_TO_BOIL = re.compile(r"\b(?:bring|return)\b.*\b(?:boil|simmer)\b")
# Where one clause ends and the next begins. A comma or an "and" ends one only before a verb.
STOPS = re.compile(r"[.;](?:\s|$)")
THEN = re.compile(r",?\s+(?:and\s+)?then\s+")
BEFORE_VERB = re.compile(r",\s*(?:and\s+)?|\s+and\s+")
EVERYTHING = re.compile(
    r"\beverything\b|\ball\b(?!-| (?:over|the way|the time|a?round|night|day|purpose)\b)"
)
# What stands in front of a verb and leaves it one: "let it rest", "leave to cool", "finely chop".
LEAD_IN = re.compile(
    r"^(?:(?:let|allow)\b(?: (?:it|them|everything|the [a-zé]+(?= (?:to )?[a-z]+)))?(?: to)?|"
    r"leave(?: (?:it|them))? to|set (?:it |them )?aside to|to|gently|carefully|finely|roughly|"
    r"coarsely|thinly|lightly|thoroughly|briefly|slowly|gradually|quickly|again|now|next|finally|"
    r"first|just) "
    r"(?:(?:gently|carefully|finely|roughly|coarsely|thinly|lightly|slowly) )*"
)
# Words that look like verbs and are none where they stand.
NOUNS = re.compile(
    r"\b(?:(?:low|medium|high|gentle|the|over|off)[- ]+)+heat\b|"
    r"\b(?:on|the|to|at|from) top\b|\bdry pan\b|\bto taste\b|\bthe rest\b|"
    r"\b(?:a|single|one|even|the|each) layers?\b|\b(?:a|the|[a-z]+) glaze\b|\bto coat\b|"
    r"\b(?:plastic|cling|food|bread|tortilla)[- ]?wraps?\b|\b(?:a|pastry) brush\b"
)
# "Stir the flour, salt and yeast": a food, unless it is said of what.
NAMES_TOO = re.compile(
    r"(?:salt|juice|zest)\b(?! (?:the|it|them|both|generously|lightly|well|[a-z]+s)\b)"
)
COMPOUND = re.compile(r"\b(air|slow|pressure|stir|steam|water|pan)[ -](fry|cook)\b", re.IGNORECASE)
# "Heat the oil in a large pan": a minute or two, and no pot that has to get hot through.
HEATS_A_PAN = re.compile(
    r"^(?:just before[^,;.]{0,30}, |in (?:a|an|another|the same) [^,;.]{0,30}?"
    r"(?:pan|skillet|wok|pot|saucepan),? )?(?:heat|warm)\b[^,;.]{0,40}?\b"
    r"(?:oil|pan|skillet|wok|griddle|splash of (?:water|stock|broth))\b"
)
# "Fill the peppers with the mixture" shares nothing out.
FILLED = re.compile(r"^(?:fill|pack)\b(?!.*\b(?:containers?|jars?|boxes|bags?|portions?)\b)")
# The setting of a slow cooker, whether it is named there or not.
FOR_HOURS_ON_LOW = re.compile(r"^cook\b.*\bon (?:low|high)\b.*\bhours?\b|^cook\b.*\bslow.cooker\b")
# "Press the mixture into the tin" takes no weight and no wait.
PRESSED_INTO = re.compile(r"^press\b.*\b(?:into|onto|in|to) (?:the|a|an|your) ")
# "Divide the dough into 6 pieces" and "between two trays" share nothing out for the days.
DIVIDED = re.compile(
    r"^(?:divide|split)\b.*\b(?:dough|pieces|balls|patties|rounds|trays?|tins?|cases|sheets?|pans?|"
    r"moulds?|molds?)\b"
)
BETWEEN_VESSELS = re.compile(r"\b(?:trays?|tins?|cases|sheets?|pans?|moulds?|molds?)\b")
UNDER_A_WEIGHT = re.compile(
    r"\b(?:heavy|weights?)\b.*\bon (?:top|it|them)\b|\bweigh (?:it|them) down\b"
)
UNDER_THE_GRILL = re.compile(
    r"\bunder (?:a |an |the )(?:(?:hot|preheated|medium|high) )*(?:grill|broiler)\b"
)
INTO_THE_OVEN = re.compile(
    r"^(?:put|place|return|slide|pop|move|transfer)\b.*\b(?:in|into|to) (?:the|a|your) "
    r"(?:hot |preheated )?oven\b(?! to (?:heat|warm|get hot))"
)
# What stands on no heat any more only waits.
OFF_THE_HEAT = re.compile(r"^(?:let )?(?:it |them )?(?:steam|cook|stand|sit)\b.*\boff the heat\b")
# A sentence that tells to do something in a word nobody knows: "julienne the carrots".
UNKNOWN_WORD = re.compile(
    r"^(?!(?:check|use|keep|make|be|remember|watch|test|try|have|if|when|once|as|so|then|in|on|at|"
    r"with|for|from|until|after|before|while|by|that|this|these|those|there|here|it|they|you|we|i|"
    r"is|are|was|not|but|and|or|all|both|some|most|just|because|see|skim|cover|uncover|serve|enjoy|"
    r"take|remove|go|do|like|unlike|into|over|under|of|about|around|than|what|which|who|how|why|"
    r"where|wait|count|repeat|continue|allow|let|leave|set|open|close|switch|turn|reduce|lower|"
    r"raise|increase|discard|reserve|save|transfer|move|place|lift|seal|lock|line|grease|oil|"
    r"preheat|store|tip|note|needs?|gives|makes|tastes?|smells?|feels?|looks?|half|each|every|"
    r"ensure|adjust|during|think|know|hope|love|despite|besides)\b)"
    r"(?![a-z]+(?:ing|ful|ly)\b)[a-zé]{3,} (?:the|them|it|each|your|half)\b"
)
# "This should take about 20 minutes" is the time of what was said before.
TAKES = re.compile(r"^(?:it|this|that|these|they)(?: will| should| usually)? takes?\b")
SET_ASIDE = re.compile(
    r"\bset (?:it |them )?aside for (?:about |at least |around )?(?:\d|an? |half |[a-z]+ minutes)"
)
IN_A_MARINADE = re.compile(r"\bin the marinade\b")
# "Refrigerate for up to 2 weeks": how it keeps. "Overnight or up to 2 days" is a wait.
KEEPS_DAYS = re.compile(
    r"^(?!.*\b(?:overnight|at least|hours?|minutes?)\b)(?:cover(?:ed)? and |then )?"
    r"(?:refrigerate|chill|freeze|keep|put|place|leave)\b.*\bup to "
    r"(?:an?|one|two|three|four|five|six|\d+)(?:[ -](?:or|to) \w+)?[ -]*(?:days?|weeks?|months?)\b"
)
# "Adding the peas for the last 3 minutes", "flip them halfway": inside the time of another step.
IN_THE_LAST = re.compile(
    rf"\b(?:for|in|during|with) the (?:last|final) (?:(?P<many>\d+|{ONE_OF_WHOLE}|few|couple of) )?"
    r"(?:minutes?|mins?)\b|\b(?P<before>\d+) (?:minutes?|mins?) before the end\b"
)
HALFWAY = re.compile(
    r"\b(?:half[- ]?way|mid-?way)(?: (?:through|point|into))?\b|\bat half[- ]time\b"
)
# "Swap the trays over after 20 minutes": some way through, near enough its middle.
TURNED_AFTER = re.compile(
    r"^(?:turn|flip|swap|rotate|shake|toss|stir)(?:ing)?\b[^.;]*\bafter (?:the first )?\d+ min"
)
AT_HALFWAY, FEW_MIN = -1.0, 3.0
AFTER_WHICH = re.compile(
    r"(?:,|\band)\s*(?=[a-z]+ing\b[^,;]*(?:\b(?:last|final)\b[^,;]*\bmin|\b(?:half|mid)[- ]?way))"
)
# What is done on the day of eating, where it takes neither heat nor time.
ON_THE_DAY = re.compile(
    r"\b(?:just |right |immediately |shortly )?before (?:serving|eating|you (?:serve|eat))\b|"
    r"\bin the morning\b|\bto serve\b(?! with)|\bat the table\b|\bon the day\b|"
    r"\b(?:when|as) (?:you (?:are |'re )?)?(?:ready to )?(?:serv|eat)(?:e|ing)?\b"
)


# Verbs that are said in other words.
SAID_OTHERWISE = (
    ("spread", PRESSED_INTO),
    ("spread", FILLED),
    ("slow-cook", FOR_HOURS_ON_LOW),
    ("marinate", re.compile(r"\bmarinate\b")),
    ("marinate", IN_A_MARINADE),
    ("chill", re.compile(r"^leave\b.*\b(?:fridge|refrigerator)\b")),
    ("press", UNDER_A_WEIGHT),
    ("grill", UNDER_THE_GRILL),
    ("bake", INTO_THE_OVEN),
    ("rest", OFF_THE_HEAT),
    ("rest", SET_ASIDE),
)


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
class Clause:
    """A piece of a step with one verb. `beside` runs at the same time as the task before; `before`
    and `notes` are what is said in front of it and after it and is no work. `during` is done so
    many minutes before the end of what is on the heat, at its middle where it is below zero;
    `on_day` on the day of eating.
    """

    text: str
    verb: Verb
    beside: bool = False
    at_end: bool = False
    written: str = ""
    before: tuple[str, ...] = ()
    notes: tuple[str, ...] = ()
    night: bool = False
    during: float = 0.0
    on_day: bool = False
    sentence: int = 0  # its number in the step


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
    return {verb.name: verb for verb in _verbs()[0].values()}[name]


def _starts_with_verb(text: str) -> re.Match[str] | None:
    """A verb at the head of a clause, where an imperative stands; "let it" and the like before it
    are passed over.
    """
    _, pattern = _verbs()
    if NAMES_TOO.match(text):
        return None
    found = pattern.match(LEAD_IN.sub("", text))
    return None if found and _is_participle(found[0]) else found


def _is_participle(word: str) -> bool:
    """True for "steamed", which is said of a food; "shred" and "knead" are something to do."""
    forms, _ = _verbs()
    return word.endswith("ed") and any(
        word[: -len(end)] + put in forms for end, put in (("ed", ""), ("d", ""), ("ied", "y"))
    )


def _asides_behind(sentence: str) -> list[str]:
    """A sentence without what stands in brackets and is another way or a hint, and these behind
    it: "fry for 4 minutes (or bake for 20)".
    """
    asides = [match[0].strip() for match in IN_BRACKETS.finditer(sentence)]
    return [IN_BRACKETS.sub("", sentence), *asides]


def _pieces(text: str) -> Iterator[tuple[int, str]]:
    """A step cut where one thing to do ends and the next begins, each with the number of its
    sentence.
    """
    for number, sentence in enumerate(STOPS.split(text)):
        plain, *asides = _asides_behind(sentence)
        parts = (part for one in THEN.split(plain) for part in AFTER_WHICH.split(one))
        for piece in (piece for part in parts for piece in _cut(part.strip())):
            yield number, piece
        yield from ((number, aside) for aside in asides)


def _cut(rest: str) -> Iterator[str]:
    """A part of a sentence cut before each verb, and behind a note."""
    if NOTE.search(rest):
        note, rest = _note_and_rest(rest)
        yield note
    while rest:
        cut = next(
            (
                m
                for m in BEFORE_VERB.finditer(rest)
                if _starts_with_verb(rest[m.end() :]) and rest[: m.start()] != "taste"
            ),
            None,
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
    keeps = NOTE.search(piece) or KEEPS_DAYS.search(piece) or IN_BRACKETS.fullmatch(piece)
    is_stirred = is_begun and piece.startswith("stirring") and not _during(piece)
    if keeps or NO_TASK.search(piece) or is_stirred:
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
    reading = _Reading(bool(AT_THE_END.search(text)))
    for sentence, piece in _pieces(text):
        reading.take(sentence, piece)
    return [
        replace(
            one,
            night=bool(NIGHT_BEFORE.search(text)),
            written=_as_written(one.text, text, written),
            before=tuple(_as_written(note, text, written) for note in one.before),
            notes=tuple(_as_written(note, text, written) for note in one.notes),
        )
        for one in reading.clauses()
    ]


class _Reading:
    """A step while its pieces are taken up one after another."""

    def __init__(self, at_end: bool) -> None:
        self.at_end = at_end
        self.found: list[Clause] = []
        self.before: list[str] = []  # no work, and stands in front of the next clause
        self.rest: list[str] = []  # what no verb is known for
        self.lead: list[str] = []  # said in front of the verb: "halfway through, turn them"
        self.during = 0.0
        self.sentence = -1
        self.is_beside = self.on_day = False

    def take(self, sentence: int, piece: str) -> None:
        """The next piece: a clause, part of the one before, or something said beside."""
        if MEANWHILE.search(piece):
            self.is_beside = True
            if piece.startswith("while"):
                self.before.append(piece)  # a task already
                return
            piece = MEANWHILE.sub("", piece).strip(" ,")
        note, piece = _said_beside(piece, bool(self.found))
        if note and (piece or not self.found):
            self.before.append(note)
        elif note:
            self._behind(note)
        if self.found and TAKES.search(piece):
            self.found[-1] = replace(self.found[-1], text=f"{self.found[-1].text}, {piece}")
            return
        verb = _verb_or_time(piece)
        is_new = sentence != self.sentence
        self.sentence = sentence
        if verb is None and is_new and UNKNOWN_WORD.search(piece):
            verb = verb_named("do")
        if verb is not None:
            self._add(sentence, piece, verb)
        elif ON_THE_DAY.search(piece) or _during(piece):
            self.on_day = self.on_day or bool(ON_THE_DAY.search(piece))
            self.during = _during(piece)
            self.lead.append(piece)
        elif self.found and piece and not self.found[-1].text.endswith(piece):
            self.found[-1] = replace(self.found[-1], text=f"{self.found[-1].text}, {piece}")
        elif re.search(r"\w", piece):
            self.rest.append(piece)

    def _add(self, sentence: int, piece: str, verb: Verb) -> None:
        self.on_day = self.on_day or bool(ON_THE_DAY.search(piece))
        self.found.append(
            Clause(
                ", ".join((*self.lead, piece)),
                verb,
                self.is_beside,
                self.at_end,
                before=tuple(self.before),
                during=_during(piece) or self.during,
                on_day=self.on_day,
                sentence=sentence,
            )
        )
        self.is_beside, self.during, self.lead, self.before = False, 0.0, [], []

    def _behind(self, note: str) -> None:
        """A note on the clause before."""
        self.found[-1] = replace(self.found[-1], notes=(*self.found[-1].notes, note))

    def clauses(self) -> list[Clause]:
        """What was found, with all that was said and is none of it."""
        rest = [*self.rest, *self.lead]
        if self.found and rest:
            first = self.found[0]
            self.found[0] = replace(first, text=", ".join((*rest, first.text)))
        elif rest:
            verb = verb_named("do")
            text = ", ".join(rest)
            self.found = [Clause(text, verb, self.is_beside, self.at_end, on_day=self.on_day)]
        if self.found:
            for note in self.before:
                self._behind(note)
        return self.found


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


def _during(piece: str) -> float:
    """Minutes before the end of what is on the heat, `AT_HALFWAY` for its middle; 0 where it is not
    said.
    """
    if HALFWAY.search(piece) or TURNED_AFTER.search(piece):
        return AT_HALFWAY
    last = IN_THE_LAST.search(piece)
    if last is None:
        return 0.0
    many = last["many"] or last["before"]
    if many is None:
        return 1.0
    if many.isdigit():
        return float(many)
    return float(WHOLE.get(many, FEW_MIN))


def _imperative(piece: str) -> str:
    """ "adding the peas" as "add the peas"."""
    forms, _ = _verbs()
    word = re.match(r"^([a-z]+)ing\b", piece)
    if word is None:
        return piece
    stem = word[1]
    for form in (stem, stem + "e", stem[:-1]):
        if form in forms:
            return form + piece[word.end() :]
    return "turn" + piece[word.end() :] if stem in ("rotat", "shak", "bast") else piece


def _verb_or_time(piece: str) -> Verb | None:
    """The verb of a piece; "do" where nobody knows the word, and it takes its time."""
    timed = read_step(piece).minutes is not None
    if _during(piece):
        piece = _imperative(piece)
    return _verb_of(piece) or (verb_named("do") if timed else None)


def _verb_of(piece: str) -> Verb | None:
    by_form, pattern = _verbs()
    if piece.startswith("transfer to a blender"):
        return None  # what is done there is said after it
    if BRINGS_TO_BOIL.match(piece):
        return by_form["boil"]
    if DIVIDED.search(piece):
        return by_form["spread" if BETWEEN_VESSELS.search(piece) else "shape"]
    said = next((name for name, words in SAID_OTHERWISE if words.search(piece)), "")
    if said:
        return by_form[said]
    match = _starts_with_verb(piece) or pattern.search(NOUNS.sub("", piece))
    return by_form[match[0]] if match else None
