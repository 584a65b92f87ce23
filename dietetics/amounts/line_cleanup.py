"""A written line before its amount is read: bullets and hedges taken off, several foods parted,
asides known.

"1 tbsp cornflour mixed with 2 tbsp cold water" are two foods, "½ tsp each cumin and salt" too; "a
cup and a half" is 1½ cups; "Prep time 15 min" and "For the dressing" are no food at all.
"""

from __future__ import annotations

import re

from dietetics.amounts.number_words import ONE_OF_WHOLE, whole_number

_BULLET = re.compile(
    r"^\s*(?:[^\w\s½⅓⅔¼¾⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞(\[\"'#&.+~≈<>=/,;:%@$–—-]+|[-–—](?=\s)|\d{1,2}[.)](?=\s+\S)|\[[ "
    r"x]?\])\s*"
)
# Said before an amount and worth only a wider span.
_HEDGE = re.compile(
    r"^(?:optional(?:ly)?[:,]?|(?:for (?:the )?(?:serving|garnish|topping|dressing|sauce)|"
    r"to (?:serve|garnish|finish)|garnish|toppings?)\s*:|maybe|perhaps|like|say|just|so|then|also|"
    r"roughly|around|"
    r"approximately|approx\.?|up "
    r"to|"
    r"(?:and )?(?:i|we|you)(?:'ve|'ll|'d| have| will| would)? ?(?:usually |often |always "
    r"|normally |sometimes |just )?"
    r"(?:got|used|use|added|add|needed|need|take|took|put in|throw in|threw in|like)?(?= )|"
    r"(?:add|use|take|plus)(?= (?:a|an|one|two|half|\d|[½¼¾⅓⅔])))\s+",
    re.IGNORECASE,
)
# Said before an amount and no part of it: "okay so then we'll throw in", "you want".
_SPOKEN_WORDS = (
    "then|so|and|okay|ok|now|next|well|right|alright|also|plus|i|i'm|i'll|i've|we|we're|we'll|"
    "we've|you|you'll|you're|let's|let us|going|gonna|want|need|do|use|using|used|add|adding|put|"
    "putting|throw|throwing|toss|go|goes|in|with|take|get|grab|got|have|like|just|maybe|perhaps|"
    "about|around|roughly|that's|it's|there's|here|is|are|to|some|say|will|would|another"
)
_SPOKEN = re.compile(
    rf"^(?:(?:{_SPOKEN_WORDS})[, ]+){{1,12}}"
    rf"(?=[\d½⅓⅔¼¾⅛]|(?:an?|the|half|{ONE_OF_WHOLE})\s)",
    re.IGNORECASE,
)
_POINTED_AT = re.compile(r",? (?:right )?(?:here|there|in there|now)$", re.IGNORECASE)
_SPOKEN_WIDELY = re.compile(r"\b(?:like|maybe|perhaps|about|around|roughly|say)\b", re.IGNORECASE)
_WHOLE_ONE = re.compile(r"^(an?|one|two|three) whole (?!(?:wheat|grain|meal)\b)", re.IGNORECASE)
# Spoons and packages of French and German kitchens, as their speakers write them in English.
_SPOON_WORDS = (
    (re.compile(r"\b(?:c\.|cuill[eè]res?|cs?)\s?(?:à|a)\s?(?:soupe|s\.?)(?=\s|$)", re.IGNORECASE),
     "tbsp"),
    (re.compile(r"\b(?:c\.|cuill[eè]res?|cs?)\s?(?:à|a)\s?(?:caf[eé]|c\.?)(?=\s|$)", re.IGNORECASE),
     "tsp"),
    (re.compile(r"(?<=\d )(?:gousses?|zehen?)\b(?: d['’e])?\s?", re.IGNORECASE), "cloves "),
    (re.compile(r"(?<=\d )(?:bottes?|bund)\b(?: (?:de |d['’]))?", re.IGNORECASE), "bunch "),
    (re.compile(r"(?<=\d )(?:pinc[eé]es?|prisen?)\b(?: (?:de |d['’]))?", re.IGNORECASE), "pinch "),
    (re.compile(r"(?<=\d )(?:dosen?|bo[iî]tes?)\b(?: (?:de |d['’]))?", re.IGNORECASE), "can "),
    (re.compile(r"(?<=\d )(?:scheiben?|tranches?)\b(?: (?:de |d['’]))?", re.IGNORECASE), "slices "),
    (re.compile(r"(?<=\d )(?:brins?)\b(?: (?:de |d['’]))?", re.IGNORECASE), "sprigs "),
    (re.compile(r"(?<=\d )(?:poign[eé]es?)\b(?: (?:de |d['’]))?", re.IGNORECASE), "handful "),
)  # fmt: skip
# "Two large celery ribs": the measure stands behind the food.
_STALKS_BEHIND = re.compile(
    r"\b(celery|rhubarb|lemon ?grass|chard|fennel) (?:ribs?|sticks?|stalks?)\b", re.IGNORECASE
)
_GRATING = re.compile(r"\bgratings?\b|\bshavings?\b", re.IGNORECASE)
_CM = re.compile(r"\b(\d{1,2}(?:[.,]\d)?)[ -]?cm[ -](?:piece|knob|chunk|length)s?\b", re.IGNORECASE)
_CM_PER_INCH = 2.54
# "Cumin, coriander and turmeric, 1 tsp each": the amount of all stands behind them.
_EACH_BEHIND = re.compile(
    r"^(?P<names>[^\d½⅓⅔¼¾⅛()]{3,120}?)[,:]?\s+"
    r"(?P<amount>(?:about )?(?:[\d½⅓⅔¼¾⅛][\d/.½⅓⅔¼¾⅛ ]{0,12}|an?\s|half an?\s)[a-z.]{0,14})\s+"
    r"(?:of )?each\.?$",
    re.IGNORECASE,
)
_JOINED = re.compile(r",|\band\b|&")
_WIDENING = re.compile(
    r"^(?:maybe|perhaps|like|say|roughly|around|approximately|approx|up to)\b", re.IGNORECASE
)
_OR_SO = re.compile(r"\b(?:or so|ish|give or take)\b,?", re.IGNORECASE)
_NICE = re.compile(r"\b(a|an|one|two|three)\s+(?:nice|lovely|really|very)\s+", re.IGNORECASE)
_LITTLE = re.compile(
    r"\b(?:a |just a )?(?:little|tiny|wee)? ?bits? of\b|^a little\b(?! (?:more|extra))",
    re.IGNORECASE,
)
# "1 whole wheat pita" is not a whole pita of wheat.
_WHOLE_GRAIN = re.compile(r"\bwhole[- ](wheat|grain|meal)\b", re.IGNORECASE)
# "1 whole head of garlic" is a head; "salt + pepper" are both.
_WHOLE_HEAD = re.compile(
    r"\b(\d+|an?|one|two|three)\s+(?:whole|entire|full)\s+(?=(head|bulb|bunch|can|tin|jar|packet?)s?\b)\2",
    re.IGNORECASE,
)
_BOTH = re.compile(r"(?<=[a-z])\s*\+\s*(?=[a-z])", re.IGNORECASE)
_LITTLE_GEM = re.compile(r"\blittle gem\b", re.IGNORECASE)
_UNIT_AND_PART = re.compile(
    rf"\b(?P<count>an?|{ONE_OF_WHOLE}|\d+)\s+(?P<unit>[a-z]+)\s+and\s+(?:a\s+)?"
    r"(?P<part>half|quarter|third|three quarters|two thirds)\b(?:\s+of\b)?",
    re.IGNORECASE,
)
_PARTS = {
    "half": "1/2",
    "quarter": "1/4",
    "third": "1/3",
    "three quarters": "3/4",
    "two thirds": "2/3",
}
_PART_WORD = re.compile(
    r"\b(one|two|three|five|seven|a)[- "
    r"](half|third|thirds|fourth|fourths|quarter|quarters|fifths?|sixths?|eighths?)\b",
    re.IGNORECASE,
)
# A number as it is written, and not more: a row of figures without end is walked along once.
_FIGURES = r"(\d[\d/. ]{0,15})"
_POUND_OUNCE = re.compile(
    rf"{_FIGURES}\s?(lbs?|pounds?)\.?,?\s*(?:and\s+|\+\s*)?{_FIGURES}\s?(oz|ounces?)\b",
    re.IGNORECASE,
)
_EACH_AFTER_NUMBER = re.compile(rf"^{_FIGURES}\s?(?:ea\.?|each)\s+(?=[a-z])", re.IGNORECASE)
_AMOUNT_AHEAD = (
    r"(?=(?:about\s+)?[\d½⅓⅔¼¾⅛]|a\s+(?:tea|table|cup|tbsp|tsp)|an\s+|one\s+|two\s+"
    r"|three\s+|half\s+)"
)
_THINNED = re.compile(
    r"\b(?:thinned|mixed|loosened|whisked|stirred|blended|diluted|dissolved|made "
    r"up|combined|soaked|"
    r"soaked overnight)\s+(?:out\s+|up\s+)?"
    r"(?:with|into|in|to)\s+" + _AMOUNT_AHEAD,
    re.IGNORECASE,
)
# What a line makes of its food, behind it: "(makes 300 g)", "to make 300 ml".
_MAKES = re.compile(
    r"[\s,;(\[]{0,4}\b(?:(?:which |that )?(?:makes?|making|yields?|yielding|gives|serves?|serving)|"
    r"(?:enough )?to make|enough for)\b\s+(?:(?:about|around|approx\.?|up to|roughly)\s+)*"
    r"(?=[\d½⅓⅔¼¾⅛]|an?\s|one\s|two\s|three\s|four\s|half\s)[^,;()\[\]]*[)\]]?",
    re.IGNORECASE,
)
_AMOUNT_ALONE = re.compile(
    r"(?:about\s+)?[\d½⅓⅔¼¾⅛][\d/.,½⅓⅔¼¾⅛ ]{0,12}"
    r"(?:ml|cl|dl|l|litres?|liters?|cups?|pints?|oz|fl oz)\.?",
    re.IGNORECASE,
)
_FIRST_AMOUNT = re.compile(r"(?:about\s+)?(?:[\d½⅓⅔¼¾⅛]|an?\s|one\s|two\s|half\s)", re.IGNORECASE)
# "Zest and juice of 1 lemon", "1 lemon, zested and juiced": both are used, each weighed by itself.
_ZEST = r"zest(?:ed)?|rind|peel"
_JUICE = r"juiced?"
# "1 cup orange zest, juice": so much of one of them, and no fruit
_MEASURED = re.compile(
    r"[\d½⅓⅔¼¾⅛/., -]+\s*(?:cups?|tbsp|tsp|tablespoons?|teaspoons?|g|kg|ml|oz|lbs?)\b",
    re.IGNORECASE,
)
_ZEST_AND_JUICE = (
    re.compile(
        rf"^(?:the )?(?:(?:finely )?grated )?(?:(?:{_ZEST})(?: and |, | & |/)(?:the )?(?:{_JUICE})|"
        rf"(?:{_JUICE})(?: and |, | & |/)(?:the )?(?:{_ZEST}))(?: (?:of|from))? (?P<fruit>\S.*)$",
        re.IGNORECASE,
    ),
    re.compile(
        rf"^(?P<fruit>[^,()]+?),? \(?(?:(?:{_ZEST})(?: and | & |, |/)(?:{_JUICE})|"
        rf"(?:{_JUICE})(?: and | & |, |/)(?:{_ZEST}))\)?$",
        re.IGNORECASE,
    ),
)
_PLUS = re.compile(r"(?:\+|\bplus\b)\s*" + _AMOUNT_AHEAD, re.IGNORECASE)
# "1 tsp cumin and 1 tsp coriander": the second food has an amount of its own, in figures.
_AND = re.compile(
    r"(?<=\s)and\s+(?=(?:about\s+)?[\d½⅓⅔¼¾⅛][\d/.½⅓⅔¼¾⅛ ]{0,15}[a-z]{1,12}\b\.?\s+[a-z])",
    re.IGNORECASE,
)
_MORE_TO = re.compile(r"^\s*\S+\s+(?:more|extra)\b|\b(?:more|extra) (?:to|for)\b", re.IGNORECASE)
_FOOD_LETTERS = re.compile(r"[a-z]{3,}", re.IGNORECASE)
_MEASURE_WORDS = re.compile(
    r"\b(?:heaped|heaping|level|scant|rounded|generous|good|large|small|medium|big|tea|table"
    r"|dessert)?\s*(?:cups?|c|tsps?|"
    r"teaspoons?|tbsps?|tbs|tablespoons?|dessert "
    r"?spoons?|spoons?|grams?|g|kg|mg|oz|ounces?|lbs?|pounds?|ml|l|litres?|liters?|"
    r"pints?|quarts?|pinch(?:es)?|dash(?:es)?|handfuls?|about|and|a|an|one|two|three|four|five"
    r"|half|quarter|x)\b\.?",
    re.IGNORECASE,
)

