"""A recipe as a page shows it to people, for pages that say nothing of it to machines: the list
below "Ingredients", and what stands below "Method".
"""

from __future__ import annotations

import re
from contextlib import suppress
from dataclasses import dataclass, field

from lxml import etree

MOST_BLOCKS, MOST_TEXT = 20_000, 600
BLOCKS = frozenset(
    {"p", "div", "li", "tr", "td", "dd", "dt", "br", "ul", "ol", "table", "section", "article",
    "h1", "h2", "h3", "h4", "h5", "h6", "title", "header", "footer", "label", "figure", "nav"}
)  # fmt: skip
HEADINGS = frozenset({"h1", "h2", "h3", "h4", "h5", "h6"})
UNSEEN = frozenset({"script", "style", "noscript", "svg", "button", "select", "form", "nav"})
INGREDIENTS = re.compile(
    r"^(?:the\s+)?ingredients?(?:\s+list)?(?:\s*\(.*\))?\s*:?$|^(?:zutaten|ingrédients?|ingredienti|"
    r"ingredientes|what you(?:'|’)?(?:ll)? need)\b.{0,30}$",
    re.IGNORECASE,
)
METHOD = re.compile(
    r"^(?:method|directions?|instructions?|preparation|steps|how to make(?: it)?|procedure|"
    r"zubereitung|préparation|preparazione|preparación|cooking (?:method|directions?|steps))"
    r"(?:\s*\(.*\))?\s*:?$",
    re.IGNORECASE,
)
END = re.compile(
    r"^(?:notes?|tips?|nutrition\w*(?: (?:facts|information|info))?|comments?|reviews?|equipment|"
    r"storage|(?:related|more recipes|leave a|you (?:may|might)|rate)\b.*)\s*:?$",
    re.IGNORECASE,
)
_AMOUNT = re.compile(
    r"^\W{0,3}(?:\d|[½⅓⅔¼¾⅛]|an?\s|one\s|two\s|three\s|half\s)|\d\s*(?:g|ml|kg|l)\b", re.I
)
LEAST_AMOUNTS, MOST_LINES = 2, 120


@dataclass
class _Blocks:
    """Hears a page and keeps its text block by block, each with the tag it stands in."""

    found: list[tuple[str, str]] = field(default_factory=list)
    text: list[str] = field(default_factory=list)
    tags: list[str] = field(default_factory=list)
    hidden: int = 0

    def start(self, tag: str, _attributes: object) -> None:
        """Start a block, or walk past what nobody sees."""
        if tag in UNSEEN:
            self.hidden += 1
        if tag in BLOCKS:
            self._close()
            self.tags.append(tag)
            del self.tags[:-MOST_TEXT]

    def end(self, tag: str) -> None:
        """End a block."""
        if tag in UNSEEN:
            self.hidden = max(0, self.hidden - 1)
        if tag in BLOCKS:
            self._close()
            if tag in self.tags:
                while self.tags.pop() != tag:
                    pass

    def data(self, data: str) -> None:
        """Gather what is seen."""
        if not self.hidden:
            self.text.append(data)

    def close(self) -> None:
        """The page has ended."""
        self._close()

    def _close(self) -> None:
        text = " ".join("".join(self.text).split())
        self.text = []
        if text and len(self.found) < MOST_BLOCKS:
            self.found.append((self.tags[-1] if self.tags else "", text[:MOST_TEXT]))


@dataclass(frozen=True)
class ShownRecipe:
    """A recipe as it is shown: its title, its ingredients and its steps."""

    title: str
    ingredients: tuple[str, ...]
    steps: tuple[str, ...]


def shown_recipe(page: str) -> ShownRecipe | None:
    """The recipe that a page shows; None where no list stands below "Ingredients" that has two
    amounts at least.
    """
    blocks = _Blocks()
    parser = etree.HTMLParser(target=blocks, recover=True, no_network=True, encoding="utf-8")
    parser.feed(page.encode("utf-8", "replace"))
    with suppress(etree.XMLSyntaxError):
        parser.close()
    best: ShownRecipe | None = None
    for at, (_, text) in enumerate(blocks.found):
        if INGREDIENTS.match(text):
            found = _below(blocks.found, at)
            amounts = sum(bool(_AMOUNT.search(line)) for line in found.ingredients)
            if amounts >= LEAST_AMOUNTS and (
                best is None or len(found.ingredients) > len(best.ingredients)
            ):
                best = found
    return best


def _below(blocks: list[tuple[str, str]], at: int) -> ShownRecipe:
    titles = [text for tag, text in blocks[:at] if tag == "h1"]
    titles = titles or [text for tag, text in blocks if tag in ("h1", "title")]
    ingredients: list[str] = []
    steps: list[str] = []
    taken = ingredients
    for tag, text in blocks[at + 1 :]:
        if METHOD.match(text):
            taken = steps
        elif END.match(text) or tag in ("h1", "h2", "footer") or len(taken) >= MOST_LINES:
            if taken is steps or taken:
                break
        elif INGREDIENTS.match(text):
            break
        else:
            taken.append(f"{text.rstrip(':')}:" if tag in HEADINGS else text)
    return ShownRecipe(titles[0][:120] if titles else "", tuple(ingredients), tuple(steps))
