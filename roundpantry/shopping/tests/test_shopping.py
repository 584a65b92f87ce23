"""The shopping list through its pages: worked by hand from what the invented practice cooks."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

from django.urls import reverse

from dietetics.week.plan import Cooking, Entry, Plan, cook, plan_json, put
from roundpantry.batches.models import Batch
from roundpantry.clients.models import Client
from roundpantry.demo.tests.practice import load_practice
from roundpantry.demo.tests.support import HTMX, ReadsWords
from roundpantry.shopping.models import HomeStock, PackageSize
from roundpantry.shopping.records import list_of_weeks, trip_of
from roundpantry.weeks.planning import question_from
from roundpantry.weeks.planning_facts import gather
from roundpantry.weeks.records import plan_value
from roundpantry.weeks.services import add_week

SOUP = "Ropewalk lentil soup"  # 288 g of dry red lentils, 42 g of kale in a pot


class Shopping(ReadsWords):
    DAY = date(2026, 11, 25)

    @classmethod
    def setUpTestData(cls) -> None:
        load_practice()
        cls.rower = Client.objects.get(name="Maren Okafor")
        cls.soup = Batch.objects.get(practitioner=cls.rower.practitioner, title=SOUP)
        cls.week = add_week(cls.rower, date(2027, 3, 1))

    def setUp(self) -> None:
        self.client.force_login(self.rower.practitioner)

    def planned(self, change) -> None:
        """Change the plan of the week."""
        plan: Plan = change(plan_value(self.week))
        self.week.plan = plan_json(plan)
        self.week.save()

    def two_pots(self) -> None:
        """Two pots of soup on the first evening."""
        self.planned(lambda plan: cook(plan, f"batch-{self.soup.pk}", 0, 2.0))

    def line(self, key: str):
        """The line of a food on the list now."""
        weeks = [self.week]
        lines = list_of_weeks(self.rower.practitioner, weeks).lines
        return next((line for line in lines if line.food.key == key), None)

    def post(self, name: str, *args: object, **given: object):
        """A change made on the page."""
        return self.client.post(
            reverse(f"shopping:{name}", args=[self.week.pk, *args]), given, **HTMX
        )

    def test_two_pots_take_twice_what_a_pot_takes(self) -> None:
        self.two_pots()
        lentils = self.line("red-lentils-dry")
        self.assertAlmostEqual(lentils.usable_g.likely, 576, delta=1)
        self.assertEqual(lentils.units, (2, 2, 2))  # bags of 500 g
        page = self.client.get(reverse("shopping:list", args=[self.week.pk]))
        self.assertContains(page, "Red lentils, dry")
        more = self.client.get(
            reverse("shopping:food", args=[self.week.pk, "red-lentils-dry"]), **HTMX
        )
        self.assertContains(more, SOUP)
        self.assertNotContains(page, "Water")

    def test_what_was_cooked_in_the_week_before_is_not_bought_again(self) -> None:
        before = Cooking(f"batch-{self.soup.pk}", -3, 2.0)
        self.planned(lambda plan: replace(plan, cookings=(before,)))
        self.assertIsNone(self.line("red-lentils-dry"))

    def test_foods_of_a_bowl_come_times_its_servings_and_its_batches_do_not(self) -> None:
        bowl = self.rower.bowls.filter(parts__batch__isnull=False).first()
        fresh = bowl.parts.exclude(food_key="").first()
        key = f"bowl-{bowl.pk}"

        def twice(plan):
            plan = put(plan, 0, 1, Entry(key, bowl.name, 1.0))
            return put(plan, 2, 1, Entry(key, bowl.name, 1.5))

        self.planned(twice)
        grams = sum(part.grams for part in bowl.parts.filter(food_key=fresh.food_key))
        found = list_of_weeks(self.rower.practitioner, [self.week])
        used = [
            grams_used
            for line in found.lines
            for dish, grams_used in line.uses
            if dish == bowl.name and line.food.key == fresh.food_key
        ]
        self.assertEqual(len(used), 1)
        self.assertAlmostEqual(used[0], 2.5 * grams, places=3)
        batch = bowl.parts.exclude(batch=None).first().batch
        self.assertIn(f"{batch.title}: eaten this week, but cooked on no evening.", found.unknown)

    def test_the_basket_goes_home_and_is_not_bought_again(self) -> None:
        self.two_pots()
        self.assertContains(self.post("tick", "red-lentils-dry", on="yes"), "1 of")
        self.assertEqual(trip_of(self.week).in_basket, ["red-lentils-dry"])
        self.post("put-away")
        stock = HomeStock.objects.get(client=self.rower, food_key="red-lentils-dry")
        self.assertEqual(stock.grams, 1000)
        self.assertTrue(self.line("red-lentils-dry").buys_nothing)
        self.assertEqual(trip_of(self.week).in_basket, [])

    def test_what_is_at_home_is_read_as_it_is_written_and_what_is_not_read_stays(self) -> None:
        self.two_pots()
        self.post("at-home", "red-lentils-dry", amount="300 g")
        self.assertAlmostEqual(self.line("red-lentils-dry").usable_g.likely, 276, delta=1)
        refused = self.post("at-home", "red-lentils-dry", amount="plenty of them")
        self.assertEqual(refused.status_code, 422)
        self.assertContains(refused, 'value="plenty of them"', status_code=422)
        self.assertEqual(HomeStock.objects.get(client=self.rower).grams, 300)
        self.post("at-home", "red-lentils-dry", amount="")
        self.assertFalse(HomeStock.objects.exists())

    def test_a_package_size_is_remembered_for_the_practitioner(self) -> None:
        self.two_pots()
        self.post("package", "red-lentils-dry", grams="1000", price="3,20")
        line = self.line("red-lentils-dry")
        self.assertEqual((line.units, line.price), ((1, 1, 1), 3.2))
        self.assertContains(self.post("package", "kale-raw", grams="-4"), "-4", status_code=422)
        self.assertEqual(PackageSize.objects.count(), 1)

    def test_others_of_the_household_are_bought_for_and_strangers_never(self) -> None:
        self.two_pots()
        mine = Client.objects.filter(practitioner=self.rower.practitioner).exclude(pk=self.rower.pk)
        beside = add_week(mine.first(), date(2027, 3, 1))
        strangers = Client.objects.exclude(practitioner=self.rower.practitioner).first()
        foreign = add_week(strangers, date(2027, 3, 1))
        beside.plan = self.week.plan
        beside.save()
        self.assertEqual(self.post("also", also=str(foreign.pk)).status_code, 422)
        self.assertContains(self.post("also", also=str(beside.pk)), beside.client.name)
        text = self.client.get(reverse("shopping:export", args=[self.week.pk, "txt"])).content
        self.assertIn("3 bags of", text.decode())  # four pots are 1,152 g of lentils

    def test_the_sections_stand_in_the_order_of_the_shop(self) -> None:
        self.two_pots()
        before = self.client.get(reverse("shopping:list", args=[self.week.pk])).content.decode()
        self.assertLess(before.index("Cans and jars"), before.index("Dried beans"))
        after = self.post("move-up", "beans").content.decode()
        self.assertLess(after.index("Dried beans"), after.index("Cans and jars"))

    def test_what_is_left_over_and_soon_spoils_is_offered_to_be_used(self) -> None:
        self.two_pots()  # 84 g of kale out of a bunch of 200
        page = self.client.get(reverse("shopping:list", args=[self.week.pk]))
        self.assertContains(page, "Use up")
        self.assertContains(page, "Kale:")

    def test_the_planner_prefers_what_uses_up_a_rest(self) -> None:
        self.two_pots()
        family = "kale"
        self.post("use-up", family, on="yes", revision=self.week.revision)
        self.week.refresh_from_db()
        self.assertEqual(self.week.rules["use_up"], [family])
        facts = gather(self.week)
        question = question_from(facts)
        holding = {
            key
            for key, dish in facts.available.dishes.items()
            if any(food.family == family for food, _ in dish.foods)
        }
        liked = {offer.key: offer.liking for offer in question.offers}
        self.assertTrue(holding & set(liked))
        for key in holding & set(liked):
            self.assertEqual(liked[key], 3, key)
        stale = self.post("use-up", family, on="no", revision=self.week.revision - 1)
        self.assertContains(stale, "changed in another window", status_code=422)
        self.post("use-up", family, on="no", revision=self.week.revision)
        self.week.refresh_from_db()
        self.assertEqual(self.week.rules["use_up"], [])

    def test_one_batch_and_one_bowl_have_a_list_of_their_own(self) -> None:
        page = self.client.get(reverse("shopping:of-batch", args=[self.soup.pk]))
        self.assertContains(page, "Red lentils, dry")
        bowl = self.rower.bowls.filter(parts__batch__isnull=False).first()
        page = self.client.get(reverse("shopping:of-bowl", args=[bowl.pk]))
        self.assertContains(page, f"{bowl.name}, one")
        self.assertNotContains(page, "aria-pressed")  # nothing to tick where nothing is kept

    def test_a_line_that_was_not_understood_or_only_half_is_named(self) -> None:
        self.two_pots()
        line = self.soup.lines.get(food_key="kale-raw")
        line.confidence = "ask"
        line.save()
        other = self.soup.lines.get(food_key="cumin")
        other.food_key, other.grams = "", None
        other.save()
        page = self.client.get(reverse("shopping:list", args=[self.week.pk]))
        self.assertContains(page, f"“{line.text}” was read with doubt")
        self.assertContains(page, f"“{other.text}” was not understood")

    def test_a_free_choice_is_named_as_one_and_not_as_a_dish_that_is_gone(self) -> None:
        self.planned(lambda plan: put(plan, 0, 1, Entry("free-1", "Free choice", 1.0)))
        found = list_of_weeks(self.rower.practitioner, [self.week])
        self.assertEqual(found.unknown, ("A free choice: whatever is chosen for it.",))

    def test_the_page_needs_few_queries(self) -> None:
        self.two_pots()
        address = reverse("shopping:list", args=[self.week.pk])
        self.client.get(address)
        with self.assertNumQueries(19):
            self.client.get(address)
