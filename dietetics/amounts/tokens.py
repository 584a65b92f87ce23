"""From characters to tokens: numbers in any writing, words, and the few signs that matter.

"1½", "1 1/2", "1-1/2", "2x400g" and "1,5 kg" all become plain number tokens here, so that the
grammar sees one spelling.
"""

from __future__ import annotations

import re
import unicodedata
from fractions import Fraction
from functools import lru_cache
from typing import NamedTuple

from dietetics.untrusted_input import ascii_digits

_VULGAR = {
    ch: unicodedata.normalize("NFKC", ch).replace("\u2044", "/") for ch in "½⅓⅔¼¾⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞⅐⅑⅒"
}
_DASHES = str.maketrans(
    {"–": "-", "—": "-", "−": "-", "‑": "-", "×": "x", "’": "'", "⁄": "/", "\u00a0": " "}
)
MOST_FIGURES = 20  # of one number: what a sieve of atoms would need
_PATTERN = re.compile(
    r"(?P<fraction>\d+\s*/\s*\d+)"
    r"|(?P<number>\d+(?:[.,]\d+)*)"
    r"|(?P<word>[^\W\d_]+(?:['.&-][^\W\d_]+)*\.?)"
    r"|(?P<sign>[-+()\[\],;:%/=*~&#])"
    r"|(?P<other>\S)"
)


class Token(NamedTuple):
    """One token. `kind`: number, fraction, word or sign. `start` and `end` point into the cleaned
    text.

    `lower` is the text in small letters without accents or a closing full stop.
    """

    kind: str
    text: str
    start: int
    end: int
    value: Fraction | None = None
    glued: bool = False
    lower: str = ""

    @classmethod
    def of(
        cls, kind: str, text: str, start: int, end: int, value: Fraction | None, glued: bool
    ) -> Token:
        """A token with its plain spelling worked out once."""
        return cls(kind, text, start, end, value, glued, plain(text).rstrip("."))


def plain(text: str) -> str:
    """Small letters, accents taken off: "Purée" becomes "puree"."""
    if text.isascii():
        return text.lower()
    decomposed = unicodedata.normalize("NFKD", text)
    return "".join(ch for ch in decomposed if not unicodedata.combining(ch)).lower()


_INVISIBLE = re.compile("[\u200b-\u200f\u2060\ufeff\u00ad]")


def clean(text: str) -> str:
    """One spelling of dashes, multiplication signs and vulgar fractions; the words stay as
    written.
    """
    out: list[str] = []
    for ch in ascii_digits(text).translate(_DASHES):
        if ch in _VULGAR:
            out.append((" " if out and out[-1].isdigit() else "") + _VULGAR[ch] + " ")
        else:
            out.append(ch)
    joined = "".join(out)
    joined = re.sub(r"(\d)-(\d+/\d+)", r"\1 \2", joined)
    joined = re.sub(r"(\d)\s*x\s*(?=\d)", r"\1 x ", joined, flags=re.IGNORECASE)
    return re.sub(r"[ \t]+", " ", _INVISIBLE.sub("", joined)).strip()


def _fraction_of_digits(text: str) -> Fraction:
    if re.fullmatch(r"\d{1,3}(,\d{3})+(\.\d+)?", text):
        return Fraction(text.replace(",", ""))
    if re.fullmatch(r"\d+,\d+", text):
        return Fraction(text.replace(",", "."))
    parts = text.replace(",", "").split(".")
    return Fraction(parts[0] + ("." + "".join(parts[1:]) if len(parts) > 1 else ""))


def tokenise(text: str) -> list[Token]:
    """Return the tokens of a cleaned line. A fraction over zero, or a number of figures without
    end, is kept as a word, to be reported.
    """
    return list(_tokens(text))


def forget_tokens() -> None:
    """Drop what was kept, so that a measurement reads anew."""
    _tokens.cache_clear()


@lru_cache(maxsize=1024)
def _tokens(text: str) -> tuple[Token, ...]:
    """The tokens, kept for a line that is looked at for several questions."""
    tokens: list[Token] = []
    for match in _PATTERN.finditer(text):
        kind, raw = str(match.lastgroup), match.group()
        glued = bool(tokens) and tokens[-1].end == match.start()
        value: Fraction | None = None
        if kind in ("fraction", "number") and len(raw) > MOST_FIGURES:
            kind = "word"
        elif kind == "fraction":
            top, bottom = (int(p) for p in raw.split("/"))
            if bottom == 0:
                kind = "word"
            else:
                value = Fraction(top, bottom)
        elif kind == "number":
            value = _fraction_of_digits(raw)
        elif kind == "other":
            kind = "sign"
        tokens.append(Token.of(kind, raw, match.start(), match.end(), value, glued))
    return tuple(tokens)
