"""The words of written ingredients and what each one does to the food: data for the reader of
lines.

Every word of a line is one of these: part of the food's name, a word that *chooses* the row (a
state, or a claim such as unsalted), a *form* that makes another food of it (oil, juice, flour), a
*neutral* word that is known to change nothing, or unknown. Lists are closed: a word that is in none
of them raises a question.
"""

from __future__ import annotations

import re
from collections.abc import Mapping

from dietetics.composition.name_words import words_of

# Written word -> the states of the shelf it asks for, best first.
STATE_WORDS: Mapping[str, tuple[str, ...]] = {
    "dry": ("dry", "dried"),
    "dried": ("dried", "dry"),
    "uncooked": ("dry", "raw"),
    "raw": ("raw", "dry"),
    "unprepared": ("raw", "frozen"),
    "cooked": ("cooked", "roasted"),
    "boiled": ("cooked",),
    "steamed": ("cooked",),
    "simmered": ("cooked",),
    "braised": ("cooked",),
    "poached": ("cooked",),
    "leftover": ("cooked",),
    "wilted": ("cooked",),
    "precooked": ("cooked",),
    "microwaved": ("cooked", "roasted"),
    "sauteed": ("cooked",),
    "fried": (),
    "rehydrated": ("cooked",),
    "reconstituted": ("cooked",),
    "roasted": ("roasted",),
    "roast": ("roasted",),
    "baked": ("roasted",),
    "grilled": ("roasted",),
    "charred": ("roasted",),
    "barbecued": ("roasted",),
    "frozen": ("frozen",),
    "thawed": ("frozen",),
    "defrosted": ("frozen",),
    "canned": ("canned-drained", "canned-undrained"),
    "tinned": ("canned-drained", "canned-undrained"),
    "jarred": ("canned-drained", "canned-undrained"),
    "rinsed": ("canned-rinsed",),
    "drained": ("canned-drained",),
    "undrained": ("canned-undrained",),
}
# State words that only say how a can was treated, or that frozen food is no longer hard: no row has
# to be there for them.
HANDLING_STATES = frozenset({"rinsed", "drained", "thawed", "defrosted", "leftover"})
COOKING_STATES = frozenset(
    {"cooked", "boiled", "steamed", "simmered", "braised", "poached", "wilted", "microwaved",
    "sauteed", "fried",
     "roasted", "roast", "baked", "grilled", "charred", "barbecued"}
)  # fmt: skip
# Behind a comma these tell what is done after measuring ("2 onions, fried"), unless the row of that
# state is there.
DONE_LATER = COOKING_STATES - {
    "cooked",
    "fried",
}  # frying brings oil that no line holds: it is asked about

# Said of how a thing is cut, treated or chosen: read, and no reason to doubt the food. `words_of`
# makes them singular.
NEUTRAL_WORDS = frozenset(
    words_of(
        """
        chopped sliced diced minced grated shredded cubed crushed torn trimmed peeled pitted stoned
        cored seeded deseeded shelled soaked overnight pressed finely roughly coarsely thinly
        thickly lightly cut into chunks chunk bite size sized florets floret rounds round ribbons
        ribbon matchsticks matchstick strips strip wedges wedge quartered halved half quarter plain
        regular organic ripe firm tender new large medium small big thick thin heaped freshly
        squeezed good quality optional packed loosely washed cold warm hot boiling room temperature
        softened melted toasted crumbled mashed blended skin skins on off removed reserved set aside
        plus more extra to taste for serving serve garnish the a an of and or in our own any kind
        your colour color assorted snipped picked prepared ready eat unsulphured unsulfured shaved
        flaked slivered blanched granulated clove head piece stick stalk sprig bunch handful sheet
        cup can tin wild free range local seasonal fine coarse pure real lot few each per generous
        about approx cool cooled lukewarm their its packaged pack package packet bag box tub jar pot
        punnet carton bottle if using needed when done then late end last at preferably split outer
        inner top tops tip tips bottom ends both all natural flat whole julienned spiralized
        spiralised riced hulled dehulled shell hull kernel patted scrubbed deveined destemmed
        destringed topped tailed tough woody excess very nice homegrown home grown homemade store
        bought supermarket vine ripened juicy mild crisp crunchy creamy smooth runny diagonal
        diagonally lengthwise lengthways crosswise crossways smashed bruised pounded broken smaller
        larger equal even uniform bitesize inch cm mm thickness divided separated sifted measured
        weighed level rounded scant heaping about approximately roughly total net weight patty
        portion serving use used instead either not too also as well from with without vacuum packed
        sealed steam microwavable quick easy favourite favorite please maybe like some little bit
        lovely beautiful stem stems core cores stone pith sub part parts filtered tap mineral still
        but caps podded d lump lumps knob thumb length slice dice cube rasher cover frying greasing
        brushing purpose
        everyday bought such other similar equivalent available possible
        """
    )
) | {
    "drained weight",
    "s",
    "i",
    "we",
    "you",
    "it",
    "be",
    "is",
    "are",
    "have",
    "ve",
    "got",
    "re",
    "so",
    "just",
    "this",
}

