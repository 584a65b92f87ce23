"""One line of what was measured, read: "72.4 kg today, waist 81, hungry in the evening".

A piece of it is a value when it names a kind or has a unit of one; everything else stays as a
remark, so that no word is lost, and so does what is not the client's, measured and true now
(`note_pieces`). A value without a unit is taken only where one unit fits what is seen in practice,
or what this client weighed before; where two fit, and where a weight is further from the last than
a body goes, the program asks. What cannot be is refused by itself: the rest of the line is kept.
"""

from __future__ import annotations

import re
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, time

from dietetics.errors import DieteticsError
from dietetics.follow.kinds import BLOOD, FEELING, Kind, Unit, kind, kinds, names
from dietetics.follow.note_pieces import (
    BARE_PRESSURE,
    BESIDE,
    FEET,
    PRESSURE,
    PULSE,
    SHORT,
    is_of_somebody_else,
    is_told,
    pieces_of,
    values_apart,
    without_aside,
    without_comparison,
)
from dietetics.follow.written_days import TO_COME, names_no_day, take_day, take_time
from dietetics.targets.measurements import KG_PER_LB, kg_of_stone, read_height_cm
from dietetics.untrusted_input import MOST_LINE, readable

NEAR = 0.15  # of the last weight: a bare number this near is in that unit
JUMP = 0.10  # of the last weight: a weight this far from it is asked about
NOTHING_SAVED = "Nothing was saved."  # of a whole line; the rest of this one is
SAME = 0.0015  # so near, two units say one value
SLEEP, SLEEP_HOURS = "sleep", "sleep-hours"
OF_A_DAY = frozenset({"steps", "fluids", "stools"})
HEADS = frozenset({"bloods", "labs", "lab results", "results", "blood results", "blood tests"})
SAYS_NOTHING = frozenset({"x", "/day", "/d", "level", "-"})  # beside a value: "3x/day", "B12 level"
SCORES = (5, 10)  # a score is of five; of ten it is halved
_NUMBER = r"(?P<number>[-−]?\d+(?:[.,]\d+)?)"
_RANGE = re.compile(r"[(\[]\s*(\d+(?:[.,]\d+)?)\s*(?:-|–|to)\s*(\d+(?:[.,]\d+)?)\s*[)\]]")
_STONE = re.compile(
    r"(?<![\w.,])(\d+(?:[.,]\d+)?)\s*(?:st|stones?)\b\s*"
    r"(?:(\d+(?:[.,]\d+)?)\s*(?:lbs?|pounds?)?(?![\w/]))?",
    re.IGNORECASE,
)
_EITHER = re.compile(
    r"\b(kg\s+or\s+lbs?|lbs?\s+or\s+kg|cm\s+or\s+in|in\s+or\s+cm)\b", re.IGNORECASE
)
_BARE = re.compile(rf"^\s*{_NUMBER}\s*$")
_HOURS = re.compile(r"^\s*(?:h|hrs?|hours?)\b", re.IGNORECASE)
# "bp at the GP 145/92, at home 128/80"
_PAIR = re.compile(r"(?<![\d/.])(?P<high>\d{2,3})/(?P<low>\d{2,3})(?P<more>[/\d])?")
_PRESSURE_WORDS = re.compile(
    r"\b(?:bp|b\.p\.|blood pressure)(?!\w)|\d{2,3}\s*(?:/|over)\s*\d{2,3}|mm\s?hg", re.IGNORECASE
)
_BARE_PRESSURE = re.compile(BARE_PRESSURE)
LEAST_APART = 15  # mmHg between two pressures that no word names: our judgement
_TOO_HIGH = re.compile(r"\b(?:bp|blood pressure)\b\D{0,20}\d{4,}\s*/\s*\d", re.IGNORECASE)
# A day that comes, whatever is written: "appointment on the 3rd".
_TO_COME = re.compile(rf"\b(?:{TO_COME})\b", re.IGNORECASE)
_HERE = re.compile(r"\bhere\b|\bin (?:the )?clinic\b|\bour scales?\b", re.IGNORECASE)
_METRES = re.compile(
    r"^\s*(?P<metres>[012][.]\d{1,2})\s?m(?:etres?|eters?)?\s*(?:tall)?\s*$", re.IGNORECASE
)
_NOW = re.compile(
    r"^\s*(?:today|now|this (?:week|morning|evening)|at the moment)\s*$", re.IGNORECASE
)
_OF_A_DAY = re.compile(r"\b(?:from|taken|dated)\s*$", re.IGNORECASE)  # "labs from Monday"
_CONFIRMED = re.compile(r"\bsure\b", re.IGNORECASE)


