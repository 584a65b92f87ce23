"""Numbers on a page with the marks the practitioner chose: "1,234.5", or "1 234,5" with a decimal
comma.

Every text of the program is written with a point, those that were stored long ago too. So the marks
are changed in one place, on the finished page: in its text and in the attributes that are spoken,
never in a field, a drawing, an address, or what the practitioner wrote (marked `data-verbatim`).
With a comma thousands are parted by a narrow space and never by a point: a figure that is copied
from a page into a field is read as what it was, or refused, and never as a thousandth of it.
"""

from __future__ import annotations

import re

POINT, COMMA = "point", "comma"
NARROW_SPACE = "\u202f"  # no-break: a figure is not torn apart at the end of a line

# Grouped figures, or figures with a point; not part of a word, of a version (5.2.4) or of another
# number.
_NUMBER = re.compile(r"(?<![\w.,])(?:\d{1,3}(?:,\d{3})+(?:\.\d+)?|\d+\.\d+)(?![\w]|[.,]\d)")
_KEPT = re.compile(
    r"(<(script|style|textarea|title)\b.*?</\2>|<(\w+)\b[^>]*\bdata-verbatim\b[^>]*>.*?</\3>"
    r"|<[^>]*>)",
    re.DOTALL | re.IGNORECASE,
)
_SPOKEN = re.compile(r'((?:aria-label|aria-valuetext|data-spoken|title)=")([^"]*)(")')


def with_comma(text: str) -> str:
    """Plain text with a decimal comma and narrow spaces between thousands.

    >>> with_comma("1,740 g at 1.5 kcal/g").replace(NARROW_SPACE, "_")
    '1_740 g at 1,5 kcal/g'
    """
    return _NUMBER.sub(lambda found: found[0].replace(",", NARROW_SPACE).replace(".", ","), text)


def page_with_comma(page: str) -> str:
    """A page with a decimal comma wherever a person reads or hears a figure of the program's."""
    pieces, at = [], 0
    for kept in _KEPT.finditer(page):
        pieces += [with_comma(page[at : kept.start()]), _spoken(kept[0])]
        at = kept.end()
    return "".join([*pieces, with_comma(page[at:])])


def _spoken(tag: str) -> str:
    return (
        tag
        if "data-verbatim" in tag
        else _SPOKEN.sub(lambda m: m[1] + with_comma(m[2]) + m[3], tag)
    )
