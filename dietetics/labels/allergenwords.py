"""The words by which ingredient lists name allergens, in six languages, and common words by which a
list is recognised.

The 14 of the EU (Regulation (EU) 1169/2011, annex II) and the 9 of the US (FALCPA with sesame),
both from memory. Coconut is marked as a tree nut, as on the shelf: cautious, for makers differ.
"""

from __future__ import annotations

import re
from collections.abc import Mapping

_WHEAT = (
    r"(?<!buck)wheat|spelt|kamut|khorasan|durum|semolina|seitan|farro|bulgh?ur|couscous|shoyu|"
    r"soya? "
    r"sauce|(?!buch)\w*weizen\w*|"
    r"dinkel\w*|grie(?:ß|ss)|blé(?! noir)|froment|épeautre|semoule|trigo(?! "
    r"sarraceno)|espelta|sémola|grano duro|frumento|semola|"
    r"tarwe\w*"
)
ALLERGENS: Mapping[str, str] = {
    "peanut": r"\b(?:peanuts?|groundnuts?|arachis|arachides?|cacahu[eè]tes?|cacahuates?|maní"
    r"|\w*erdn(?:u|ü)ss\w*|arachidi|"
    r"pinda\w*)\b",
    "tree-nuts": (
        r"\b(?:almonds?|cashews?|walnuts?|hazelnuts?|pecans?|pistachios?|macadamias?|brazil "
        r"nuts?|tree nuts?|coconuts?|"
        r"(?<!pine )(?<!tiger "
        r")(?<!pea)nuts|mandel\w*|hasel(?:nu|nü)ss\w*|walnü?u?ss\w*|cashew\w*|pistazien?|"
        r"schalenfrüchten?|nüssen?|nuss|paranüsse|"
        r"pekannüsse|kokos\w*|amandes?|noisettes?|noix(?! de muscade)|pistaches?|fruits à "
        r"coque|almendras?|avellanas?|nueces|"
        r"nuez(?! moscada)|anacardos?|pistachos?|frutos (?:de "
        r"cáscara|secos)|coco|mandorle?|nocciole?|noci|anacardi|pistacchi|"
        r"frutta (?:a guscio|secca)|cocco|amandel\w*|hazelno\w+|walno\w+|noten|pistachenoten)\b"
    ),
    "soy": (
        r"\b(?:soya?(?:beans?)?|soja\w*|soia|tofu|tempeh|edamame|miso|tamari|shoyu|textured "
        r"vegetable protein)\b"
    ),
    "wheat": rf"\b(?:{_WHEAT})\b",
    "gluten": (
        rf"\b(?:{_WHEAT}|gluten|glutine|barley|rye|malt|triticale|gersten?\w*|roggen\w*|malz\w*"
        r"|orge|seigle|cebada|centeno|malta|orzo|"
        r"segale|malto|gerst|rogge|mout)\b"
    ),
    "gluten-trace": r"\b(?:oats?|oat\w*meal|hafer\w*|avoine|avena|haver\w*)\b",
    "sesame": r"\b(?:sesame|tahini|tahin|gingelly|benne|sesam\w*|sésame|sésamo|ajonjolí|sesamo)\b",
    "mustard": r"\b(?:mustard|senf\w*|moutarde|mostaza|senape|mosterd\w*)\b",
    "celery": r"\b(?:celery|celeriac|sellerie\w*|céleri|apio|sedano|selderij|knolselderij)\b",
    "lupin": r"\b(?:lupin\w*|lupine\w*|altramuz|altramuces)\b",
    "sulphites": (
        r"\b(?:\w*sul(?:ph|f)ites?|sul(?:ph|f)ur "
        r"dioxide|schwefeldioxid|sulfitos?|solfiti|anidride solforosa|sulfiet(?:en)?|"
        r"E\s?-?22[0-8])\b"
    ),
    "milk": (
        r"\b(?:(?:butter|skimmed |whole )?milk(?! "
        r"thistle)|dairy|lactose|whey|casein\w*|butter(?! beans?| lettuce)|cheese|"
        r"yogh?urt|ghee|"
        r"cream(?! of "
        r"tartar)|(?:voll|mager|butter|süß)?milch\w*|\w*molke\w*|sahne|käse|lait|lactosérum|"
        r"petit-lait|crème "
        r"fraîche|"
        r"fromage|beurre|leche|suero "
        r"lácteo|nata|queso|mantequilla|latte|panna|formaggio|burro|siero di latte|melk\w*|"
        r"wei(?:poeder)?|"
        r"kaas|boter|lactosa|lattosio|laktose)\b"
    ),
    "egg": (
        r"\b(?:eggs?(?! (?:replacer|substitute))|egg "
        r"whites?|albumen|albumin|eier|ei|eigelb|vollei\w*|hühnerei\w*|"
        r"hühnereiweiß\w*|eiklar|"
        r"œufs?|oeufs?|huevos?|uov[ao]|eieren|eigeel|kippenei\w*)\b"
    ),
    "fish": (
        r"\b(?:fish|anchov\w+|tuna|salmon|cod|fisch\w*|poissons?|anchois|pescados?|pesce"
        r"|vis|acciughe)\b"
    ),
    "crustaceans": (
        r"\b(?:crustaceans?|shellfish|shrimps?|prawns?|crabs?|lobsters?|krebstiere?"
        r"|krustentiere?|crustacés?|crustáceos?|crostacei|"
        r"schaaldieren|garnalen)\b"
    ),
    "molluscs": (
        r"\b(?:mollus[ck]s?|oysters?(?! "
        r"mushrooms?)|mussels?|clams?|squid|scallops?|weichtiere?|mollusques?|moluscos?|molluschi|"
        r"weekdieren)\b"
    ),
}
ANIMAL = ("milk", "egg", "fish", "crustaceans", "molluscs")
# "coconut milk", "cocoa butter", "lait d'amande": of the plant, no milk. What the plant is stays to
# be marked.
PLANT_MILKS = re.compile(
    r"\b(?P<plant>coconut|almond|soya?|oat|rice|cashew|hemp|pea|hazelnut|cocoa|cacao|peanut|nut|"
    r"almond "
    r"nut|seed|sesame|shea|apple|"
    r"sunflower seed|sunflower|pumpkin "
    r"seed|macadamia|pistachio|walnut|tigernut|plant|vegan|dairy-?free|non-?dairy)\s+"
    r"(?:milks?|butters?|creams?|cheeses?|yogh?urts?|drinks?|whey)\b"
    r"|\b(?:lait|beurre|crème|leche|manteca|mantequilla|crema|latte|burro|boter|melk)\s+(?:de"
    r"|d['’]|di|van)\s*"
    r"(?=(?:la "
    r"|l['’])?(?:coco|amande|soja|avoine|riz|cacao|sésame|noisette|cajou|cacahu|almendra|soja"
    r"|avena|arroz|mandorl|"
    r"soia|riso|"
    r"cocco|arachid|nocciol|karit))",
    re.IGNORECASE,
)
_COMMON = (
    "water salt sugar oil flour starch gum acid extract flavour flavouring flavor flavors "
    "natural spices spice herbs "
    "vinegar yeast protein fibre fiber lecithin emulsifier stabiliser stabilizer thickener "
    "preservative antioxidant colour "
    "color vitamins vitamin minerals concentrate powder juice syrup glucose calcium sulphate "
    "sulfate citrate carbonate "
    "organic whole grain cultures pectin wasser salz speisesalz meersalz zucker öl rapsöl "
    "sonnenblumenöl olivenöl mehl "
    "stärke gewürze gewürz kräuter essig branntweinessig hefe eiweiß erbseneiweiß zwiebeln "
    "knoblauch tomaten kartoffeln "
    "bohnen kichererbsen linsen säuerungsmittel emulgator aroma verdickungsmittel gewürzextrakte "
    "karotten paprika erbsen "
    "reis mais eau sel sucre huile colza tournesol farine amidon épices herbes vinaigre levure "
    "protéines oignon ail tomate "
    "tomates citron jus pois chiches lentilles haricots riz maïs arômes ferments acidifiant "
    "émulsifiant conservateur "
    "graines agua sal azúcar aceite oliva girasol harina almidón especias hierbas vinagre "
    "levadura cebolla ajo tomate limón "
    "zumo garbanzos lentejas alubias arroz maíz aroma acidulante espesante conservador semillas "
    "acqua sale zucchero olio "
    "girasole farina amido spezie erbe aceto lievito cipolla aglio pomodoro limone succo ceci "
    "lenticchie fagioli riso aromi "
    "acidificante addensante correttore semi zout suiker olie raapzaadolie zonnebloemolie bloem "
    "zetmeel specerijen kruiden "
    "azijn gist ui knoflook tomaat citroen sap kikkererwten linzen bonen rijst maïs aroma "
    "zuurteregelaar emulgator "
    "verdikkingsmiddel zaden "
)
COMMON_WORDS = frozenset(_COMMON.split())