@dataclass(frozen=True)
class Value:
    """One value read: its kind, the base value, the day and time, what was typed, and the range of
    the laboratory in base units.
    """

    kind: Kind
    value: float
    day: date
    at: time | None
    typed: str
    low: float | None = None
    high: float | None = None

    @property
    def shown(self) -> str:
        """The value as it is shown: "72.4 kg"."""
        return self.kind.text(self.value)


@dataclass(frozen=True)
class Question:
    """A value that two units would fit: its kind, the number, the units to choose from, and the
    piece of the line it was typed in. `is_jump` where only whether it is right is asked.
    """

    kind: Kind
    number: float
    units: tuple[Unit, ...]
    typed: str = ""
    is_jump: bool = False

    @property
    def shown(self) -> str:
        """The number as it was typed, with its unit where it has one."""
        unit = self.units[0].name if len(self.units) == 1 else ""
        return f"{self.number:g} {unit}".strip()

    def answered(self, line: str, unit: Unit) -> str:
        """The line with this value in this unit."""
        word = next(iter(self.kind.aliases))
        said = f"{word} {self.number:g} {unit.name}{' sure' if self.is_jump else ''}"
        plain = ", ".join(pieces_of(line))
        return plain.replace(self.typed, said, 1) if self.typed in plain else f"{plain}, {said}"


@dataclass(frozen=True)
class RefusedPiece:
    """A piece of a line that cannot be right, and why."""

    text: str
    reason: str


@dataclass(frozen=True)
class QuickEntry:
    """A line as it was understood. `day` is the day of the remark, `unread` are pieces of it that
    hold a figure, `refused` those that cannot be.
    """

    day: date
    values: tuple[Value, ...] = ()
    remark: str = ""
    questions: tuple[Question, ...] = ()
    unread: tuple[str, ...] = ()
    refused: tuple[RefusedPiece, ...] = ()


@dataclass(frozen=True)
class _Piece:
    """A piece of a line without its day and time, and whole; whether it may be a value."""

    text: str
    whole: str
    day: date | None = None
    is_value: bool = False


@dataclass
class _Reading:
    """What is gathered while a line is read."""

    today: date
    last: Mapping[str, float]
    values: list[Value] = field(default_factory=list)
    questions: list[Question] = field(default_factory=list)
    remarks: list[str] = field(default_factory=list)
    unread: list[str] = field(default_factory=list)
    refused: list[tuple[str, DieteticsError]] = field(default_factory=list)
    alone: bool = True
    is_single: bool = False  # one piece, with nothing beside it
    day: date | None = None
    at: time | None = None

    @property
    def on(self) -> date:
        """The day that holds for what is read now."""
        return self.day if self.day is not None else self.today


def read_line(text: str, today: date, last: Mapping[str, float] | None = None) -> QuickEntry:
    """Read a line. `last` holds what was measured before, by kind, in base units.

    Raises DieteticsError: `measured-empty`, `measured-impossible`, `measured-future`,
    `day-impossible`, `measured-which-day`, `measurement-parts`.
    """
    line = " ".join(readable(text, MOST_LINE).split())
    pieces = pieces_of(line)
    if not pieces:
        raise DieteticsError("measured-empty")
    reading = _Reading(today, last or {})
    dated = list(_dated(pieces, reading))
    if not any(one.is_value and re.search(r"\d", one.text) for one in dated):
        dated = [_remark_of_its_day(one, reading) for one in dated]
    reading.is_single = len(dated) == 1
    reading.alone = sum(bool(re.search(r"\d", one.text)) for one in dated) == 1
    days = {one.day for one in dated if one.day is not None}
    of_no_day = ""
    for one in dated:
        # one day in a line holds for the whole of it; of several, each from where it stands
        reading.day = next(iter(days)) if len(days) == 1 else one.day or reading.day
        if one.day is None:
            of_no_day = names_no_day(one.whole) or of_no_day
        if not one.is_value:
            _remark(reading, one.text)
        elif one.text:
            values, questions = len(reading.values), len(reading.questions)
            _tried(reading, one.text)
            if of_no_day and one.day is None:
                _refuse_blood(reading, values, questions, of_no_day)
    return _as_read(_measured_here(reading))


