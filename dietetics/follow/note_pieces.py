"""A line of what was measured, cut into pieces that hold one value each; and which pieces tell of
something that is not the client's own, measured and true now: a goal, a condition, a doubt, a
denial, a change, a range, the past, or somebody else. Those stay as remarks, whatever they name.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import cache

from dietetics.follow.kinds import names
from dietetics.follow.written_days import MONTHS, is_day_word

NUMBER = r"\d{1,7}(?:\.\d{1,6})?"  # bounded, so that a row of figures is walked along once
PRESSURE = re.compile(
    r"(?:\b(?:bp|b\.p\.|blood pressure)(?!\w)[^\d/]{0,20}"
    r"(?P<high>\d{2,3})\s*(?:/|over)\s*(?P<low>\d{2,3})"
    r"|(?<![\d/.])(?P<bare_high>\d{2,3})\s*/\s*(?P<bare_low>\d{2,3})(?=\s*mm\s?hg))"
    r"(?P<more>[/\d])?(?:\s*mm\s?hg)?",
    re.IGNORECASE,
)
# "71.9 kg 121/79": two figures as far apart as pressures are, and no word.
BARE_PRESSURE = (
    r"(?<![\d/.])(?:[89]\d|1\d\d|2[0-3]\d)/(?:[4-9]\d|1[0-4]\d)(?![\d/.])"
    r"(?!\s*(?:g|kg|ml|cal|kcal|%)\b)"
)
_POUNDS = rf"(?:\s*{NUMBER}\s*(?:lbs?|pounds?)?(?![\w/]))?"
WEIGHED = rf"(?<![\w.])[-−]?{NUMBER}\s*(?:(?:kgs?|kilos?|lbs?|pounds?)\b|(?:st|stones?)\b{_POUNDS})"
FEET = re.compile(
    r"(?<![\w.])\d(?:\.\d+)?\s*(?:'|′|’|ft\b\.?|feet\b|foot\b)\s*"
    r"(?:\d{1,2}(?:\.\d+)?\s*(?:\"|″|”|''|in\b|inch(?:es)?\b)?)?",
    re.IGNORECASE,
)
# A single letter names a kind only as laboratories write it.
SHORT = {
    "k": r"(?:\bK\b\+?|(?<!\d\s)(?<!\d)\bk\b(?=\s*\d)|(?<!\d)\bk\b(?=\s*\d\.\d))",
    "na": r"(?:\bNa\b|\bna\b(?=\s*\d))",
    "w": r"\b[Ww]\b(?=\s*:?\s*\d{2,3}(?![\d/]))",
}
PULSE = re.compile(r"(?<![\w.])[Pp]\s*:?\s*(?=\d{2,3}(?![\d./]))")

_DECIMAL_COMMA = re.compile(r"(?<=\d),(?=\d{1,2}(?!\d))")
_THOUSANDS = re.compile(
    r"(?<![\d.])(\d{1,3})[ ,.\u00a0\u2009](\d{3})(?=\s*steps\b)"
    r"|(?<=\bsteps )(\d{1,3})[ ,](\d{3})\b",
    re.IGNORECASE,
)
_TIMES = re.compile(r"(?<!\w)[x×](?=\d)|(?<=\d)[x×](?!\w)", re.IGNORECASE)
_THOUSAND_STEPS = re.compile(
    r"(?<!\d)(\d{1,3}(?:\.\d)?)\s?k\b(?=\s*steps\b)|(?<=\bsteps )(\d{1,3}(?:\.\d)?)\s?k\b",
    re.IGNORECASE,
)
# "(was 7.8)", "(-0.6)": what a value is compared with
# "(ref 30-200)": the range of the laboratory
_OF_THE_LAB = re.compile(
    r"(?<=[(\[])\s*(?:ref(?:erence)?\.?(?: range)?|normal(?: range)?|range|norm)\s*:?\s*(?=\d)",
    re.IGNORECASE,
)
_INCHES = re.compile(r"(?<!['′’.\d])(\d{2,3}(?:\.\d{1,2})?)\s?[\"″”](?!\w)")  # waist 32"
_POUND_SIGN = re.compile(r"(?<![\w.])(\d{2,3}(?:\.\d{1,2})?)\s?#(?!\w)")
_POUNDS_AND_OUNCES = re.compile(
    r"(?<![\w.])(\d{1,3})\s*(?:lbs?|pounds?)\s*(\d{1,2}(?:\.\d)?)\s*(?:oz|ounces?)\b",
    re.IGNORECASE,
)
_COMPARED = re.compile(
    r"[(\[]\s*(?:was|last|prev(?:ious)?|from|before|[-+−±]\s?\d)[^)\]]*[)\]]", re.IGNORECASE
)
# "down to 71 kg from 72"
_FROM = re.compile(rf"(?<=[\dgbs]) from {NUMBER}(?:\s?(?:kg|lbs?|cm))?\s*$", re.IGNORECASE)
# "bloods 24/11: K 4.6, …": what comes, and its day, before a colon
_HEADED = re.compile(
    r"^\s*((?:fasting |her |his |new )?(?:bloods?|labs?|lab results|"
    r"blood (?:tests?|works?|results?)|results?|lipids?|lipid (?:panel|profile)|vitals|obs|"
    r"renal|kidney|thyroid|iron(?: studies)?|vitamins)\b[^:]{0,30}?)\s?(?::|\s[-–])(?=\s)",
    re.IGNORECASE,
)
# "labs from March", "bloods last year": of which day is not said, so that no value is kept
_SOME_TIME = re.compile(
    r"^\D*\b(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*\b\D*$"
    r"|\b(?:months?|years?|spring|summer|autumn|fall|winter|visit|time|before|previous|old)\b",
    re.IGNORECASE,
)
_ASIDE = re.compile(r"[(\[]([^()\[\]\d]{4,60})[)\]]")
_TIMES_A_DAY = re.compile(
    r"\b(bowels?(?: movements?)?|stools?|bms?)\b(\D{0,12}?)\b(once|twice|three times)\b",
    re.IGNORECASE,
)
_TIMES_SAID = {"once": "1", "twice": "2", "three times": "3"}
_OVER = re.compile(r"(?<=\d)\s+over\s+(?=\d)", re.IGNORECASE)
_CUT = re.compile(r"[,;\n]|(?<=[a-z%])\.\s+(?=[A-Za-z])")
_AND = re.compile(r"\s+and\s+", re.IGNORECASE)
_BETWEEN = re.compile(r"\bbetween\b", re.IGNORECASE)

# Words that may stand beside a value and change nothing of it. With any other word the piece is a
# remark: "goal weight 68 kg", "lost 2 kg" and "B12 50 µg daily" are no measurements.
BESIDE = frozenset(
    {"a", "about", "back", "came", "comes", "he's", "she's",
     "after", "again", "ago", "am", "approx", "arm", "at", "bare", "bed", "before",
    "blood", "breakfast", "ca", "client", "clinic", "clothed", "clothes", "day", "dinner", "down",
    "drank", "dressed", "each", "evening", "fasting", "first", "four", "from", "gp", "h", "had",
    "has", "he", "her", "his", "home", "hospital", "in", "is", "jeans", "lab", "laboratory", "last",
    "low", "high",
    "raised", "slightly", "only", "just", "here", "fasted", "resting", "checked",
    "left", "level", "lunch", "me", "measured", "mine", "morning", "my", "naked", "navel", "new",
    "night", "noon", "now", "of", "on", "our", "own", "patient", "per", "plasma", "pt", "reg",
    "regular", "reported", "reports", "result", "right", "said", "says", "scale", "scales", "serum",
    "she", "shoes", "sitting", "slept", "stable", "standing", "states", "steady", "still", "tall",
    "the", "this",
    "three", "to", "today", "toilet", "two", "up", "value", "w", "was", "wearing", "week", "weeks",
    "with", "without", "x"}
)  # fmt: skip

# --- what is not the client's own, measured and true now
_DOWN_TO = re.compile(
    r"\bdown to\b|^\s*(?:weight |now |is |(?:she|he)(?:'s| is) )?(?:now |back )?up to\b",
    re.IGNORECASE,
)
_NOT_MEASURED = re.compile(
    r"\b(?:goals?|targets?|aim(?:s|ing)?|ideal(?:ly)?|want(?:s|ed)?|wish(?:es)?|hop(?:e|es|ed|ing)|"
    r"should|ought|must|needs? to|keep|limit|max(?:imum)?|minimum|less than|more than|over|"
    r"under|below|above|at most|at least|up to|reach(?:ed|es)?|exceeds?)\b|[<>≤≥]|"
    r"\b(?:if|when(?:ever)?|unless|in case|once|until)\b|"
    r"\?|\b(?:maybe|perhaps|might|could|possibl[ey]|probably|unsure|not sure|or so|i think|guess|"
    r"reckons?|supposedly|apparently)\b|"
    r"\b(?:not|no|never|nor|neither|\w+n't|without(?! (?:shoes?|clothes|food|breakfast|coat)))\b|"
    r"\b(?:down|up|lost|loses?|losing|loss|gain(?:s|ed|ing)?|dropp?(?:s|ed)?|increas(?:e[sd]?|ing)|"
    r"decreas(?:e[sd]?|ing)|rose|fell|lighter|heavier|less|more|minus|plus)\b|(?<![\w.])[+]\s?\d|"
    r"\bfrom\s+\d[\d.]{0,6}\s*(?:kg|lbs?|cm)?\s+to\s+\d|"
    r"^\s*\d{1,2}\s*:\s|\blast (?!week|night|mon|tue|wed|thu|fri|sat|sun)|"
    r"\b(?:used to|last year|years? ago|months? ago|in (?:19|20)\d\d|pre-?pregnancy|"
    r"before (?:the )?pregnancy|heaviest|lightest|highest|lowest|ever|previous(?:ly)?|formerly|"
    r"originally|usual(?:ly)?|normally|at (?:birth|school|age \d+)|"
    r"at \d{1,2}\b(?!\s*(?:[:.]\d|am\b|pm\b|h\b|o'clock|[a-zµμ]{1,4}/|kg\b|lbs?\b|cm\b|%)))\b",
    re.IGNORECASE,
)
_SOMEBODY_ELSE = re.compile(
    r"\b(?:mom|mum|mam|mother|dad|father|parents?|husband|wife|partner|spouse|son|daughter|sister|"
    r"brother|siblings?|twins?|friend|neighbou?r|colleague|boyfriend|girlfriend|baby|kids?|child|"
    r"children|grand\w+|grandma|grandpa|nana|aunt|uncle|cousin|dog|cat|roommate|flatmate|"
    r"\w+-in-law)(?:'s|s')?\b",
    re.IGNORECASE,
)
_THE_CLIENT = re.compile(
    r"^\s*(?:she|he|they|client|patient|pt|self|own|i)\b|\b(?:me|mine|own)\b", re.IGNORECASE
)
_RANGE = re.compile(
    rf"(?<![\w.(\[/-]){NUMBER}\s?[-–]\s?{NUMBER}(?![\d-])|\bbetween\b", re.IGNORECASE
)  # fmt: skip


def pieces_of(line: str) -> list[str]:
    """The pieces of a line at its commas, semicolons, full stops and "and"; a decimal comma is a
    point first, "10 000 steps" one number.
    """
    plain = _THOUSANDS.sub(lambda m: "".join(filter(None, m.groups())), line)
    plain = _TIMES.sub(" x ", _DECIMAL_COMMA.sub(".", plain))
    plain = _POUNDS_AND_OUNCES.sub(lambda m: f"{float(m[1]) + float(m[2]) / 16:.2f} lb", plain)
    plain = _INCHES.sub(r"\1 in", _POUND_SIGN.sub(r"\1 lb", _OF_THE_LAB.sub("", plain)))
    plain = _THOUSAND_STEPS.sub(lambda m: f"{float(m[1] or m[2]) * 1000:.0f}", plain)
    headed = _HEADED.match(plain)
    if headed is not None and not _SOME_TIME.search(headed[1]):
        plain = _HEADED.sub(r"\1, ", plain)
    plain = _TIMES_A_DAY.sub(lambda m: f"{m[1]}{m[2]}{_TIMES_SAID[m[3].lower()]}", plain)
    found: list[str] = []
    for piece in _CUT.split(plain):
        whole = _BETWEEN.search(piece) or not re.search(r"\d", piece)
        found += [piece] if whole else _AND.split(piece)
    return [piece.strip() for piece in found if piece.strip()]


def without_comparison(piece: str) -> tuple[str, str]:
    """A piece without what its value is compared with, in brackets or behind "from", and that."""
    found = _COMPARED.search(piece) or _FROM.search(piece)
    if found is None or not re.search(r"\d", piece[: found.start()]):
        return piece, ""
    return f"{piece[: found.start()]} {piece[found.end() :]}".strip(), found[0]


def without_aside(piece: str) -> tuple[str, str]:
    """A piece without words in brackets behind its value that change nothing of it, and those:
    "potassium 5.2 (repeat in a week)". A doubt, another person and a day stay where they are.
    """
    found = _ASIDE.search(piece)
    if found is None or not re.search(r"\d", piece[: found.start()]):
        return piece, ""
    words = found[1].split()
    says_more = is_told(found[1]) or _SOMEBODY_ELSE.search(found[1]) or _COMPARED.match(found[0])
    plain = all(word.lower() in BESIDE for word in words)
    if says_more or plain or len(words) < 2 or any(is_day_word(word) for word in words):
        return piece, ""
    return f"{piece[: found.start()]} {piece[found.end() :]}".strip(), found[1]


def is_told(piece: str) -> bool:
    """True for a piece that tells of a goal, a condition, a doubt, a denial, a change, a range or
    the past: nothing in it is measured now.
    """
    plain = _OVER.sub("/", _DOWN_TO.sub(" ", piece))
    return bool(_NOT_MEASURED.search(plain) or _RANGE.search(plain))


def is_of_somebody_else(piece: str, before: bool) -> bool:
    """True for a piece about another person, named in it or, where `before`, in the piece before
    it that this one goes on from.
    """
    if _SOMEBODY_ELSE.search(piece):
        return True
    return before and not _THE_CLIENT.search(piece)


def values_apart(piece: str) -> list[str]:
    """A piece cut before each value that follows another: "K 5.1 egfr 52" are two.

    >>> values_apart("K 5.1 egfr 52 hb 12.1")
    ['K 5.1', 'egfr 52', 'hb 12.1']
    """
    anchors = list(_anchors(piece))
    starts = [0]
    for n, (start, end, holds_number) in enumerate(anchors):
        after = piece[end : anchors[n + 1][0]] if n + 1 < len(anchors) else piece[end:]
        if holds_number or re.search(r"\d", after) or _leads(piece, anchors, n):
            before = piece[starts[-1] : start]
            if re.search(r"\d", before) and start > starts[-1]:
                starts.append(start)
    ends = [*starts[1:], len(piece)]
    cut = [piece[start:end].strip() for start, end in zip(starts, ends, strict=True)]
    return [one for one in cut if one]


def _leads(piece: str, anchors: list[tuple[int, int, bool]], n: int) -> bool:
    """True for a day or a name right before a value: "wed 71.6 kg", "hr 64 bpm"."""
    if n + 1 == len(anchors):
        return False
    end, (start, _, holds_number) = anchors[n][1], anchors[n + 1]
    return holds_number and not piece[end:start].strip(" :=-")


def _anchors(piece: str) -> Iterator[tuple[int, int, bool]]:
    """Where a value may begin: start, end, and whether it holds its number already."""
    at = 0
    for found in _anchor_pattern().finditer(piece):
        if found.start() >= at:
            holds = found.lastgroup in ("pressure", "weighed", "feet")
            if found.lastgroup == "word" and not _may_begin(piece, found):
                continue
            yield found.start(), found.end(), holds
            at = found.end()


def _may_begin(piece: str, word: re.Match[str]) -> bool:
    """True for a word that names a day, and for one that is right before a number and is none of
    those that stand beside values: "72 kg bmi 25.5".
    """
    if is_day_word(word.group()):
        return True
    plain = word.group().lower()
    leads = re.match(r"\s*[:=]?\s*\d", piece[word.end() :]) is not None
    return leads and plain not in BESIDE and plain[:3] not in MONTHS


@cache
def _anchor_pattern() -> re.Pattern[str]:
    words = "|".join(
        re.escape(word) for word, _, _ in names() if word not in SHORT and len(word) > 1
    )
    short = "|".join(SHORT.values())
    return re.compile(
        rf"(?P<pressure>{PRESSURE.pattern.replace('?P<', '?P<_')}|{BARE_PRESSURE})"
        rf"|(?P<weighed>{WEIGHED})"
        rf"|(?P<feet>{FEET.pattern})|(?P<kind>(?<![\w-])(?i:{words})(?![\w-])|(?-i:{short})"
        rf"|(?-i:{PULSE.pattern}))|(?P<word>\b[A-Za-z][A-Za-z0-9]{{1,11}}\b)",
        re.IGNORECASE,
    )
