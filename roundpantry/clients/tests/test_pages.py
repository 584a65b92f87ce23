"""Pages of clients."""

from __future__ import annotations

from django.urls import reverse

from roundpantry.clients.models import Client
from roundpantry.demo.tests.support import WithDemo


class Clients(WithDemo):
    """Adding a client and targets."""

    FACTS = {
        "name": "Nils Achterberg",
        "sex": "male",
        "age_years": "50",
        "height_cm": "180",
        "weight_kg": "80",
        "cautions": "Nut allergy",
    }

    def test_add_then_targets(self) -> None:
        answer = self.client.post(reverse("clients:new"), self.FACTS)
        made = Client.objects.get(name="Nils Achterberg")
        self.assertRedirects(answer, reverse("targets:edit", args=[made.pk]))
        typed = {
            "energy_kcal-low": "2000",
            "energy_kcal-high": "2300",
            "protein_g-low": "80",
            "protein_g-importance": "must",
            "reason": "Agreed",
            "meal0-name": "Breakfast",
            "meal0-share": "40",
            "meal1-name": "Dinner",
            "meal1-share": "60",
        }
        self.client.post(reverse("targets:edit", args=[made.pk]), typed)
        self.assertEqual(made.target_sets.get().windows.exclude(importance="watch").count(), 2)
        page = self.client.get(reverse("clients:detail", args=[made.pk])).content.decode()
        self.assertIn("800–920 kcal", page)  # 40 % of 2000–2300
        self.assertIn("Nut allergy", page)

    def test_impossible_people_are_refused_and_kept(self) -> None:
        for field, value in (
            ("height_cm", "17"),
            ("weight_kg", "7000"),
            ("age_years", "-3"),
            ("age_years", "200"),
            ("sex", "x"),
            ("name", ""),
        ):
            answer = self.client.post(reverse("clients:new"), {**self.FACTS, field: value})
            self.assertEqual(answer.status_code, 422, field)
            self.assertIn("Nut allergy", answer.content.decode())
        self.assertFalse(Client.objects.filter(name="Nils Achterberg").exists())

    def test_windows_that_make_no_sense_are_refused_at_the_field(self) -> None:
        client = Client.objects.get(name="Maren Okafor")
        meals = {"meal0-name": "All", "meal0-share": "100"}
        for typed, word in (
            ({"protein_g-low": "90", "protein_g-high": "60"}, "minimum is above the maximum"),
            ({"protein_g-low": "-5"}, "greater than or equal"),
            ({"protein_g-low": "much"}, "Enter a number"),
            ({}, "at least one target"),
            ({"protein_g-low": "60", "meal0-share": "90"}, "add up to 90 %"),
            ({"protein_g-low": "1e999"}, ""),
        ):
            answer = self.client.post(reverse("targets:edit", args=[client.pk]), {**meals, **typed})
            self.assertEqual(answer.status_code, 422, typed)
            self.assertIn(word, answer.content.decode())
        self.assertEqual(client.target_sets.count(), 1)

    def test_a_change_makes_a_version_and_old_bowls_keep_theirs(self) -> None:
        client = self.bowl.client
        old = self.bowl.meal.target_set
        self.client.post(
            reverse("targets:edit", args=[client.pk]),
            {
                "energy_kcal-high": "1000",
                "meal0-name": "All",
                "meal0-share": "100",
                "reason": "Trial",
            },
        )
        self.assertEqual(client.target_sets.count(), 2)
        self.bowl.refresh_from_db()
        self.assertEqual(self.bowl.meal.target_set, old)
        self.assertIn("810–900 kcal", self.client.get(self.url).content.decode())


class WhomOneWorksWith(WithDemo):
    """Chosen by a press, and never changed by a look at somebody else's page."""

    def setUp(self) -> None:
        super().setUp()
        self.maren = Client.objects.get(name="Maren Okafor")
        self.tobias = Client.objects.get(name__startswith="Tobias")
        self.list = reverse("shopping:list", args=[self.maren.weeks.first().pk])

    def top_left(self, address: str) -> str:
        """Whose name stands at the top left of a page."""
        page = self.client.get(address).content.decode()
        return page.split('class="name"', 1)[1].split("<", 1)[0].split(">", 1)[1].strip()

    def choose(self, client: Client, then: str = "") -> str:
        """Press the button; where it leads."""
        answer = self.client.post(reverse("clients:choose", args=[client.pk]), {"then": then})
        self.assertEqual(answer.status_code, 302)
        return answer["Location"]

    def test_a_page_of_somebody_else_says_whose_it_is_and_changes_nothing(self) -> None:
        self.assertEqual(self.choose(self.tobias), reverse("clients:detail", args=[self.tobias.pk]))
        own_page = reverse("clients:detail", args=[self.maren.pk])
        for address in (self.list, own_page):
            self.assertEqual(self.top_left(address), self.maren.name)
            page = self.client.get(address).content.decode()
            self.assertIn(f"You are working with {self.tobias.name}", page)
        self.assertEqual(self.top_left(reverse("shelf:list")), self.tobias.name)
        self.assertEqual(self.choose(self.maren, self.list), self.list)
        self.assertEqual(self.top_left(reverse("shelf:list")), self.maren.name)
        self.assertNotIn("You are working with", self.client.get(self.list).content.decode())

    def test_where_nobody_is_chosen_the_first_page_chooses(self) -> None:
        self.top_left(self.list)
        self.assertEqual(self.top_left(reverse("shelf:list")), self.maren.name)

    def test_a_new_client_is_worked_with_and_one_that_is_gone_is_not(self) -> None:
        self.choose(self.maren)
        self.client.post(reverse("clients:new"), Clients.FACTS)
        self.assertEqual(self.top_left(reverse("shelf:list")), "Nils Achterberg")
        Client.objects.get(name="Nils Achterberg").delete()
        self.assertEqual(self.top_left(reverse("shelf:list")), "Round Pantry")

    def test_it_leads_nowhere_else_and_to_nobody_elses_client(self) -> None:
        for address in ("https://elsewhere.example/", "//elsewhere.example/"):
            self.assertTrue(self.choose(self.maren, address).startswith("/clients/"))
        self.client.force_login(self.joon)
        there = reverse("clients:choose", args=[self.maren.pk])
        self.assertEqual(self.client.post(there).status_code, 404)
