"""Numbers as words, known once for every reader: recipes, yields, steps, notes, dates, kitchens."""

from __future__ import annotations

from fractions import Fraction

WHOLE = {
    "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8,
    "nine": 9, "ten": 10, "eleven": 11, "twelve": 12, "thirteen": 13, "fourteen": 14,
    "fifteen": 15, "sixteen": 16, "eighteen": 18, "twenty": 20, "thirty": 30, "forty": 40,
    "fifty": 50, "sixty": 60,
}  # fmt: skip
ARTICLES = {"a": 1, "an": 1}
FRACTIONS = {
    "half": Fraction(1, 2),
    "third": Fraction(1, 3),
    "thirds": Fraction(1, 3),
    "quarter": Fraction(1, 4),
    "quarters": Fraction(1, 4),
    "fourth": Fraction(1, 4),
    "fourths": Fraction(1, 4),
    "fifth": Fraction(1, 5),
    "sixth": Fraction(1, 6),
    "eighth": Fraction(1, 8),
    "eighths": Fraction(1, 8),
}
# for patterns: the longest first, so that none ends inside another
ONE_OF_WHOLE = "|".join(sorted(WHOLE, key=len, reverse=True))


def whole_number(word: str) -> int | None:
    """A whole number written in figures, as a word or as an article; None for anything else.

    >>> whole_number("Three"), whole_number("12"), whole_number("an"), whole_number("some")
    (3, 12, 1, None)
    """
    plain = word.lower()
    if plain.isdecimal():
        return int(plain)
    return {**WHOLE, **ARTICLES}.get(plain)