# Kinds within one food that leave its row as it is.
VARIETY_WORDS = frozenset(
    words_of(
        """
        heirloom roma beefsteak campari vine san marzano hass fuji gala braeburn granny smith pink
        lady cox bramley honeycrisp conference bartlett anjou bosc yukon gold russet maris piper
        king edward desiree kabuli valencia navel cavendish alphonso atlantic italian french spanish
        japanese chinese indian american english greek turkish mexican thai korean vietnamese
        californian scottish welsh irish canadian australian hungarian moroccan ethiopian persian
        lebanese swiss british european mediterranean asian curly tuscan lacinato globe baby mini
        jumbo echalion
        """
    )
)

COLOUR_WORDS = frozenset(
    {"red", "yellow", "orange", "purple", "golden", "white", "black", "brown", "pink", "rainbow"}
)
PRODUCE_GROUPS = frozenset({"vegetable", "leafy-green", "fruit", "starchy-vegetable", "mushroom"})

# Words that make another food of what stands before them, unless the row's own names say them too.
FORM_WORDS = frozenset(
    words_of(
        """
        oil milk drink beverage cream creamer butter flour meal noodles noodle pasta spaghetti
        vermicelli juice nectar yogurt cheese powder protein paste sauce syrup vinegar leaves seeds
        sprouts chips crisps crackers flakes bread tortilla wrap cake cakes cookie biscuit bar balls
        burger sausage jam jelly spread dip dressing mayo mayonnaise ketchup relish chutney pickle
        pickles salad soup stew curry broth stock cubes salt sugar starch extract essence wine beer
        liqueur tea coffee bran germ fibre puree concentrate crumbs popcorn granola cereal porridge
        gum aminos blossom blossoms flowers flower root peel pulp pods pod shoots husk rice steak
        mince jerky bacon nuggets fillet roast crust dough mix seasoning rub marinade glaze jelly
        hearts toast waffle pancake muffin brownie fritter rings fries hash tots pudding custard ice
        sorbet kernels nibs buttercream caramel brittle pate tapenade pesto hummus guacamole salsa
        tempura nachos leather tops greens isolate buns bun roll rolls pizza pie tart crumble
        filling stuffing gravy
        """
    )
)
# Words of a form that a group bears by nature: leaves of a green, seeds of a seed, powder of a
# spice.
NATURAL_FORMS: Mapping[str, frozenset[str]] = {
    "leafy-green": frozenset({"leaf", "green", "top"}),
    "herb-spice": frozenset({"powder", "ground", "pod"}),
    "seed": frozenset({"kernel", "ground"}),
    "nut": frozenset({"kernel", "ground", "nut", "half"}),
    "grain": frozenset({"kernel", "grain"}),
    "legume": frozenset({"bean"}),
    "condiment": frozenset(),
}
# Words that change a food and are no form: honoured only where the row's names say them.
CHANGING_WORDS = frozenset(
    words_of(
        """
        green young sprouted powdered ground smoked pickled fermented marinated candied glazed
        crystallised crystallized popped puffed instant freeze pearled flavoured flavored seasoned
        spiced spicy fresh chocolate vanilla coated breaded battered stuffed filled vegan dehydrated
        condensed malted sweet sour bitter hot strong concentrated diluted thinned carbonated nut
        enriched wholegrain multigrain cured brined unripe dark light
        """
    )
)