# --- lines that hold no food
# ---------------------------------------------------------------------------------------
_HEADING_WORDS = re.compile(
    r"^(?:for|to make|make) (?:the|your|a) [\w ,'&-]{2,40}$|^(?:for "
    r"(?:serving|garnish|topping)|to (?:serve|garnish|finish))$|"
    r"^(?:the "
    r")?(?:dressing|sauce|filling|topping|toppings|base|crust|marinade|garnish|salad|bowl|stew|"
    r"soup|spice "
    r"mix|dough|"
    r"glaze|crumble|vegetables|to assemble|assembly|optional|extras|optional "
    r"extras|garnishes|other|dry ingredients|"
    r"wet ingredients|main ingredients|ingredients|method|directions|instructions|preparation|"
    r"steps)$",
    re.IGNORECASE,
)
_META = re.compile(
    r"^(?:prep(?:aration)?|cook(?:ing)?|total|active|hands[- "
    r"]on|rest(?:ing)?|chill(?:ing)?|soak(?:ing)?|bak(?:e|ing)|ready in|"
    r"additional|inactive|standing|freez(?:e|ing)|marinat(?:e|ing))(?:[- "
    r"]?time)?\b\s*[:\-–|]?\s*(?:about |approx\.? )?\d|"
    r"^serves?\s*:?\s*(?:about )?\d|"
    r"^(?:course|cuisine|category|keyword|keywords|author|by|recipe by|source|adapted "
    r"from|diet|difficulty|level|cost|method|"
    r"equipment|tools|calories|nutrition(?: facts| information| per serving)?|energy|per "
    r"serving|rating|print|pin|share|save|"
    r"jump to|posted|published|updated|photo|image|tags?|total "
    r"time|time|dietary|allergens?|storage|to store|freezing|"
    r"recipe type|skill|temperature|oven|shelf life|makes ahead|make ahead)\b\s*[:|\-–]|"
    r"^(?:calories|energy)\s+\d|^nutrition\b|^by (?:the |a )?[\w' ]+(?:\||$)|^(?:ready|done|on "
    r"the table) in\b|"
    r"^[★☆⭐]{2,}|^(?:posted|published|updated|written) (?:on|by|in)\b|\bfrom \d+ "
    r"(?:votes|ratings|reviews)\b|"
    r"^(?:jump to recipe|print recipe|pin recipe|save recipe|"
    r"leave a comment|us customary|metric$|serving suggestions?|did you make this|rate "
    r"this|follow (?:me|us)|share this|enjoy)\b|https?://|^www\.|^©|^copyright\b",
    re.IGNORECASE,
)
_TOLD = re.compile(
    r"^(?:so )?this (?:is|was|recipe|one|dish|soup|salad|stew|bowl)\b|^(?:i|we) "
    r"(?:love|like|made|make|serve|often|always|found)\b|"
    r"^(?:a|an|my|our|the) [\w' "
    r"-]{3,80}\b(?:that|which|you(?:'ll)?|perfect|everyone|keeps?|is|are|was)\b.*[.!]$|"
    r"^(?:perfect|great|ideal|delicious|serve "
    r"with|best|keeps|freezes|store|leftovers|tip|tips|note|notes|variation|variations)\b",
    re.IGNORECASE,
)


