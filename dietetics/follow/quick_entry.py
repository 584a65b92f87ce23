"""One line of what was measured, read: "72.4 kg today, waist 81, hungry in the evening".

The line is cut at commas and semicolons. A piece is a value when it names a kind or has a unit of
one; everything else stays as a remark, so that no word is lost. A value without a unit is taken
only where one unit fits what is seen in practice, or what this client weighed before; where two
fit, the program asks.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, time

from dietetics.errors import DieteticsError
from dietetics.follow.kinds import FEELING, Kind, Unit, kind, kinds, names
from dietetics.follow.written_days import take_day, take_time
from dietetics.targets.measurements import KG_PER_LB, kg_of_stone
from dietetics.untrusted_input import MOST_LINE, readable

NEAR = 0.15  # of the last weight: a bare number this near is in that unit
SCORE_OF = 5
# Words that may stand beside a value and change nothing of it. With any other word the piece is a
# remark: "goal weight 68 kg", "lost 2 kg" and "B12 50 µg daily" are no measurements.
BESIDE = frozenset(
    {"a", "about", "after", "again", "am", "approx", "at", "bed", "before", "blood", "breakfast",
    "ca", "clinic", "clothes", "dinner", "evening", "fasting", "first", "from", "gp", "her", "his",
    "home", "hospital", "in", "is", "lab", "laboratory", "level", "lunch", "measured", "morning",
    "my", "new", "night", "noon", "now", "of", "on", "plasma", "result", "scale", "serum", "shoes",
    "still", "the", "this", "today", "toilet", "value", "was", "with", "without"}
)  # fmt: skip
_NUMBER = r"(?P<number>[-−]?\d+(?:[.,]\d+)?)"
_RANGE = re.compile(r"[(\[]\s*(\d+(?:[.,]\d+)?)\s*(?:-|–|to)\s*(\d+(?:[.,]\d+)?)\s*[)\]]")
_PRESSURE = re.compile(
    r"\b(?:bp|blood pressure)\b\s*:?\s*(\d{2,3})\s*(?:/|over)\s*(\d{2,3})(?P<more>[/\d])?"
    r"(?:\s*mmhg)?",
    re.IGNORECASE,
)
_STONE = re.compile(
    r"(?<![\w.,])(\d+(?:[.,]\d+)?)\s*(?:st|stones?)\b\s*"
    r"(?:(\d+(?:[.,]\d+)?)\s*(?:lbs?|pounds?)?(?![\w/]))?",
    re.IGNORECASE,
)
_DECIMAL_COMMA = re.compile(r"(?<=\d),(?=\d{1,2}(?!\d))")
_CUT = re.compile(r"[,;\n]")
_AND = re.compile(r"\s+and\s+", re.IGNORECASE)
_EITHER = re.compile(
    r"\b(kg\s+or\s+lbs?|lbs?\s+or\s+kg|cm\s+or\s+in|in\s+or\s+cm)\b", re.IGNORECASE
)
_BARE = re.compile(rf"^\s*{_NUMBER}\s*$")


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


@dataclass(frozen=True)
class Question:
    """A value that two units would fit: its kind, the number, the units to choose from, and the
    piece of the line it was typed in.
    """

    kind: Kind
    number: float
    units: tuple[Unit, ...]
    typed: str = ""

    def answered(self, line: str, unit: Unit) -> str:
        """The line with this value in this unit."""
        word = next(iter(self.kind.aliases))
        said = f"{word} {self.number:g} {unit.name}"
        plain = _DECIMAL_COMMA.sub(".", line)
        return plain.replace(self.typed, said, 1) if self.typed in plain else f"{plain}, {said}"


@dataclass(frozen=True)
class QuickEntry:
    """A line as it was understood. `day` is the day of the remark, `unread` are pieces of it that
    hold a figure.
    """

    day: date
    values: tuple[Value, ...] = ()
    remark: str = ""
    questions: tuple[Question, ...] = ()
    unread: tuple[str, ...] = ()


@dataclass
class _Reading:
    """What is gathered while a line is read."""

    today: date
    last: Mapping[str, float]
    values: list[Value] = field(default_factory=list)
    questions: list[Question] = field(default_factory=list)
    remarks: list[str] = field(default_factory=list)
    unread: list[str] = field(default_factory=list)
    day: date | None = None
    at: time | None = None

    @property
    def on(self) -> date:
        """The day that holds for what is read now."""
        return self.day if self.day is not None else self.today


def read_line(text: str, today: date, last: Mapping[str, float] | None = None) -> QuickEntry:
    """Read a line. `last` holds what was measured before, by kind, in base units.

    Raises DieteticsError: `measured-empty`, `measured-impossible`, `measured-future`,
    `day-impossible`, `measurement-parts`.
    """
    line = " ".join(readable(text, MOST_LINE).split())
    pieces = [piece.strip() for piece in _pieces(line)]
    pieces = [piece for piece in pieces if piece]
    if not pieces:
        raise DieteticsError("measured-empty")
    reading = _Reading(today, last or {})
    dated = [_without_when(piece, reading) for piece in pieces]
    days = {day for _, day in dated if day is not None}
    for piece, day in dated:
        # one day in a line holds for the whole of it; of several, each from where it stands
        reading.day = next(iter(days)) if len(days) == 1 else day or reading.day
        if piece:
            _read_piece(piece, reading)
    return QuickEntry(
        reading.on,
        tuple(reading.values),
        ", ".join(reading.remarks),
        tuple(reading.questions),
        tuple(reading.unread),
    )


def _pieces(text: str) -> list[str]:
    """A line cut at commas and semicolons; a decimal comma is a point first."""
    found: list[str] = []
    for piece in _CUT.split(_DECIMAL_COMMA.sub(".", text)):
        first, *more = _AND.split(piece)
        found += [first, *more] if re.search(r"\d", piece) else [piece]
    return found


def _without_when(piece: str, reading: _Reading) -> tuple[str, date | None]:
    """A piece without its day and time, and the day."""
    rest, day = take_day(piece, reading.today)
    rest, at = take_time(rest)
    if day is not None and day > reading.today:
        raise DieteticsError("measured-future", day=f"{day:%Y-%m-%d}")
    reading.at = at or reading.at
    rest = rest if (day, at) != (None, None) else piece
    return " ".join(rest.split()).strip(" :."), day


def _read_piece(piece: str, reading: _Reading) -> None:
    pressure = _PRESSURE.search(piece)
    if pressure is not None:
        if pressure["more"] or int(pressure[1]) <= int(pressure[2]):
            raise DieteticsError("measured-unclear", text=piece)
        for key, number in zip(("systolic", "diastolic"), pressure.groups()[:2], strict=True):
            _add(reading, kind(key), float(number), Unit("mmHg"), pressure[0].strip(), (None, None))
        _remark(reading, piece[: pressure.start()] + piece[pressure.end() :])
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
        _remark(reading, piece[: stone.start()] + piece[stone.end() :])
        return
    if not _read_value(piece, typed, low_high, reading):
        _remark(reading, typed)


def _read_value(piece: str, typed: str, bounds: Sequence[float | None], reading: _Reading) -> bool:
    """Take the value of a piece; False where it holds none."""
    found, brings, rest = _named(piece)
    if found is None:
        bare = _BARE.match(piece)
        if bare is not None:
            return _choose_unit(kind("weight"), _figure(bare["number"]), typed, bounds, reading)
        return _by_unit(piece, typed, bounds, reading)
    number = re.search(rf"(?<![\w.]){_NUMBER}", rest)
    if number is None:
        return False
    value, behind = _figure(number["number"]), rest[number.end() :].strip()
    before = rest[: number.start()].strip(" :=-")
    if found.group == FEELING:
        return _score(found, value, behind, before, typed, reading)
    unit, left = _unit_before_words(found, behind)
    if not _all_beside(f"{before} {_EITHER.sub('', left)}"):
        return False  # another word may change what it is: the whole piece stays a remark
    if _EITHER.search(behind):
        reading.questions.append(_question(found, value, typed))
        return True
    if brings and (unit is None or brings.startswith(f"{unit.name} ")):
        unit = found.unit_named(brings)  # "BUN 17 mg/dL" is mg/dL of urea nitrogen
    _remark(reading, f"{before} {left}")
    if unit is None:
        return _choose_unit(found, value, typed, bounds, reading)
    _add(reading, found, value, unit, typed, bounds)
    return True


def _named(piece: str) -> tuple[Kind | None, str, str]:
    """The kind a piece names, the unit its name brings, and the piece without the name."""
    for word, key, unit in names():
        pattern = rf"(?<![\w-]){re.escape(word)}(?![\w-])"
        found = re.search(pattern, piece, re.IGNORECASE)
        if found is None or (len(word) <= 2 and word in ("k", "na") and not found[0][0].isupper()):
            continue
        return kinds()[key], unit, f"{piece[: found.start()]} {piece[found.end() :]}"
    return None, "", piece


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


def _all_beside(words: str) -> bool:
    """True when nothing but words of no weight stand beside a value."""
    return all(word in BESIDE for word in re.findall(r"[^\s:=@.()-]+", words.lower()))


def _score(
    found: Kind, value: float, behind: str, before: str, typed: str, reading: _Reading
) -> bool:
    """A score of 1 to 5; a number of hours and the like is a remark."""
    of = re.match(rf"(?:/|of|out of)\s*{SCORE_OF}\b", behind)
    left = behind[of.end() :] if of else behind
    if (of is None and left) or not _all_beside(f"{before} {left}"):
        return False
    _remark(reading, f"{before} {left}")
    _add(reading, found, value, Unit("of 5"), typed, (None, None))
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
            _add(reading, found, value, near[0], typed, bounds)
            return True
    fitting = [one for one in unit_list if found.is_likely(one.to_base(value))]
    if len(fitting) > 1:
        reading.questions.append(Question(found, value, tuple(fitting), typed))
        return True
    _add(reading, found, value, fitting[0] if fitting else found.units[0], typed, bounds)
    return True


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
) -> None:
    base = unit.to_base(value)
    if not found.can_be(base):
        raise DieteticsError(
            "measured-impossible",
            name=found.name,
            text=typed.strip(),
            least=found.text(found.least),
            most=found.text(found.most),
        )
    low, high = (None if one is None else unit.to_base(one) for one in bounds)
    reading.values.append(Value(found, base, reading.on, reading.at, typed.strip(), low, high))


def _remark(reading: _Reading, words: str) -> None:
    text = " ".join(words.split()).strip(" :.")
    if not text:
        return
    reading.remarks.append(text)
    if re.search(r"\d", text):
        reading.unread.append(text)


def _figure(text: str) -> float:
    return float(text.replace("−", "-").replace(",", "."))
