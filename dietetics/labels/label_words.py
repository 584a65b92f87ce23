"""How labels name nutrients, columns and headings, in English, German, French, Spanish, Italian and
Dutch.
"""

from __future__ import annotations

import re

IGNORED = ""  # named on labels and not kept: trans fat, cholesterol, starch, polyols, added sugars
# Key -> names as printed. A longer name stands before a shorter one that it holds.
NUTRIENT_NAMES: tuple[tuple[str, str], ...] = (
    (IGNORED,
    r"incl(?:\.|udes)?\s*(?:<\s*)?[\d.,]+\s*g\s*(?:of\s+)?added sugars?|added "
    r"sugars?|zugesetzter zucker|sucres ajoutés"),
    (IGNORED,
    r"trans(?:\s*/\s*trans)?(?:[- ]fat(?:ty acids)?)?|acides gras trans|transfettsäuren|grassi "
    r"trans|grasas trans"),
    (IGNORED,
    r"cholest(?:\.|erol)?(?:\s*/\s*cholestérol)?|cholestérol|colesterol(?:o)?|cholesterin"),
    (IGNORED,
    r"starch|stärke|amidon|almidón|amido|zetmeel|polyols?|mehrwertige "
    r"alkohole|polialcoholes|polioli|polyolen"),
    (IGNORED,
    r"(?:(?:mono|poly)[- ]?unsaturat\w*(?: fat\w*)?(?: acids)?|(?:einfach|mehrfach) ungesättigte "
    r"fettsäuren|"
              r"(?:acides gras )?(?:mono|poly)[- ]?insaturés|(?:mono|poli)insatur\w+|enkelvoudig "
              r"onverzadigd|"
              r"meervoudig onverzadigd)"),
    (IGNORED, r"omega[- ]?[369](?: fatty acids)?|calories from fat"),
    ("saturated_fat_g", r"(?:of which |davon |dont |de las cuales |di cui |"
     r"waarvan )?(?:saturate[sd]?(?: fat(?:ty acids)?)?(?!\w)|sat\.? fat|"
                        r"gesättigte fettsäuren|(?:acides gras )?saturés|(?:ácidos grasos "
                        r"|grasas? )?saturad[ao]s?|"
                        r"(?:acidi grassi )?saturi|verzadigd(?:e)?(?: vet(?:zuren)?)?)"),
    ("energy",
    r"calories per serving|calories|calorías|(?<=\n)kcal(?=\s*[:=]?\s*\d)|energy|energie|énergie|"
    r"brennwert|valor energético|energía|energia|"
     "energetische waarde"),
    ("sugars_g",
    r"(?:of which |davon |dont |de los cuales |di cui |waarvan )?(?:total "
    r")?(?:sugars?|zucker|sucres?|azúcares|"
     "zuccheri|suikers)"),
    ("fibre_g",
    r"dietary fib(?:re|er)s?|fib(?:re|er)s?(?: alimentaires?)?|ballaststoffe|fibra(?: "
    r"alimentaria| alimentare|"
     " diet[ée]tica)?|"
     "(?:voedings)?vezels?"),
    ("carbohydrate_g",
    r"(?:total )?carb(?:ohydrates?|s|\.)?|kohlenhydrate|glucides|hidratos de carbono|"
     "carbohidratos(?: totales)?|carboidrati|koolhydraten"),
    ("protein_g", r"proteins?|eiweiß|protéines?|proteínas?|proteine|eiwit(?:ten)?"),
    ("fat_g",
    r"total fat|fat|fett|mati[èe]res grasses|lipides|grasas?(?: totale?s?)?|grassi|vet(?:ten)?"),
    ("sodium_mg", r"sodium|natrium|sodio"),
    ("salt", r"salt(?: equivalent)?|salz|sel|sale|sal|zout"),
    ("potassium_mg", r"potassium|potas\.?|kalium|potasio|potassio"),
    ("phosphorus_mg", r"phosphorus|phosphor|phosphore|fósforo|fosforo|fosfor"),
    ("calcium_mg", r"calcium|kalzium|calcio"),
    ("magnesium_mg", r"magnesium|magnésium|magnesio"),
    ("iron_mg", r"iron|eisen|fer|hierro|ferro|ijzer"),
    ("zinc_mg", r"zinc|zink|zinco"),
    ("selenium_ug", r"selenium|selen|sélénium|selenio"),
    ("iodine_ug", r"iodine|jod|iode|yodo|iodio|jodium"),
    ("vitamin_b12_ug", r"(?:vit(?:\.|amine?|amina)?\s*)b-?\s?12"),
    ("vitamin_c_mg", r"vit(?:\.|amine?|amina)?\s*c(?!\w)"),
    ("vitamin_k_ug", r"vit(?:\.|amine?|amina)?\s*k1?(?!\w)"),
    ("vitamin_d_ug", r"vit(?:\.|amine?|amina)?\s*d[23]?(?!\w)"),
    ("folate_ug",
    r"fol(?:ate|ic acid|säure|ates?)|acide folique|ácido fólico|acido folico|foliumzuur"),
    ("ala_g", r"ala|alpha-linolenic acid"),
)  # fmt: skip
KEYS = tuple(key for key, _ in NUTRIENT_NAMES)
NAME = re.compile(
    "|".join(
        rf"(?P<n{i}>(?<![\w-])(?:{words})(?!\w))" for i, (_, words) in enumerate(NUTRIENT_NAMES)
    ),
    re.IGNORECASE,
)