def _in_figures(count: str) -> str:
    """A count in figures; one that is so already as it is, however long."""
    return count if count.isdecimal() else str(whole_number(count))


def is_heading(text: str) -> bool:
    """True for a line that names a part of the recipe: "For the dressing", "Sauce:"."""
    plain = text.strip().rstrip(":").strip("*_#= ").strip()
    if text.strip().endswith(":") and not any(ch.isdigit() for ch in text):
        return True
    return bool(_HEADING_WORDS.match(plain))


def is_aside(text: str) -> bool:
    """True for what stands about a recipe and is no food: times, ratings, courses, a sentence of
    the author's.
    """
    return bool(_META.search(text.strip()) or _TOLD.match(text.strip()))


def without_number(text: str) -> str:
    """The line without its bullet or number: "1. Warm the pan" is "Warm the pan"."""
    return _BULLET.sub("", text.strip())


def plain_line(text: str) -> str:
    """The line without bullet, hedges and spoken turns: "like a cup and a half of rice" is "about 1
    1/2 cup rice".
    """
    body = _BULLET.sub("", text.strip())
    about = False
    if (spoken := _SPOKEN.match(body)) is not None:
        about = _SPOKEN_WIDELY.search(spoken.group()) is not None
        body = body[spoken.end() :]
    while (found := _HEDGE.match(body)) is not None and found.end() < len(body):
        about = about or _WIDENING.match(found.group()) is not None
        body = body[found.end() :]
    if spoken is not None:
        body = _POINTED_AT.sub("", body)
    if _OR_SO.search(body):
        about, body = True, _OR_SO.sub("", body)
    body = _NICE.sub(r"\1 ", body)
    for written, unit in _SPOON_WORDS:
        body = written.sub(unit, body)
    body = _WHOLE_ONE.sub(r"\1 ", body)
    body = _STALKS_BEHIND.sub(r"stalks \1", body)
    body = _GRATING.sub("pinch", body)
    body = _CM.sub(lambda m: f"{float(m[1].replace(',', '.')) / _CM_PER_INCH:.1f} inch", body)
    each = _EACH_BEHIND.match(body)
    if each is not None and _JOINED.search(each["names"]):
        body = f"{each['amount']} each {each['names']}"
    body = _UNIT_AND_PART.sub(
        lambda m: f"{_in_figures(m['count'])} {_PARTS[m['part'].lower()]} {m['unit']}",
        body,
    )
    body = _PART_WORD.sub(lambda m: f"{m[1]} {m[2]}", body)
    body = _POUND_OUNCE.sub(r"\1 lb plus \3 oz", body)
    body = _EACH_AFTER_NUMBER.sub(r"\1 ", body)
    body = _WHOLE_HEAD.sub(r"\1 \2", body)
    body = _BOTH.sub(" and ", body)
    body = _LITTLE_GEM.sub("little-gem", body)
    body = _WHOLE_GRAIN.sub(r"whole\1", body)
    body = _LITTLE.sub("some ", body)
    return (
        f"about {body.strip()}" if about and not body.lower().startswith("about") else body.strip()
    )


