"""Scoring of `corpus/lines_words.txt`: what is wrong with the reading of a line, and which readings
were called sure.

Kept apart from the tests so that the score can be printed by hand: `python -m
dietetics.tests.corpus_words`.
"""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from dietetics.amounts.line_reader import LineReader, LineReading
from dietetics.composition.foods import load_shelf

CORPUS = Path(__file__).parent / "corpus"
SURE = ("high", "fair")


@dataclass(frozen=True)
class Case:
    """A written line and its answer as written in the corpus."""

    text: str
    answer: str


def cases(name: str = "lines_words.txt") -> list[Case]:
    """The lines of a corpus file with their answers."""
    rows = (CORPUS / name).read_text(encoding="utf-8").splitlines()
    return [
        Case(*(cell.strip() for cell in row.rsplit("|", 1)))
        for row in rows
        if row and not row.startswith("#")
    ]


def wrong(case: Case, reader: LineReader) -> str:
    """What is wrong with the reading of a line; empty when nothing is."""
    readings = reader.read(case.text)
    foods = [r for r in readings if not r.heading]
    if case.answer == "aside":
        return "" if not foods else f"{case.text}: not set aside"
    if case.answer == "not-held":
        read = [r for r in foods if r.matched]
        return f"{case.text}: read as {read[0].food.key} ({read[0].confidence})" if read else ""
    if case.answer.startswith("ask"):
        return _wrong_question(case, foods)
    wanted = [part.strip().rsplit(" ", 1) for part in case.answer.split(" + ")]
    if len(wanted) != len(foods):
        return f"{case.text}: {len(foods)} readings instead of {len(wanted)}"
    for (keys, grams), reading in zip(wanted, foods, strict=True):
        several = [_wrong_reading(reading, keys.split("/"), float(one)) for one in grams.split("/")]
        if all(several):
            return f"{case.text}: {several[0]}"
    return ""


def _wrong_question(case: Case, readings: list[LineReading]) -> str:
    sure = [r for r in readings if r.matched and r.confidence in SURE]
    if sure:
        return f"{case.text}: sure of {sure[0].food.key} ({sure[0].confidence})"
    keys = case.answer.removeprefix("ask").strip()
    offered = {r.food.key for r in readings if r.food}
    offered |= {other.food.key for r in readings for other in (*r.alternatives, *r.choices)}
    return (
        ""
        if not keys or offered & set(keys.split("/"))
        else f"{case.text}: {keys} not offered, {sorted(offered)}"
    )


def _wrong_reading(reading: LineReading, keys: list[str], grams: float) -> str:
    if not reading.matched:
        return reading.reason
    if reading.food.key not in keys:
        return f"{reading.food.key} instead of {keys[0]} ({reading.confidence})"
    near = abs(reading.grams - grams) <= 0.1 * grams + 0.05
    if near or reading.grams_low - 0.05 <= grams <= reading.grams_high + 0.05:
        return ""
    return (
        f"{reading.grams:.1f} g ({reading.grams_low:.1f}–{reading.grams_high:.1f}) instead of "
        f"{grams:g}"
    )


def sure_of(case: Case, reader: LineReader) -> bool:
    """True where all readings of a line are marked sure."""
    read = [r for r in reader.read(case.text) if not r.heading]
    return bool(read) and all(r.matched and r.confidence == "high" for r in read)


def score(reader: LineReader) -> tuple[int, int, list[str], int, list[str]]:
    """Lines right, lines, what is wrong; lines all of whose readings are marked sure, and which of
    those are wrong.
    """
    right, problems, sure, sure_wrong = 0, [], 0, []
    all_cases = cases()
    for case in all_cases:
        problem = wrong(case, reader)
        right += not problem
        if problem:
            problems.append(problem)
        if sure_of(case, reader):
            sure += 1
            if problem:
                sure_wrong.append(problem)
    return right, len(all_cases), problems, sure, sure_wrong


if __name__ == "__main__":
    right, lines, problems, sure, sure_wrong = score(LineReader(load_shelf()))
    print("\n".join(problems))
    print(f"{right} of {lines} right; {sure} marked sure, {len(sure_wrong)} of them wrong:")
    print("\n".join(f"  {problem}" for problem in sure_wrong))