NUTRITION_HEADING = re.compile(
    r"nutrition(?:al)?\s*(?:facts|information|info|values?)?|n[äa]hrwert\w*|valeurs?\s+nutri\w+"
    r"|informaci[óo]n\s+nutricional|"
    r"dichiarazione\s+nutrizionale|valori\s+nutrizionali|voedingswaarde\w*|typical "
    r"values|average values|(?:typical |"
    r"average )?composition per",
    re.IGNORECASE,
)
INGREDIENTS_HEADING = re.compile(
    r"\b(?:ingredients?|ingrédients?|zutaten|ingredientes|ingredienti"
    r"|ingredi[ëe]nten)(?:\s*/\s*(?:ingrédients|ingredients))?\s*:",
    re.IGNORECASE,
)
PER = r"(?:per|pour|par|por|pro|je)"
PORTION_WORDS = (
    r"serv(?:ings?|e|\.)|portions?|portie|porción|porzione|pots?|packs?|packet|package|tasse"
    r"|cups?|slices?|bars?|pieces?|"
    r"biscuits?|cartons?|bottles?|cans?|tubs?|glass|scheibe|stück|riegel|becher|glas|tranche"
    r"|barre|unidad|vaso|pezzo|stuk|reep|"
    r"tbsp|tablespoons?|tsp|burgers?|sausages?|fillets?|sachets?"
)
COLUMN = re.compile(
    rf"(?P<hundred>(?:{PER}\s*)?(?<!\d)100\s*(?:g|ml|gramm?e?s?)\b)|"
    r"(?P<percent>%\s*(?:rda|nrv|dv|ri|daily value|valeur "
    r"quotidienne|gda)[^|\t\n]*|(?<!\w)(?:rda|nrv|ri)\b)|"
    rf"(?P<package>{PER}\s+(?:container|package|packet|pack|bottle|can|box|bag|jar|tub)s?\b)|"
    rf"(?P<portion>(?:quantity\s+)?{PER}\s+(?:[\d¼½¾⅓⅔/., ]*)(?:{PORTION_WORDS})(?:\s*\([^)]*\))?|"
    rf"{PER}\s+(?!100\b)\d+\s*(?:g|ml)\b)|"
    r"(?P<other>(?:\bwith|\bas prepared|\bprepared|\bzubereitet|\bpréparé)\b[^|\t\n]*)",
    re.IGNORECASE,
)
SERVING_SIZE = re.compile(
    r"(?:serv(?:ing|\.)?\s*size|tamaño de (?:la )?porción(?:\s*/\s*serving size)?|per "
    r"serving|per portion|one serving is|"
    rf"a serving is|"
    rf"{PER}\s+(?=[\d¼½¾⅓⅔/., ]*(?:{PORTION_WORDS})\b))"
    r"\s*:?\s*(?P<before>[^()\n|;]{0,40}?)\s*\(\s*(?P<inside>[^)]*)\)",
    re.IGNORECASE,
)
PLAIN_SERVING = re.compile(
    rf"(?:(?:serv(?:ing|\.)?\s*size|(?<!\w)portion(?:\s*size)?|tamaño de (?:la )?porción)\s*:?|"
    rf"(?:per serving|per portion|{PER})\s*:?\s*(?:of\s+)?(?!\s*100\s*(?:g|"
    rf"ml)\b))\s*(\d+(?:[.,]\d+)?)"
    r"\s*(?:g|ml)\b",
    re.IGNORECASE,
)
