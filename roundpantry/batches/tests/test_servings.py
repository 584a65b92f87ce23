"""Servings beyond measure, typed, pasted or stored by an older version: no page breaks over
them.
"""

from __future__ import annotations

from django.urls import reverse

from roundpantry.demo.tests.support import WithDemo


class Servings(WithDemo):
    """However many servings somebody types, the batch is shown."""

    def test_servings_beyond_measure_are_refused_or_left_out_and_stored_ones_are_unknown(
        self,
    ) -> None:
        batch = self.petra.batches.filter(servings__isnull=False).first()
        for typed in ("0.001", "1e300", "inf", "0"):
            answer = self.client.post(
                reverse("batches:servings", args=[batch.pk]), {"servings": typed}
            )
            self.assertEqual(answer.status_code, 422, typed)
            answer = self.client.post(
                reverse("batches:yield", args=[batch.pk]),
                {"servings": typed, "yield_g": "", "method": ""},
            )
            self.assertEqual(answer.status_code, 422, typed)
        for text in ("Serves 0.001.", "Serves 200000000."):
            made = self.client.post(
                reverse("batches:new"),
                {"text": f"Pot\n{text}\n200 g kale\n", "title": ""},
                follow=True,
            )
            self.assertEqual(made.status_code, 200, text)
        type(batch).objects.filter(pk=batch.pk).update(servings=1e300)
        for name in ("detail", "fit", "portions", "label"):
            self.assertEqual(
                self.client.get(reverse(f"batches:{name}", args=[batch.pk])).status_code, 200, name
            )

    def test_a_weighed_pot_is_kept_where_only_the_servings_cannot_be(self) -> None:
        text = "Pot\nServes 200000000.\nPot weighed 900 g when done.\n200 g kale\n"
        self.client.post(reverse("batches:new"), {"text": text, "title": ""})
        made = self.petra.batches.order_by("-pk").first()
        self.assertEqual((made.yield_g, made.servings), (900.0, None))
        self.assertTrue(any("left out" in remark for remark in made.remarks), made.remarks)