def _refuse_blood(reading: _Reading, values: int, questions: int, heading: str) -> None:
    """Blood values below "labs from March", behind so many values and questions, are not of today,
    and of which day is not said: neither taken nor asked about.
    """
    found: list[Value | Question] = [*reading.values[values:], *reading.questions[questions:]]
    refused = [one.typed for one in found if one.kind.group == BLOOD]
    reading.values[values:] = [v for v in reading.values[values:] if v.kind.group != BLOOD]
    reading.questions[questions:] = [
        q for q in reading.questions[questions:] if q.kind.group != BLOOD
    ]
    error = DieteticsError("measured-which-day", text=heading)
    reading.refused.extend((typed, error) for typed in refused)


def _measured_here(reading: _Reading) -> _Reading:
    """Where a line holds a weight measured here beside one from elsewhere on the same day, the
    other is a remark: "71 kg at home, 71.9 kg here".
    """
    weights = [one for one in reading.values if one.kind.key == "weight"]
    here = {one.day for one in weights if _HERE.search(one.typed)}
    for one in weights:
        if one.day in here and not _HERE.search(one.typed):
            reading.values.remove(one)
            _remark(reading, one.typed)
    return reading


def _remark_of_its_day(piece: _Piece, reading: _Reading) -> _Piece:
    """In a line without a value a remark is of the day it names: "no appetite yesterday". A time of
    day stays in it: "ate at 7 pm".
    """
    if _TO_COME.search(piece.whole):
        return replace(piece, text=piece.whole, is_value=False)
    try:
        rest, named = take_day(piece.whole, reading.today)
    except DieteticsError:
        return replace(piece, text=piece.whole, is_value=False)
    if named is None or named > reading.today:
        return replace(piece, text=piece.whole, is_value=False)
    text = " ".join(rest.split()).strip(" :.")
    return replace(piece, text=text, day=piece.day or named, is_value=False)


def _as_read(reading: _Reading) -> QuickEntry:
    """What was gathered. Raises the first refusal where nothing else was."""
    if reading.refused and not (reading.values or reading.questions or reading.remarks):
        raise reading.refused[0][1]
    return QuickEntry(
        reading.on,
        tuple(reading.values),
        ", ".join(reading.remarks),
        tuple(reading.questions),
        tuple(reading.unread),
        tuple(
            RefusedPiece(piece, str(error).removesuffix(NOTHING_SAVED).strip())
            for piece, error in reading.refused
        ),
    )


def _tried(reading: _Reading, piece: str) -> None:
    """Read a piece; what it says and cannot be is refused by itself."""
    try:
        _read_piece(piece, reading)
    except DieteticsError as error:
        reading.refused.append((piece, error))


def _dated(pieces: Sequence[str], reading: _Reading) -> Iterator[_Piece]:
    """Each value's piece without its day, with the day; and whole, what is no value."""
    elsewhere = False
    for piece in pieces:
        elsewhere = is_of_somebody_else(piece, elsewhere)
        told, compared = without_comparison(piece)
        told, aside = without_aside(told)
        if elsewhere or is_told(told):
            yield _Piece(piece, piece)
            continue
        try:
            parts = [(part, *_without_when(part, reading)) for part in values_apart(told)]
        except DieteticsError as error:  # of what day is not clear: nothing of the piece is kept
            if error.code == "measured-future" and not _names_a_value(told, reading.today):
                yield _Piece(piece, piece)  # "next visit 12 Dec"
            else:
                reading.refused.append((piece, error))
            continue
        for whole, part, day in parts:
            yield _Piece(part, whole, day, True)
        for behind in filter(None, (compared, aside)):
            yield _Piece(behind, behind)


def _names_a_value(piece: str, today: date) -> bool:
    return bool(re.search(r"\d", take_time(take_day(piece, today)[0])[0]))


