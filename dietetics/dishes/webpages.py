"""What a saved web page says of itself for machines: JSON-LD scripts, and microdata items.

A page is walked through once, tag by tag; nothing in it is followed or run. The tags come from
lxml's parser, which needs time in proportion to the page (the standard library's needs it squared
for a row of "<") and knows which end tags may be left out. Items lie in each other no deeper than
`MOST_DEPTH`: what lies deeper is left out. Microdata as in the HTML Living Standard, section 5
(itemscope, itemprop, itemtype; no itemref).
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from contextlib import suppress
from dataclasses import dataclass, field
from typing import Any

from lxml import etree

from dietetics.errors import DieteticsError
from dietetics.untrusted_input import MOST_DEPTH, bounded_json

# Elements without an end tag, and the attribute that holds the value of a property that stands on
# them.
NEW_LINE = frozenset({"br", "p", "div", "li", "tr", "h1", "h2", "h3", "h4"})
VOID = frozenset(
    {
        "area",
        "base",
        "br",
        "col",
        "embed",
        "hr",
        "img",
        "input",
        "link",
        "meta",
        "source",
        "track",
        "wbr",
    }
)
SCRIPTS = frozenset({"application/ld+json", "application/json"})
CLASSES = {
    "p-name": "name", "fn": "name", "p-ingredient": "recipeIngredient",
    "ingredient": "recipeIngredient", "e-instructions": "recipeInstructions",
    "instructions": "recipeInstructions", "p-yield": "recipeYield", "yield": "recipeYield",
}  # fmt: skip
_MARKS = re.compile(r"^\s*(?://)?\s*(?:<!--|<!\[CDATA\[)|(?://)?\s*(?:-->|\]\]>)\s*$")
_COMMA_TOO_MANY = re.compile(r",\s{0,20}([}\]])")
MOST_OPEN = 200  # elements in each other: a page has thirty; what lies deeper is walked past
VALUE_ATTRIBUTE = {
    "meta": "content", "link": "href", "a": "href", "area": "href", "img": "src", "source": "src",
    "embed": "src",
    "time": "datetime", "data": "value", "meter": "value",
}  # fmt: skip


def described(page: str) -> list[Any]:
    """Every JSON-LD value and every outermost microdata item of a page, in the order they stand in
    it.
    """
    reader = _Reader()
    parser = etree.HTMLParser(target=reader, recover=True, no_network=True, encoding="utf-8")
    parser.feed(page.encode("utf-8", "replace"))
    with suppress(etree.XMLSyntaxError):  # an empty page
        parser.close()
    return reader.found


def _as_microdata(given: dict[str, str], around: Mapping[str, Any] | None) -> dict[str, str]:
    """An element's attributes with RDFa (typeof, property) and the classes of the h-recipe
    microformat said as microdata.
    """
    if "itemscope" in given or "itemprop" in given:
        return given
    classes = given.get("class", "").split()
    if "typeof" in given:
        said = {"itemscope": "", "itemtype": given["typeof"]}
        return given | said | {"itemprop": given.get("property", "")}
    if not {"h-recipe", "hrecipe"}.isdisjoint(classes):
        return given | {"itemscope": "", "itemtype": "Recipe"}
    if around is None:
        return given
    names = [CLASSES[one] for one in classes if one in CLASSES]
    if given.get("property") or names:
        return given | {"itemprop": given.get("property") or " ".join(names)}
    return given


def _mended(text: str) -> str:
    """A script as JSON: comment and CDATA marks taken off, a comma too many before an end."""
    plain = _MARKS.sub("", text.strip()).strip().rstrip(";")
    return _COMMA_TOO_MANY.sub(r"\1", "".join(" " if ch in "\n\r\t" else ch for ch in plain))


@dataclass
class _Open:
    """An element that is not closed yet: the item it starts, and the property whose text it
    gathers.
    """

    tag: str
    item: dict[str, Any] | None = None
    owner: dict[str, Any] | None = None
    names: tuple[str, ...] = ()
    text: list[str] = field(default_factory=list)


class _Reader:
    """Hears every start, end and text of a page, and keeps what it says of itself."""

    def __init__(self) -> None:
        self.found: list[Any] = []
        self.open: list[_Open] = []
        self.script: list[str] | None = None
        self.ignored = 0

    def start(self, tag: str, attributes: Mapping[str, str]) -> None:
        """Start an item, or a property of the item around it."""
        if len(self.open) + self.ignored >= MOST_OPEN:
            self.ignored += tag not in VOID
            return
        given = {name: value or "" for name, value in attributes.items()}
        if tag == "script" and given.get("type", "").split(";")[0].strip().lower() in SCRIPTS:
            self.script = []
        if tag in NEW_LINE:
            self._gather("\n")
        around = self._item()
        given = _as_microdata(given, around)
        names = tuple(given.get("itemprop", "").split())
        element = _Open(tag, None, around, names if around is not None else ())
        if "itemscope" in given and sum(one.item is not None for one in self.open) < MOST_DEPTH:
            element.item = {"@type": given.get("itemtype", "").split()[:1]}
            if around is None or not names:
                self.found.append(element.item)
        attribute = VALUE_ATTRIBUTE.get(tag, "")
        if element.item is not None:
            self._give(element, element.item)
        elif attribute in given:
            self._give(element, given[attribute])
        if tag not in VOID:
            self.open.append(element)

    def end(self, tag: str) -> None:
        """Close the element, and whatever was left open inside it; an end without a start is passed
        over.
        """
        if self.ignored and tag not in VOID:
            self.ignored -= 1
            return
        if tag == "script" and self.script is not None:
            self._keep_script("".join(self.script))
            self.script = None
        if any(one.tag == tag for one in self.open):
            while True:
                element = self.open.pop()
                if element.names:
                    self._give(element, "".join(element.text))
                if element.tag == tag:
                    return

    def data(self, data: str) -> None:
        """Gather text for every property that is open, and for a script."""
        if self.script is not None:
            self.script.append(data)
        else:
            self._gather(data)

    def _gather(self, text: str) -> None:
        for one in self.open:
            if one.names:
                one.text.append(text)

    def close(self) -> None:
        """The page has ended: close what it left open."""
        while self.open:
            self.end(self.open[-1].tag)

    def _item(self) -> dict[str, Any] | None:
        """The item that stands around what comes now."""
        return next((one.item for one in reversed(self.open) if one.item is not None), None)

    def _give(self, element: _Open, value: Any) -> None:
        """Give the item around an element its property, once."""
        for name in element.names:
            assert element.owner is not None
            element.owner.setdefault(name, []).append(value)
        element.names = ()

    def _keep_script(self, text: str) -> None:
        try:
            self.found.append(bounded_json(_mended(text)))
        except DieteticsError:
            return  # a script that cannot be read says nothing; another may
