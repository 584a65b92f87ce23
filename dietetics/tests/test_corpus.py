"""The corpus of written lines: the right food in the right state, grams within 10 % or inside the
stated range.

`lines_first.txt` was written before the reader was run on it; `lines_after.txt` when the reader was
finished, and its score is asserted apart. Lines that are read wrongly are listed in the failure.
"""

from __future__ import annotations

import unittest
from pathlib import Path

from dietetics.amounts.line_reader import LineReader
from dietetics.composition.foods import load_shelf

CORPUS = Path(__file__).parent / "corpus"
READER = LineReader(load_shelf())


def cases(name: str) -> list[tuple[str, list[str], float]]:
    """(line, keys that are right, grams) of a corpus file."""
    found = []
    for line in (CORPUS / name).read_text(encoding="utf-8").splitlines():
        if line and not line.startswith("#"):
            text, keys, grams = (cell.strip() for cell in line.split("|"))
            found.append((text, keys.split("/"), float(grams)))
    return found


def wrong(text: str, keys: list[str], grams: float) -> str:
    """What is wrong with the reading of a line; empty when nothing is."""
    reading = READER.read(text)[0]
    if not reading.matched:
        return f"{text}: {reading.reason}"
    if reading.food.key not in keys:
        return f"{text}: {reading.food.key} instead of {keys[0]}"
    near = abs(reading.grams - grams) <= 0.1 * grams + 0.05
    if not near and not reading.grams_low - 0.05 <= grams <= reading.grams_high + 0.05:
        return (
            f"{text}: {reading.grams:.1f} g "
            f"({reading.grams_low:.1f}–{reading.grams_high:.1f}) instead of {grams:g}"
        )
    return ""


class Corpus(unittest.TestCase):
    """97 % read rightly."""

    def score(self, name: str) -> tuple[float, list[str], int]:
        """The share read rightly, what was not, and how many lines there are."""
        all_cases = cases(name)
        failures = [problem for case in all_cases if (problem := wrong(*case))]
        return 1 - len(failures) / len(all_cases), failures, len(all_cases)

    def test_lines_written_first(self) -> None:
        share, failures, _ = self.score("lines_first.txt")
        self.assertGreaterEqual(share, 0.97, failures)

    def test_lines_written_after_the_reader(self) -> None:
        share, failures, _ = self.score("lines_after.txt")
        self.assertGreaterEqual(share, 0.97, failures)

    def test_the_corpus_is_large_enough(self) -> None:
        first, after = cases("lines_first.txt"), cases("lines_after.txt")
        self.assertGreaterEqual(len(first) + len(after), 250)
        self.assertGreaterEqual(len(after), (len(first) + len(after)) / 4)
        texts = [text.lower() for text, _, _ in [*first, *after]]
        self.assertEqual(len(texts), len(set(texts)))