def _without_when(piece: str, reading: _Reading) -> tuple[str, date | None]:
    """A piece without its day and time, and the day."""
    rest, day = take_day(piece, reading.today)
    rest, at = take_time(rest)
    if day is not None and day > reading.today:
        raise DieteticsError("measured-future", day=f"{day:%Y-%m-%d}")
    reading.at = at or reading.at
    rest = _OF_A_DAY.sub("", rest) if (day, at) != (None, None) else piece
    return " ".join(rest.split()).strip(" :."), day


def _read_piece(piece: str, reading: _Reading) -> None:
    pressure = PRESSURE.search(piece)
    if pressure is None and _TOO_HIGH.search(piece):
        raise DieteticsError("measured-unclear", text=piece)
    if pressure is not None:
        _pressure(piece, pressure, reading)
        return
    pair = _PAIR.search(piece)
    goes_on = bool(reading.values) and reading.values[-1].kind.key == "diastolic"
    if pair is not None and not goes_on and _BARE_PRESSURE.search(piece):
        is_said = not reading.is_single or bool(_without(piece, pair).strip())  # "98/60" alone
        goes_on = is_said and int(pair["high"]) - int(pair["low"]) >= LEAST_APART
    if pair is not None and goes_on and _all_beside(_without(piece, pair)):
        _pressure(piece, pair, reading)
        return
    feet = FEET.search(piece)
    if feet is not None and _all_beside(_without(piece, feet), {"height", "ht"}):
        cm = read_height_cm(feet[0].strip())
        _add(reading, kind("height"), cm, Unit("cm"), feet[0].strip(), (None, None))
        return
    metres = _METRES.match(piece)
    if metres is not None:
        _add(
            reading,
            kind("height"),
            _figure(metres["metres"]) * 100,
            Unit("cm"),
            piece,
            (None, None),
        )
        return
    bounds = _RANGE.search(piece)
    typed = piece
    if bounds is not None:
        piece = f"{piece[: bounds.start()]} {piece[bounds.end() :]}"
    low_high = tuple(_figure(one) for one in bounds.groups()) if bounds else (None, None)
    stone = _STONE.search(piece)
    if stone is not None:
        pounds = kg_of_stone(stone[1], stone[2], stone[0].strip()) / KG_PER_LB
        _add(reading, kind("weight"), pounds, Unit("lb", KG_PER_LB), stone[0], (None, None))
        _remark(reading, _unnamed(piece[: stone.start()] + piece[stone.end() :], "weight"))
        return
    if not _read_value(piece, typed, low_high, reading):
        _remark(reading, typed)


def _pressure(piece: str, found: re.Match[str], reading: _Reading) -> None:
    given = found.groupdict()
    high = given["high"] or given["bare_high"]
    low = given["low"] or given["bare_low"]
    if given["more"] or int(high) <= int(low):
        raise DieteticsError("measured-unclear", text=piece)
    for key, number in (("systolic", high), ("diastolic", low)):
        _add(reading, kind(key), float(number), Unit("mmHg"), found[0].strip(), (None, None))
    _remark(reading, f"{_PRESSURE_WORDS.sub(' ', found[0])} {_without(piece, found)}")


def _without(piece: str, found: re.Match[str]) -> str:
    return f"{piece[: found.start()]} {piece[found.end() :]}"


def _unnamed(words: str, key: str) -> str:
    """Words without those that only name a kind."""
    names_it = kind(key).aliases
    return " ".join(word for word in words.split() if word.strip(" :.").lower() not in names_it)


def _read_value(piece: str, typed: str, bounds: Sequence[float | None], reading: _Reading) -> bool:
    """Take the value of a piece; False where it holds none."""
    named = False
    for found, brings, rest in _named(piece):
        named = True
        if _of_kind(found, brings, rest, typed, bounds, reading):
            return True
    if named:
        return False
    bare = _BARE.match(piece)
    if bare is None:
        return _by_unit(piece, typed, bounds, reading)
    value, last = _figure(bare["number"]), reading.values[-1] if reading.values else None
    if reading.alone:
        return _choose_unit(kind("weight"), value, typed, bounds, reading)
    if last is not None and last.day != reading.on and last.kind.group != FEELING:
        # "potassium 5.0 on Monday and 4.8 today"
        return _choose_unit(last.kind, value, typed, bounds, reading)
    return False