def parts_of_line(body: str) -> list[str]:
    """The foods of a line that each have an amount: what is thinned with what, "A + 2 tbsp B", and
    a fruit's zest and juice.
    """
    for pattern in _ZEST_AND_JUICE:
        both = pattern.match(body)
        if both is not None and not _MEASURED.match(both["fruit"]):
            return [f"zest of {both['fruit']}", f"juice of {both['fruit']}"]
    found: list[str] = []
    for piece in _THINNED.split(body):
        at = 0
        for plus in sorted(
            (*_PLUS.finditer(piece), *_AND.finditer(piece)), key=lambda found: found.start()
        ):
            left = piece[at : plus.start()]
            if _names_a_food(left) and not _MORE_TO.search(piece[plus.end() :]):
                found.append(left)
                at = plus.end()
        found.append(piece[at:])
    pieces = [piece.strip(" ,") for piece in found if piece.strip(" ,")]
    is_more = len(pieces) == 2 and not _THINNED.search(body)
    if is_more and not _names_a_food(pieces[1]) and _FIRST_AMOUNT.match(pieces[1]):
        first, more = pieces  # "1/2 cup flour, + 1 tsp": more of the same
        return [f"{more} plus {first}" if _FIRST_AMOUNT.match(first) else f"{more} {first}"]
    # "made up to 500 ml": with water, where nothing else is said
    return [
        f"{piece} water" if n and _AMOUNT_ALONE.fullmatch(piece) else piece
        for n, piece in enumerate(pieces)
    ]


def without_what_it_makes(body: str) -> tuple[str, str]:
    """The line without what its food makes, and that: "stock powder, makes 1 litre" tells of no
    litre of powder.
    """
    found = _MAKES.search(body)
    if found is None or not _FOOD_LETTERS.search(body[: found.start()]):
        return body, ""
    return f"{body[: found.start()]}{body[found.end() :]}".strip(), found.group().strip(" ,;()[]")


def _names_a_food(text: str) -> bool:
    return bool(_FOOD_LETTERS.search(_MEASURE_WORDS.sub(" ", text)))


def listed(phrase: str) -> list[str]:
    """The foods of a list: "cumin, coriander and salt"; one where it is none."""
    return [
        piece.strip()
        for piece in re.split(r",\s*(?:and\s+)?|(?<=\s)and\s+|&", phrase)
        if piece.strip()
    ]
