"""What is sent to other programs, held against a published model of FHIR."""

from __future__ import annotations

import json
import unittest
from datetime import UTC, date, datetime, time

from fhir.resources.R4B.bundle import Bundle
from fhir.resources.R4B.nutritionorder import NutritionOrder
from fhir.resources.R4B.observation import Observation

from dietetics.follow.exchange import Sent, bundle, nutrition_order, observation
from dietetics.follow.kinds import kind, kinds
from dietetics.targets.windows import Window

SUBJECT = "Patient/client-1"


class AgainstThePublishedModel(unittest.TestCase):
    def test_every_kind_is_a_valid_observation(self) -> None:
        for one in kinds().values():
            middle = (one.likely[0] + one.likely[1]) / 2
            at = (date(2026, 11, 20), time(7, 30))
            sent = Sent(f"m-{one.key}", one, middle, *at, one.least, None, "x")
            read = Observation.model_validate_json(json.dumps(observation(sent, SUBJECT)))
            self.assertAlmostEqual(
                float(read.valueQuantity.value), middle, delta=0.5 * 10**-one.decimals + 1e-9
            )
            self.assertEqual(read.referenceRange[0].low.unit, one.unit or "1")

    def test_weight_is_found_by_its_code(self) -> None:
        found = observation(Sent("m-1", kind("weight"), 72.44, date(2026, 11, 20)), SUBJECT)
        self.assertEqual(found["code"]["coding"][0]["code"], "29463-7")  # LOINC body weight
        self.assertEqual(found["valueQuantity"]["value"], 72.4)
        self.assertEqual(found["effectiveDateTime"], "2026-11-20")
        self.assertNotIn("referenceRange", found)

    def test_targets_are_a_valid_nutrition_order(self) -> None:
        windows = [
            Window("energy_kcal", 1800, 2000, "must"),
            Window("sodium_mg", None, 2300, "should"),
            Window("kcal_per_g", None, 1.6, "should"),
        ]
        order = nutrition_order(
            "t-3", windows, date(2026, 11, 1), SUBJECT, "Petra Nwosu", ["tree-nuts"]
        )
        read = NutritionOrder.model_validate_json(json.dumps(order))
        texts = [one.modifier.text for one in read.oralDiet.nutrient]
        self.assertEqual(len(texts), 2)  # a density is no amount of a nutrient
        self.assertIn("Energy 1,800–2,000 kcal a day", texts)
        self.assertEqual(read.excludeFoodModifier[0].text, "tree nuts")

    def test_the_collection_is_valid(self) -> None:
        one = observation(Sent("m-1", kind("inr"), 2.4, date(2026, 11, 20)), SUBJECT)
        made = bundle([one], datetime(2026, 11, 26, 9, 0, tzinfo=UTC))
        self.assertEqual(len(Bundle.model_validate_json(json.dumps(made)).entry), 1)


if __name__ == "__main__":
    unittest.main()