def _of_kind(
    found: Kind,
    brings: str,
    rest: str,
    typed: str,
    bounds: Sequence[float | None],
    reading: _Reading,
) -> bool:
    """Take a value of a kind that is named; False where other words may change what it is."""
    number = re.search(rf"(?<![\w.]){_NUMBER}", rest)
    if number is None:
        return False
    value, behind = _figure(number["number"]), rest[number.end() :].strip()
    before = re.sub(r"\bx$", "", rest[: number.start()].strip(" :=-"))
    if found.key == SLEEP and _HOURS.match(behind):
        found = kind(SLEEP_HOURS)
    if found.group == FEELING:
        return _score(found, value, behind, before, typed, reading)
    unit, left = _unit_before_words(found, behind)
    left = _CONFIRMED.sub("", left)
    beside, aliases = f"{before} {_EITHER.sub('', left)}", found.aliases
    a_day = {"daily"} if found.key in OF_A_DAY else set()  # "vitamin D 25 daily" is a tablet
    if not _all_beside(beside, {*aliases, *a_day}) and found.key != SLEEP_HOURS:
        return False  # another word may change what it is: the whole piece stays a remark
    if _EITHER.search(behind):
        reading.questions.append(_question(found, value, typed))
        return True
    if brings and (unit is None or brings.startswith(f"{unit.name} ")):
        unit = found.unit_named(brings)  # "BUN 17 mg/dL" is mg/dL of urea nitrogen
    if unit is None:
        taken = _choose_unit(found, value, typed, bounds, reading)
    else:
        taken = _add(reading, found, value, unit, typed, bounds)
    said = [word for word in f"{before} {left}".split() if word.strip("()").lower() not in aliases]
    said = [word for word in said if word.lower() not in SAYS_NOTHING]
    if said != ["of"]:  # "8 cups of water"
        _remark(reading, " ".join(said))
    return taken


def _named(piece: str) -> Iterator[tuple[Kind, str, str]]:
    """Each kind that a piece names, the unit its name brings, and the piece without the name; the
    longest name first.
    """
    for word, key, unit in names():
        pattern = SHORT.get(word)
        found = (
            re.search(pattern, piece)
            if pattern
            else re.search(rf"(?<![\w-]){re.escape(word)}(?![\w-])", piece, re.IGNORECASE)
        )
        if found is not None:
            yield kinds()[key], unit, _without(piece, found)
    found = PULSE.search(piece)
    if found is not None:
        yield kind("pulse"), "", _without(piece, found)


def _by_unit(piece: str, typed: str, bounds: Sequence[float | None], reading: _Reading) -> bool:
    """A number with a unit and no name: of weight it is a weight, of what stands before in the line
    it is that once more ("waist 81 cm on 1 Nov, 80 cm today").
    """
    before = reading.values[-1].kind if reading.values else None
    again = re.match(rf"^{_NUMBER}\s*(?P<unit>[a-zµ/]+)$", piece, re.IGNORECASE)
    same = before.unit_named(again["unit"]) if again and before and before.key != "weight" else None
    if again is not None and before is not None and same is not None:
        _add(reading, before, _figure(again["number"]), same, typed, bounds)
        return True
    weight = kind("weight")
    found = re.search(
        rf"(?<![\w.]){_NUMBER}\s*(?P<unit>kgs?|kilos?|lbs?|pounds?)\b", piece, re.IGNORECASE
    )
    if found is None:
        return False
    value = _figure(found["number"])
    either = _EITHER.search(piece)
    if either is not None:
        reading.questions.append(_question(weight, value, typed))
        _remark(reading, f"{piece[: found.start()]} {piece[either.end() :]}")
        return True
    unit = weight.unit_named(found["unit"])
    assert unit is not None
    if not _all_beside(f"{piece[: found.start()]} {piece[found.end() :]}"):
        return False
    _remark(reading, f"{piece[: found.start()]} {piece[found.end() :]}")
    _add(reading, weight, value, unit, typed, bounds)
    return True


