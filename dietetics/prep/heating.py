"""How long a pot takes to boil: by its mass, the heat that water takes, and what reaches it of a
burner.
"""

from __future__ import annotations

from dietetics.prep.tasks import Minutes

WATER_KJ_PER_KG_K = 4.186  # specific heat of water, 15 °C; food in a pot is mostly water
FROM_C, TO_C = 20.0, 100.0
BURNER_KW, REACHES_POT = 2.0, 0.6  # of a home's burner, and the share that heats: common practice
# A camping stove or a small plate, a usual burner, induction or a big gas ring: common practice.
BURNERS_KW = {1.2: "weak", BURNER_KW: "usual", 3.2: "strong"}
# A strong burner with a lid on, a weak one without: our judgement.
QUICK_SHARE, SLOW_SHARE = 0.7, 1.5
LEAST_MIN, MOST_MIN = 2.0, 30.0
PAN_OF_WATER_G = 2500.0  # for pasta or blanching, where no amount is written: common practice
WATER_FOR_DRY = 3.0  # grams of water for a gram of dry beans or grain: common practice
WATER_TO_BOIL_IN = 1.0  # grams of water for a gram of vegetables in it: common practice
PRESSURE_MORE_MIN = 3.0  # from the boil until a pressure cooker holds its pressure: common practice


def minutes_to_boil(grams: float) -> Minutes:
    """How long so many grams take from room temperature to the boil."""
    kilojoules = grams / 1000 * WATER_KJ_PER_KG_K * (TO_C - FROM_C)
    likely = min(max(kilojoules / (BURNER_KW * REACHES_POT) / 60, LEAST_MIN), MOST_MIN)
    return Minutes(QUICK_SHARE * likely, likely, SLOW_SHARE * likely)


def minutes_to_pressure(grams: float) -> Minutes:
    """How long so many grams take until the cooker holds its pressure."""
    boil = minutes_to_boil(grams)
    more = PRESSURE_MORE_MIN
    return Minutes(boil.low + more, boil.likely + more, boil.high + more)