# Canonical spelling of one word.
SAME_WORD: Mapping[str, str] = {
    "wholemeal": "wholegrain",
    "wholewheat": "wholegrain",
    "multigrain": "multigrain",
    "veg": "vegetable",
    "purpl": "purple",
    "unprocessed": "plain",
    "lite": "light",
    "purée": "puree",
    "pureed": "puree",
    "sauté": "sauteed",
    "sauted": "sauteed",
    "barbeque": "barbecue",
    "bbq": "barbecue",
    "linseeds": "linseed",
}

# Phrases that say one thing: pattern -> what it claims. Read before the single words, most
# particular first. A claim "x-free" is honoured by a row without x; see `claims.py`.
CLAIMS: tuple[tuple[str, str], ...] = (
    ((r"no[- ](?:added[- ])?salt(?:[- ]added)?|without (?:added )?salt|salt[- ]free|un[- "
     r"]?salted|zero salt"), "salt-free"),
    (r"(?:no|without) (?:added )?sodium|sodium[- ]free|no[- ]sodium(?:[- ]added)?", "salt-free"),
    (r"(?:low(?:er)?|reduced|less)(?:er)?[- ](?:in )?(?:sodium|salt)|light[- ]in[- "
     r"]salt|sodium[- ]reduced|"
     r"lightly[- ]salted|half[- ]salt",
     "salt-low"),
    (r"\bsalted\b|with (?:added )?salt", "salted"),
    (r"no[- ](?:added[- ])?sugars?(?:[- ]added)?(?! or)|without (?:added )?sugar|un[- ]?sweetened",
    "unsweetened"),
    (r"sugar[- ]free|zero sugar|diet", "sugar-free"),
    (r"(?:low(?:er)?|reduced|less)[- ](?:in )?sugar|sugar[- ]reduced", "sugar-low"),
    (r"\b(?:lightly )?sweetened\b|with (?:added )?sugar", "sweetened"),
    (r"fat[- ]free|non[- ]?fat|zero fat|skim(?:med)?", "fat-free"),
    (r"(?:low(?:er)?|reduced|less|half|semi[- ]skimmed)[- ](?:in )?fat", "fat-low"),
    (r"full[- ]fat|whole[- ]fat", "fat-full"),
    (r"oil[- ]free|(?:no|without)[- ](?:added[- ])?oil|no oil added", "oil-free"),
    (r"(?:un|non[- ])fortified|not fortified", "unfortified"),
    (r"fortified(?: with [\w ,]+)?|b[- ]?12[- ]fortified|calcium[- ]fortified", "fortified"),
    (r"gluten[- ]free|(?:no|without) gluten", "gluten-free"),
    (r"wheat[- ]free", "wheat-free"),
    (r"soya?[- ]free|(?:no|without) soya?", "soy-free"),
    (r"(?:tree[- ])?nut[- ]free|(?:no|without) nuts", "nut-free"),
    (r"peanut[- ]free", "peanut-free"),
    (r"sesame[- ]free", "sesame-free"),
    (r"(?:dairy|milk|lactose|cow)[- ]free|non[- ]dairy|without dairy", "vegan"),
    (r"egg[- ]free|eggless", "vegan"),
    (r"vegan|plant[- ]based|meat[- ]?free|meatless|mock|faux|vegetarian|veggie(?= "
     r"(?:burger|sausage|mince|meat|ground|dog|"
     r"crumble|patt|chick|bacon|ball))",
     "vegan"),
    (r"(?:packed |preserved |marinated |canned |tinned )?in (?:\w+ )?oil|oil[- ]packed", "in-oil"),
    (r"(?:packed |canned |tinned )?in (?:\w+ )?brine", "in-brine"),
    (r"(?:packed |canned |tinned )?in (?:\w+ )?syrup", "in-syrup"),
    (r"(?:packed |canned |tinned )?in (?:\w+ )?(?:natural |own |its |their )*juices?|juice and "
     r"all|with (?:its |"
     r"their )?juices?", "in-juice"),
    (r"(?:packed |canned |tinned )in (?:\w+ )?water|(?<=s )in (?:spring ?)?water(?! overnight)",
    "in-water"),
    (r"with (?:its |their |the )?liquid|liquid and all|not drained|(?:do not|don'?t) drain(?:ed)?|"
     r"without draining", "undrained"),
    (r"whole[- ]?(?:grain|wheat|meal)|wholegrains?|wholemeal|100 ?% wheat", "wholegrain"),
    (r"with (?:its |their |the )?(?:leaves|tops?|greens?|skins?|stalks?|stems?)(?: on| attached)?",
    "neutral"),
    (r"home[- ]?made(?= (?:soy|soya|almond|oat|rice|cashew|coconut|nut|hemp) (?:milk|drink))",
    "unfortified"),
    (r"(?:made |cooked )?from (?:dry|dried|scratch|frozen)(?! \w+ed\b)", "neutral"),
    (r"instead of [\w -]+|in place of [\w -]+|rather than [\w -]+", "instead"),
    (r"(?:stems?|stalks?|seeds?|skins?|stones?|pits?|cores?|ends?|leaves|outer "
     r"leaves|tops?|ribs?|roots?|peel|pith|fronds?|husks?|"
     r"shells?|membranes?|tough (?:stems?|ends?))(?: (?:and|&) (?:\w+))? "
     r"(?:removed|discarded|trimmed|reserved|attached|on|"
     r"off|only)",
     "neutral"),
    ((r"(?:no need to|do not|don't) \w+|(?:skin|peel)[- "
     r"](?:on|off)|skinless|seedless|boneless|pitless|stoneless"), "neutral"),
    (r"(?:alumin(?:i)?um|gmo|msg|preservative|additive|bpa|caffeine|cruelty|pesticide|"
     r"cholesterol)[- "
     r"]free|non[- ]gmo|"
     r"no preservatives", "neutral"),
    (r"fire[- ]roasted|stone[- ]ground|cold[- ]pressed|free[- ]range|vine[- ]ripened|sun[- "
     r"]ripened|oven[- ]ready|"
     r"home[- ]?(?:made|grown)|shop[- ]bought|store[- ]bought|vacuum[- ]packed|extra[- "
     r"]virgin|ready[- ]to[- ](?:eat|use|serve)|"
     r"good[- ]quality|best[- ]quality|bite[- ]sized?|to taste|at room temperature|old[- "
     r"]fashioned|double[- ]acting|"
     r"(?:more|extra|plus more) (?:to|for) \w+|for "
     r"(?:serving|garnish|topping|sprinkling|decoration)|to (?:serve|garnish|finish)|"
     r"roots? (?:washed|attached)|on the vine|any (?:kind|type|colour|color)|or so|if needed|"
     r"if (?:you|using)[\w ]*|thumb[- ]sized?|vitamin[- ]?[a-z]?\d* enriched(?!)", "neutral"),
    (r"for (?:the )?(?:pasta |cooking |boiling )?(?:water|pan|pot|tin|tray|kids|children|family)|"
     r"for (?:soaking|boiling|cooking|roasting|greasing|blanching|rolling|dusting|kneading|thinning"
     r"|steaming|brushing)", "neutral"),
    (r"ready[- ]cooked|pre[- ]?cooked|fully cooked", "cooked"),
    (r"part[- ]baked|par[- ]?boiled", "parboiled"),
    (r"dry[- ]roasted", "dry-roasted"),
)  # fmt: skip
CLAIM_PATTERN = re.compile(
    "|".join(f"(?P<c{i}>(?<![\\w]){pattern}(?![\\w]))" for i, (pattern, _) in enumerate(CLAIMS)),
    re.IGNORECASE,
)
CLAIM_OF: Mapping[str, str] = {f"c{i}": claim for i, (_, claim) in enumerate(CLAIMS)}

# Written cut -> the cut of a measure.
CUT_WORDS: Mapping[str, str] = {
    "chopped": "chopped",
    "diced": "diced",
    "cubed": "cubed",
    "sliced": "sliced",
    "shredded": "shredded",
    "grated": "grated",
    "mashed": "mashed",
    "minced": "minced",
    "ground": "ground",
    "halves": "halves",
    "halved": "halves",
    "cubes": "cubed",
    "flaked": "sliced",
    "slivered": "sliced",
    "florets": "chopped",
}