def _unit_before_words(found: Kind, behind: str) -> tuple[Unit | None, str]:
    """The unit that stands behind a number, longest first, and the words behind it."""
    for unit in sorted(found.units, key=lambda one: -len(one.name)):
        if not unit.name:
            continue
        spelled = r"\s*".join(map(_letter, unit.name.replace(" ", "")))
        match = re.match(rf"{spelled}(?![\w/])", behind, re.IGNORECASE)
        if match is not None:
            return unit, behind[match.end() :]
    return None, behind


def _letter(letter: str) -> str:
    return "(?:µ|μ|u|mc)" if letter == "µ" else re.escape(letter)


def _all_beside(words: str, more: Collection[str] = ()) -> bool:
    """True when nothing but words of no weight stand beside a value."""
    heard = re.findall(r"[^\s:=@.()/!~-]+", words.lower())
    return all(word in BESIDE or word in more for word in heard)


def _score(
    found: Kind, value: float, behind: str, before: str, typed: str, reading: _Reading
) -> bool:
    """A score of 1 to 5, or of 10; a number of hours and the like is a remark."""
    of = re.match(r"(?:/|of|out of)\s*(5|10)\b", behind)
    left = behind[of.end() :] if of else behind
    if (of is None and left and not _NOW.match(left)) or not _all_beside(f"{before} {left}"):
        return False
    if of is not None and of[1] == "10":
        value = max(1.0, value * SCORES[0] / SCORES[1])
    _add(reading, found, value, Unit("of 5"), typed, (None, None))
    _remark(reading, f"{before} {left}")
    return True


def _choose_unit(
    found: Kind,
    value: float,
    typed: str,
    bounds: Sequence[float | None],
    reading: _Reading,
) -> bool:
    """A number without a unit: the one unit that fits, or a question."""
    unit_list = _different(found.units)
    last = reading.last.get(found.key)
    if last:
        near = [one for one in unit_list if abs(one.to_base(value) - last) <= NEAR * last]
        if len(near) == 1:
            return _add(reading, found, value, near[0], typed, bounds)
    fitting = [one for one in unit_list if found.is_likely(one.to_base(value))]
    if len(fitting) > 1:
        reading.questions.append(Question(found, value, tuple(fitting), typed))
        return True
    return _add(reading, found, value, fitting[0] if fitting else found.units[0], typed, bounds)


def _different(units: Sequence[Unit]) -> list[Unit]:
    """Units without those that are only another name for one before."""
    seen: dict[tuple[float, float], Unit] = {}
    for unit in units:
        seen.setdefault((unit.factor, unit.offset), unit)
    return list(seen.values())


def _question(found: Kind, value: float, typed: str) -> Question:
    return Question(found, value, tuple(_different(found.units)), typed)


def _add(
    reading: _Reading,
    found: Kind,
    value: float,
    unit: Unit,
    typed: str,
    bounds: Sequence[float | None],
) -> bool:
    """Take a value, or ask about a weight that is too far from the last."""
    base = unit.to_base(value)
    if not found.can_be(base):
        raise DieteticsError(
            "measured-impossible",
            name=found.name,
            text=typed.strip(),
            least=found.text(found.least),
            most=found.text(found.most),
        )
    last = reading.last.get(found.key)
    jumps = found.key == "weight" and last and abs(base - last) > JUMP * last
    if jumps and not _CONFIRMED.search(typed):
        reading.questions.append(Question(found, value, (unit,), typed, True))
        return True
    low, high = (None if one is None else unit.to_base(one) for one in bounds)
    text = _CONFIRMED.sub("", typed).strip()
    before = reading.values[-1] if reading.values else None
    again = before and (before.kind, before.day, before.at) == (found, reading.on, reading.at)
    if before and again and abs(before.value - base) <= SAME * base:
        return True  # "159.6 lb (72.4 kg)"
    reading.values.append(Value(found, base, reading.on, reading.at, text, low, high))
    return True


def _remark(reading: _Reading, words: str) -> None:
    text = " ".join(words.split()).strip(" :./!")
    if not re.search(r"\w", text) or text.lower() in HEADS:
        return
    reading.remarks.append(text)
    if re.search(r"\d", text):
        reading.unread.append(text)


def _figure(text: str) -> float:
    return float(text.replace("−", "-").replace(",", "."))
