"""The hand-over: what a booklet says is what the screens say, a link shows that and nothing else,
and an answer changes no plan.
"""

from __future__ import annotations

import io
import json
import re
import zipfile
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import icalendar
from django.contrib.auth import get_user_model
from django.urls import reverse
from pypdf import PdfReader

from dietetics.handover.booklet import CookingEvening, CookingLane, LaneBar, Wishes
from dietetics.handover.true_size import outlines
from dietetics.nutrients import nutrient
from dietetics.week.plan import Entry, plan_json, put
from roundpantry.clients.models import Client
from roundpantry.counter import clock
from roundpantry.counter.dates import day_text
from roundpantry.demo.tests.practice import load_practice
from roundpantry.demo.tests.support import ReadsWords, words_of
from roundpantry.handover import services
from roundpantry.handover.booklet_made import booklet_of
from roundpantry.handover.lane_drawing import lane_picture
from roundpantry.handover.links import MOST_WRONG, link_of, new_nonce, token_of
from roundpantry.handover.models import Answered, OutboxMessage, ShareLink
from roundpantry.handover.pdf import booklet_pdf
from roundpantry.handover.records import stored_booklet, wishes_of
from roundpantry.handover.tests.support import Linked, handed_over
from roundpantry.shelf.models import Preferences
from roundpantry.shelf.services import set_preferences
from roundpantry.shopping.services import buy_for
from roundpantry.weeks.models import DishChoice, Week
from roundpantry.weeks.planning import question_from
from roundpantry.weeks.planning_facts import gather
from roundpantry.weeks.records import available_dishes, plan_value
from roundpantry.weeks.services import add_week
from roundpantry.weeks.week_snapshot import WeekSnapshot, snapshot_of


def flat(text: str) -> str:
    """A text without its line breaks."""
    return " ".join(text.split())


def text_of(content: bytes) -> str:
    """What a PDF says, taken out by a general library."""
    pages = PdfReader(io.BytesIO(content)).pages
    return flat("\n".join(page.extract_text() for page in pages))


def _words_of(name: str) -> list[str]:
    """The words of a food's name, in the singular too: "cherry tomatoes" is bought as tomatoes."""
    words = [word for word in name.lower().split() if len(word) > 2]
    return [*words, *(word.removesuffix("s") for word in words)]


MOST_PAGES = 8  # of a week of six bowls and two evenings
A4_HEIGHT, FOOT = 842.0, 40.0  # points; the number of the page stands below the second


def filled_pages(paper: bytes) -> list[float]:
    """How far down each page of an A4 booklet its last line stands, as a share of the page."""
    found = []
    for page in PdfReader(io.BytesIO(paper)).pages:
        heights: list[float] = []

        def seen(text: str, matrix: list[float], place: list[float], *_: object) -> None:
            height = place[5] * matrix[3] + matrix[5]
            if text.strip() and height > FOOT:
                heights.append(height)  # noqa: B023

        page.extract_text(visitor_text=seen)
        found.append((A4_HEIGHT - min(heights)) / A4_HEIGHT)
    return found


class OnPaper(ReadsWords):
    @classmethod
    def setUpTestData(cls) -> None:
        load_practice()
        cls.petra = get_user_model().objects.get(username="petra")

    def test_the_booklets_of_six_clients_answer_what_a_client_asks(self) -> None:
        clients = Client.objects.filter(practitioner=self.petra, weeks__isnull=False).distinct()
        self.assertEqual(clients.count(), 6)
        for client in clients:
            week = handed_over(client.weeks.first())
            found = snapshot_of(week)
            booklet = booklet_of(week)
            paper = booklet_pdf(booklet)
            said = text_of(paper)
            with self.subTest(client.name):
                filled = filled_pages(paper)
                self.assertLessEqual(len(filled), MOST_PAGES)
                self.assertGreater(min(filled[:-1]), 1 / 3, filled)
                # what must I not eat?
                for allergy in client.allergies:
                    self.assertIn(f"{allergy.replace('-', ' ')} (allergy)", said)
                # what do I eat on Wednesday noon, and how much of it?
                noon = booklet.days[2].meals[1 if len(found.plan.meals) > 2 else 0]
                cards = {card.letter: card for card in booklet.cards}
                for serving in noon.servings:
                    self.assertIn(flat(serving.name), said)
                    for part in cards[serving.letter].parts:
                        self.assertIn(flat(f"{part.name} {part.measures[0]}"), said)
                self.says_the_week(found, said)
                # what do I buy, and what do I do on Sunday?
                for section in booklet.shopping:
                    for _, words in section.lines:
                        self.assertIn(flat(words), said)
                first = booklet.evenings[0]
                self.assertIn(f"Cooking: {first.name}", said)
                for line in first.lines:
                    self.assertIn(flat(line), said)

    def says_the_week(self, found: WeekSnapshot, said: str) -> None:
        """Every portion of the week is there, and the totals as the screen has them."""
        for d, m, cell in found.plan.places():
            for entry in cell.entries:
                self.assertIn(flat(found.available.dishes[entry.dish].name), said)
            if cell.entries:
                energy = found.days[d].meals[m]["energy_kcal"].shown()
                self.assertIn(f"energy {flat(energy)}", said)
        for d in found.counted:
            protein = found.days[d].total["protein_g"].shown()
            self.assertIn(f"{nutrient('protein_g').name} {flat(protein)}", said)

    def test_what_a_client_avoids_and_still_gets_is_told_to_them(self) -> None:
        client = Client.objects.get(practitioner=self.petra, name="Kofi Adeyemi-Strand")
        watched = " ".join(booklet_of(client.weeks.first()).watch)
        self.assertIn("You avoid raw onion, and it is in this week", watched)
        self.assertNotIn("Client avoids", watched)

    def test_what_is_laid_out_to_thaw_on_an_evening_without_cooking_is_told(self) -> None:
        week = Week.objects.get(client__name="Maren Okafor", frozen_at=None)
        plan = plan_value(week)
        cooking = next(one for one in plan.cookings if one.day == -1)
        pot = available_dishes(week.client, plan).pots[cooking.batch]
        plan = replace(plan, cookings=(replace(cooking, frozen=1.0, pots=6.0),))
        week.plan = plan_json(put(plan, 5, 0, Entry(pot.key, pot.name, 1.0)))
        week.save()
        booklet = booklet_of(week)
        friday = next(one for one in booklet.reminders if one.day == 4)
        self.assertIn(f"of {pot.name} in the refrigerator for Saturday", friday.text())
        self.assertTrue(friday.text().startswith("On the evening of Friday "))
        self.assertNotIn(-1, [one.day for one in booklet.reminders], "it is an evening of cooking")
        self.assertIn(flat(friday.text()), text_of(booklet_pdf(booklet)))

    def test_whom_to_ask_how_to_reach_them_and_when_we_meet_again(self) -> None:
        client = Client.objects.get(practitioner=self.petra, name="Tobias Lindqvist")
        set_preferences(self.petra, practice="Harbour Practice", reach="555-0100, mornings")
        visit = {"talked": "", "agreed": "", "note": "", "minutes": None}
        client.visits.create(day=clock.today(), next_on=clock.today() + timedelta(days=9), **visit)
        on = day_text(clock.today() + timedelta(days=9))
        said = text_of(booklet_pdf(booklet_of(client.weeks.first())))
        who = "Petra Nwosu, Harbour Practice: 555-0100, mornings."
        self.assertIn(flat(f"{who} Next visit: {on}."), said)
        client.visits.update(next_on=clock.today() - timedelta(days=1))
        self.assertIn(flat(who), text_of(booklet_pdf(booklet_of(client.weeks.first()))))
        self.assertEqual(booklet_of(client.weeks.first()).next_visit, "")

    def test_one_and_a_quarter_cups_are_never_eleven_fourths(self) -> None:
        client = Client.objects.get(practitioner=self.petra, name="Tobias Lindqvist")
        said = text_of(booklet_pdf(booklet_of(client.weeks.first())))
        self.assertIn("1¼ cups", said)
        self.assertNotIn("11/4", said)

    def test_the_week_stands_on_the_first_page_with_each_bowl_drawn_once(self) -> None:
        week = Client.objects.get(name="Maren Okafor").weeks.first()
        booklet = booklet_of(week)
        letters = {s.letter for day in booklet.days for meal in day.meals for s in meal.servings}
        self.assertEqual({card.letter for card in booklet.cards}, letters)
        first = flat(PdfReader(io.BytesIO(booklet_pdf(booklet))).pages[0].extract_text())
        wednesday = week.start + timedelta(days=2)
        self.assertIn(f"Wed {wednesday.day} {wednesday:%b}", first)
        for card in booklet.cards:
            self.assertIn(card.name, first)
        self.assertIn(f"Cook, {booklet.evenings[0].weekday}", first)

    def test_every_portion_comes_from_a_pot_a_stove_a_shop_or_a_board(self) -> None:
        """Each part of each meal of six weeks is traced: what comes from a container is cooked on
        an evening, all else is on the shopping list or made of what is.
        """
        for client in Client.objects.filter(
            practitioner=self.petra, weeks__isnull=False
        ).distinct():
            found = snapshot_of(client.weeks.first())
            booklet = booklet_of(found.week)
            cooked = {name for evening in booklet.evenings for name in evening.dishes}
            bought = " ".join(words for s in booklet.shopping for _, words in s.lines).lower()
            for card in booklet.cards:
                self.assertTrue(0 < len(card.steps) <= 5, card.name)
                for part in card.parts:
                    plain = part.name.partition(",")[0]
                    with self.subTest(client.name, card=card.name, part=part.name):
                        if part.source.startswith("from its container"):
                            names = {name.partition(",")[0] for name in cooked}
                            self.assertTrue(plain in names, cooked)
                        else:
                            self.assertRegex(part.source, "^(on the day|fresh|as bought|thaw)")
                            self.assertTrue(any(w in bought for w in _words_of(plain)), plain)

    def test_figures_are_as_many_as_the_practitioner_chooses(self) -> None:
        week = Client.objects.get(name="Maren Okafor").weeks.first()
        self.assertNotIn("kcal", text_of(booklet_pdf(booklet_of(week, Wishes("none")))))
        self.assertIn("Sodium", text_of(booklet_pdf(booklet_of(week, Wishes("all")))))

    def test_grams_kilojoules_and_month_first_where_the_client_reads_them(self) -> None:
        week = Client.objects.get(name="Maren Okafor").weeks.first()
        usual = booklet_of(week)
        own = booklet_of(week, Wishes("main", "metric", "kj", "mdy"))
        said = text_of(booklet_pdf(own))
        wednesday = week.start + timedelta(days=2)
        self.assertIn(f"{wednesday:%b} {wednesday.day}", own.days[2].date)
        self.assertNotIn("kcal", said)
        kcal = float(usual.days[2].figures[0].split()[1].replace(",", ""))
        kilojoules = float(own.days[2].figures[0].split()[1].replace(",", ""))
        self.assertAlmostEqual(kilojoules / kcal, 4.184, delta=0.01)  # kJ per kcal, by definition
        for day in own.days:
            for meal in day.meals:
                for part in (p for one in meal.servings for p in one.parts):
                    self.assertRegex(part, r"^[\d,]+ g\b")

    def test_headings_are_bold_and_both_fonts_are_in_the_file(self) -> None:
        week = Client.objects.get(name="Maren Okafor").weeks.first()
        pages = PdfReader(io.BytesIO(booklet_pdf(booklet_of(week)))).pages
        fonts = pages[1]["/Resources"]["/Font"].values()
        names = {str(one.get_object()["/BaseFont"]).partition("+")[2] for one in fonts}
        self.assertLessEqual({"AtkinsonNext-Regular", "AtkinsonNext-Bold"}, names)

    def test_a_column_for_each_of_the_household(self) -> None:
        week = Client.objects.get(name="Maren Okafor").weeks.first()
        other = Client.objects.get(name="Tobias Lindqvist").weeks.first()
        buy_for(week, [other.pk])
        booklet, alone = booklet_of(week), booklet_of(other)
        self.assertEqual(booklet.household, ("Tobias Lindqvist",))
        names = {meal.name for meal in alone.days[2].meals}
        for meal in booklet.days[2].meals:
            served = [[s.name for s in one.servings] for one in meal.others]
            same = [
                [s.name for s in m.servings] for m in alone.days[2].meals if m.name == meal.name
            ]
            self.assertEqual(served, same if meal.name in names else [[]])
        said = text_of(booklet_pdf(booklet))
        self.assertIn("Tobias Lindqvist: ", said)  # in the cells of the week too
        columns = {column for card in booklet.cards for column in card.columns}
        for name in ("Maren Okafor", "Tobias Lindqvist"):
            self.assertTrue(any(column.startswith(f"{name}: ") for column in columns))
        for card in alone.cards:
            self.assertIn(card.name, said)
        self.assertGreater(len(booklet.shopping[0].lines), 0)

    def test_letter_and_large_type(self) -> None:
        booklet = booklet_of(Client.objects.get(name="Maren Okafor").weeks.first())
        letter = PdfReader(io.BytesIO(booklet_pdf(booklet, letter=True))).pages[0].mediabox
        self.assertEqual((float(letter.width), float(letter.height)), (612.0, 792.0))
        usual = len(PdfReader(io.BytesIO(booklet_pdf(booklet))).pages)
        large = len(PdfReader(io.BytesIO(booklet_pdf(booklet, large=True))).pages)
        self.assertGreater(large, usual)

    def test_an_empty_week_and_a_dish_that_is_gone_have_a_booklet_too(self) -> None:
        client = Client.objects.get(name="Maren Okafor")
        empty = add_week(client, clock.today() + timedelta(weeks=22))
        self.assertIn("nothing planned", text_of(booklet_pdf(booklet_of(empty))))
        week = client.weeks.exclude(pk=empty.pk).first()
        client.bowls.all().delete()
        self.assertIn("no longer exists", text_of(booklet_pdf(booklet_of(week))))


class RecipesOnce(ReadsWords):
    def test_a_recipe_of_two_evenings_stands_once_with_an_amount_for_each(self) -> None:
        load_practice()
        week = handed_over(Client.objects.get(name="Maren Okafor").weeks.first())
        booklet = stored_booklet(week)
        assert booklet is not None
        (porridge,) = (one for one in booklet.dishes if one.name.startswith("Harbour porridge"))
        self.assertEqual(
            porridge.how_much, "Sunday before, 1½ × the recipe / Wednesday, 2 × the recipe"
        )
        # 80 g of oats in the recipe
        self.assertEqual(porridge.ingredients[0], "120 g / 160 g  1 cup rolled oats (80g)")
        plain = [one.name for one in booklet.dishes if one.name.endswith(", plain")]
        self.assertEqual(plain.count("Brown rice, plain"), 2)  # its steps name the grams


class EveningPicture(ReadsWords):
    """The lanes of an evening, on the page and in the PDF."""

    def evening(self) -> CookingEvening:
        bars = (LaneBar(0, 10, 0), LaneBar(10, 30, 1, True))
        lanes = (CookingLane("Hands", bars[:1]), CookingLane("Burner", bars[1:]))
        return CookingEvening(
            "Sunday", "1 Mar", "17:30 to 18:00", (), ("17:30  cut",), (), (0,), ("A", "B"),
            lanes=lanes, length=30,
        )  # fmt: skip

    def test_boxes_are_as_wide_as_their_minutes(self) -> None:
        found = lane_picture(self.evening())
        assert found is not None
        hands, burner = found.boxes[:2]
        self.assertAlmostEqual(burner.width / hands.width, 2.0)
        self.assertAlmostEqual(burner.x, hands.x + hands.width)
        self.assertAlmostEqual(burner.x + burner.width, found.width)
        self.assertLess(burner.height, hands.height)  # nobody stands beside it
        self.assertNotEqual(burner.tone, hands.tone)
        texts = [one.text for one in found.words]
        self.assertEqual(texts, ["Hands", "Burner", "17:30", "17:40", "17:50", "A", "B"])

    def test_an_evening_kept_before_has_none(self) -> None:
        self.assertIsNone(lane_picture(replace(self.evening(), lanes=())))

    def test_it_stands_on_the_page_to_print(self) -> None:
        load_practice()
        petra = get_user_model().objects.get(username="petra")
        self.client.force_login(petra)
        week = handed_over(Client.objects.get(name="Maren Okafor").weeks.first())
        page = words_of(self.client.get(reverse("handover:booklet", args=[week.pk])))
        booklet = stored_booklet(week)
        assert booklet is not None
        self.assertEqual(page.count('class="evening-lanes"'), len(booklet.evenings))
        for evening in booklet.evenings:
            ends = [bar.end for lane in evening.lanes for bar in lane.bars]
            self.assertEqual(max(ends), evening.length)
            self.assertTrue(all(evening.cautions))


class TrueSize(ReadsWords):
    def test_the_card_is_drawn_in_millimetres(self) -> None:
        # half a ball of r cm holds 2/3 π r³ mL: 7.816 cm for a litre, 3.837 cm for half a US cup
        for outline, wide in ((outlines()[0], 156.3), (outlines()[2], 76.7), (outlines()[3], 50)):
            self.assertAlmostEqual(outline.across_mm, wide, delta=0.1)
        load_practice()
        self.client.force_login(get_user_model().objects.get(username="petra"))
        page = self.client.get(reverse("handover:portion-card"))
        self.assertContains(page, 'width="160mm"')
        self.assertContains(page, 'r="25.00"')


class ByLink(Linked):
    def test_it_opens_without_a_login_and_shows_the_booklet_alone(self) -> None:
        page = self.phone.get(self.address)
        self.assertContains(page, "The other days")
        self.assertContains(page, "peanut (allergy)")
        for words in ("rail", "Log out", "/clients/", "kg tall"):
            self.assertNotContains(page, words)
        self.assertNotIn("Okafor", self.address)

    def test_it_opens_on_today_and_on_the_first_day_where_the_week_is_another(self) -> None:
        start = self.link.week.start
        for days, opened in ((2, 2), (0, 0), (6, 6), (-1, 0), (7, 0)):
            noon = clock.at(start + timedelta(days=days))
            with clock.set_to(noon):
                if self.link.ends_on < noon.date():
                    continue
                said = words_of(self.phone.get(self.address))
            iso = (start + timedelta(days=opened)).isoformat()
            self.assertIn(f'data-day="{iso}" open>', said, days)
            self.assertEqual(len(re.findall(r'data-day="[^"]*" open>', said)), 1)
            self.assertEqual("Today, " in said, 0 <= days < 7)

    def test_the_whole_day_as_planned_leaves_what_was_answered(self) -> None:
        start = self.link.week.start
        self.send("meal", place="0-1", how="partly", text="half")
        self.send("day", place=start.isoformat(), how="as planned")
        said = {one.place: one.text for one in self.link.answers.all()}
        self.assertEqual(said["0-1"], "partly: half")
        self.assertEqual(said["0-0"], "as planned")
        self.assertTrue(all(place.startswith("0-") for place in said))
        for day in ("2020-01-01", "yesterday", ""):
            refused = self.send("day", place=day, how="as planned")
            self.assertContains(refused, 'data-place="today"', status_code=422)
        self.assertEqual(self.link.answers.count(), len(said))

    def test_a_refused_meal_of_another_day_is_shown_where_it_was_typed(self) -> None:
        with clock.set_to(clock.at(self.link.week.start)):
            refused = self.send("meal", place="3-1", how="devoured", text="half of it")
        self.assertContains(refused, 'data-place="week"', status_code=422)
        iso = (self.link.week.start + timedelta(days=3)).isoformat()
        said = words_of(refused)
        self.assertIn(f'data-day="{iso}" open>', said)
        self.assertIn('value="half of it"', said)

    def test_what_must_not_be_eaten_stands_before_the_days_and_what_to_watch_after(self) -> None:
        said = words_of(self.phone.get(self.address))
        self.assertLess(said.index("peanut (allergy)"), said.index("The other days"))
        self.assertGreater(said.index("whom to ask"), said.index("The other days"))
        self.assertIn("How to make", said)

    def test_nobody_on_the_way_keeps_it_or_is_told_of_it(self) -> None:
        page = self.phone.get(self.address)
        self.assertIn("no-store", page["Cache-Control"])
        self.assertIn("noindex", page["X-Robots-Tag"])
        self.assertEqual(page["Referrer-Policy"], "same-origin")
        self.assertNotIn("unsafe-inline", page["Content-Security-Policy"])

    def test_ended_withdrawn_altered_and_deleted_links_open_nothing(self) -> None:
        token = token_of(self.link)
        for days, opens in ((0, True), (7, True), (8, False)):
            with clock.set_to(clock.now() + timedelta(days=days)):
                self.assertEqual(link_of(token) is not None, opens, days)
        for wrong in (token[:-1] + ("A" if token[-1] != "A" else "B"), token[5:], "x" * 80):
            self.assertEqual(self.phone.get(f"/s/{wrong}/").status_code, 404)
        services.withdraw_link(self.link)
        self.assertEqual(self.phone.get(self.address).status_code, 404)
        self.assertEqual(self.send("remark", text="still there?").status_code, 404)
        self.assertFalse(Answered.objects.exists())

    def test_a_link_ends_at_midnight_where_the_practice_is(self) -> None:
        preferences, _ = Preferences.objects.get_or_create(
            practitioner=self.rower.practitioner, defaults={"time_zone": "UTC"}
        )
        token, ends = token_of(self.link), self.link.ends_on
        for zone, hours_before_utc in (("Pacific/Kiritimati", 14), ("UTC", 0), ("Etc/GMT+9", -9)):
            preferences.time_zone = zone
            preferences.save()
            midnight = datetime(ends.year, ends.month, ends.day, tzinfo=UTC) + timedelta(
                days=1, hours=-hours_before_utc
            )
            for seconds, opens in ((-1, True), (1, False)):
                with self.subTest(zone), clock.set_to(midnight + timedelta(seconds=seconds)):
                    self.assertEqual(link_of(token) is not None, opens)

    def test_a_link_of_a_client_who_was_removed_opens_nothing(self) -> None:
        self.rower.delete()
        self.assertEqual(self.phone.get(self.address).status_code, 404)

    def test_guessing_finds_nothing_and_is_slowed(self) -> None:
        answers = [self.phone.get(f"/s/guess-{n}/").status_code for n in range(MOST_WRONG + 5)]
        self.assertEqual(set(answers[:MOST_WRONG]), {404})
        self.assertEqual(set(answers[MOST_WRONG:]), {429})

    def test_ten_thousand_guesses_open_nothing(self) -> None:
        nonce, _, signature = token_of(self.link).partition(":")
        for n in range(5_000):
            self.assertIsNone(link_of(f"{new_nonce()}:{signature}"))
            self.assertIsNone(link_of(f"{nonce}:{n:043d}"))

    def test_two_links_at_once_and_one_withdrawn(self) -> None:
        other = services.give_link(self.week, clock.today(), [])
        services.withdraw_link(self.link)
        self.assertEqual(self.phone.get(f"/s/{token_of(other)}/").status_code, 200)

    def test_opening_is_counted(self) -> None:
        self.phone.get(self.address)
        self.phone.get(self.address)
        self.link.refresh_from_db()
        self.assertEqual(self.link.opened, 2)

    def test_what_is_handed_over_does_not_change_with_a_dish(self) -> None:
        before = self.phone.get(self.address).content
        self.rower.bowls.update(name="Something else")
        after = self.phone.get(self.address)
        self.assertNotContains(after, "Something else")
        self.assertEqual(before.count(b"<li>"), after.content.count(b"<li>"))

    def test_a_meal_ticked_twice_is_one_answer_and_no_plan_changes(self) -> None:
        plan = Week.objects.get(pk=self.week.pk).plan
        self.send("meal", place="0-0", how="partly", text="half of it")
        self.send("meal", place="0-0", how="skipped", text="")
        self.assertEqual([one.text for one in Answered.objects.all()], ["skipped"])
        self.assertEqual(Week.objects.get(pk=self.week.pk).plan, plan)

    def test_what_was_sent_is_shown_with_its_time_and_taken_back_within_a_day(self) -> None:
        self.send("meal", place="2-1", how="partly", text="half of it")
        self.send("remark", text="too much rice")
        self.send("weight", kg="71.5")
        self.assertContains(self.phone.get(self.address), "You said: partly: half of it")
        self.assertContains(self.phone.get(self.address), "Take it back", count=3)
        for kind in ("meal", "remark", "weight"):
            place = Answered.objects.get(kind=kind).place
            self.assertEqual(self.send(kind, place=place, how="take back").status_code, 302)
            self.assertFalse(Answered.objects.filter(kind=kind).exists())
        self.assertFalse(self.rower.measurements.filter(value=71.5).exists())
        self.assertNotContains(self.phone.get(self.address), "Take it back")

    def test_what_was_sent_long_ago_or_never_is_not_taken_back(self) -> None:
        self.send("meal", place="2-1", how="skipped")
        self.assertEqual(self.send("meal", place="2-0", how="take back").status_code, 422)
        with clock.set_to(clock.now() + timedelta(hours=25)):
            late = self.send("meal", place="2-1", how="take back")
            page = self.phone.get(self.address)
        self.assertContains(late, "more than a day ago", status_code=422)
        self.assertNotContains(page, "Take it back")
        self.assertEqual(Answered.objects.get().text, "skipped")

    def test_remarks_are_kept_once_shown_as_text_and_bounded(self) -> None:
        self.send("remark", text="<script>alert(1)</script>")
        self.send("remark", text="<script>alert(1)</script>")
        self.assertEqual(Answered.objects.count(), 1)
        self.client.force_login(self.rower.practitioner)
        page = self.client.get(reverse("handover:week", args=[self.week.pk]))
        self.assertContains(page, "&lt;script&gt;alert(1)")
        self.assertNotContains(page, "<script>alert")
        huge = self.send("remark", text="x" * 1_000_000)
        self.assertIn(huge.status_code, (400, 413, 422))
        long = self.send("remark", text="tasty " * 200)
        self.assertContains(long, "at most 1000", status_code=422)
        self.assertContains(long, "tasty tasty", status_code=422)  # what was typed stays

    def test_two_remarks_that_waited_for_a_network_are_both_kept(self) -> None:
        self.send("remark", text="The soup was thin.")
        self.send("remark", text="The slaw was good.")
        self.assertEqual(Answered.objects.count(), 2)

    def test_a_weight_that_was_refused_stays_in_its_field(self) -> None:
        page = self.send("weight", place="today", kg="7")
        self.assertContains(page, 'value="7"', status_code=422)

    def test_weights_that_cannot_be_are_refused(self) -> None:
        for kg, kept in (("7", 0), ("700", 0), ("abc", 0), ("72,4", 1), ("72.9", 1), ("160 lb", 1)):
            self.send("weight", place="today", kg=kg)
            self.assertEqual(Answered.objects.filter(kind="weight").count(), kept, kg)
        pound = 0.45359237  # kg, international avoirdupois
        self.assertAlmostEqual(Answered.objects.get(kind="weight").number, 160 * pound)

    def test_a_dish_is_rated_from_one_to_five(self) -> None:
        booklet = stored_booklet(self.week)
        dish = booklet.days[0].meals[0].servings[0].name
        for stars in ("0", "6", "good", ""):
            self.assertEqual(self.send("rating", place=dish, stars=stars).status_code, 422)
        self.send("rating", place=dish, stars="4")
        self.send("rating", place=dish, stars="5")
        self.assertEqual(Answered.objects.get().number, 5)

    def test_the_next_week_is_planned_by_the_client_s_stars(self) -> None:
        """Where the practitioner said nothing: five are loved, one is rather not."""
        self.rower.dish_choices.all().delete()
        dish = stored_booklet(self.week).days[0].meals[0].servings[0].name
        week = add_week(self.rower, self.week.start + timedelta(days=70))

        def liking() -> int:
            offers = question_from(gather(week)).offers
            return next(one.liking for one in offers if one.name == dish)

        self.assertEqual(liking(), 1)
        for stars, wanted in ((5, 3), (4, 2), (3, 1), (2, 0), (1, 0)):
            self.send("rating", place=dish, stars=str(stars))
            self.assertEqual(liking(), wanted, stars)
        self.client.force_login(self.rower.practitioner)
        page = self.client.get(reverse("weeks:favourites", args=[self.rower.pk]))
        self.assertContains(page, "rated 1 of 5 by the client")
        key = next(o.key for o in question_from(gather(week)).offers if o.name == dish)
        DishChoice.objects.create(client=self.rower, dish=key, liking=2)
        self.assertEqual(liking(), 2)

    def test_what_is_left_twice_is_planned_as_rather_not(self) -> None:
        self.rower.dish_choices.all().delete()
        self.rower.diary.all().delete()
        booklet = stored_booklet(self.week)
        name = booklet.days[0].meals[0].servings[0].name
        places = [
            f"{d}-{m}"
            for d, day in enumerate(booklet.days)
            for m, meal in enumerate(day.meals)
            if [one.name for one in meal.servings] == [name]
        ]
        week = add_week(self.rower, self.week.start + timedelta(days=70))

        def liking() -> int:
            return next(o.liking for o in question_from(gather(week)).offers if o.name == name)

        for answers, wanted in (("partly", 1), ("skipped", 0)):
            self.send("meal", place=places.pop(), how=answers, text="")
            self.assertEqual(liking(), wanted, answers)
        self.client.force_login(self.rower.practitioner)
        page = self.client.get(reverse("weeks:favourites", args=[self.rower.pk]))
        self.assertContains(page, "left at 2 of 2 reported meals")
        for place in places[:3]:
            self.send("meal", place=place, how="as planned", text="")
        self.assertEqual(liking(), 1, "five were reported")

    def test_what_is_not_in_the_booklet_cannot_be_answered(self) -> None:
        for kind, place, extra in (
            ("meal", "7-0", {"how": "skipped"}), ("meal", "0-9", {"how": "skipped"}),
            ("meal", "<b>", {"how": "skipped"}), ("bought", "no-such-food", {"how": "yes"}),
            ("cooked", "9-0", {"how": "yes"}), ("rating", "Roast of nothing", {"stars": "3"}),
        ):  # fmt: skip
            answer = self.send(kind, place=place, **extra)
            self.assertContains(answer, "not in the booklet", status_code=422)
        self.assertFalse(Answered.objects.exists())

    def test_cooking_is_ticked_and_unticked_step_by_step(self) -> None:
        for how, count in (("yes", 1), ("yes", 1), ("no", 0), ("yes", 1)):
            self.send("cooked", place="0-1", how=how)
            self.assertEqual(Answered.objects.filter(kind="cooked").count(), count)
        lines = stored_booklet(self.week).evenings[0]
        self.assertEqual(lines.minutes[0], 0)
        self.assertEqual(list(lines.minutes), sorted(lines.minutes))
        self.client.force_login(self.rower.practitioner)
        page = self.client.get(reverse("handover:week", args=[self.week.pk]))
        self.assertContains(page, "steps of cooking done")

    def test_the_calendar_holds_the_week_and_goes_with_the_link(self) -> None:
        address = f"{self.address}calendar.ics"
        data = self.phone.get(address).content
        events = list(icalendar.Calendar.from_ical(data).walk("VEVENT"))
        meals = [e for e in events if str(e["summary"]).startswith("Breakfast")]
        self.assertEqual(len(meals), 7)
        self.assertEqual(meals[0]["dtstart"].dt.date(), self.week.start)
        cooking = [e for e in events if str(e["summary"]) == "Cooking"]
        self.assertEqual(len(cooking), 2)
        self.assertIn("17:30", str(cooking[0]["description"]))
        self.assertNotIn(b"kcal", data)
        services.withdraw_link(self.link)
        self.assertEqual(self.phone.get(address).status_code, 404)

    def test_what_is_not_asked_for_is_not_taken(self) -> None:
        bare = services.give_link(self.week, clock.today(), [])
        for kind in ("meal", "bought", "cooked", "remark", "weight", "rating", "anything"):
            answer = self.phone.post(
                f"/s/{token_of(bare)}/answer/",
                {"kind": kind, "place": "0-0", "text": "x", "kg": "70", "stars": "3"},
            )
            self.assertEqual(answer.status_code, 422)
        self.assertFalse(Answered.objects.exists())

    def test_more_remarks_than_anybody_writes_are_refused_and_meals_are_not(self) -> None:
        for n in range(300):  # a week's shopping and cooking, ticked
            Answered.objects.create(link=self.link, kind="bought", place=str(n))
        self.assertEqual(self.send("remark", text="heard all the same").status_code, 302)
        for n in range(99):
            Answered.objects.create(link=self.link, kind="remark", place=str(n), text=str(n))
        self.assertContains(
            self.send("remark", text="one more"), "remarks in a day", status_code=422
        )
        self.assertEqual(self.send("meal", place="0-0", how="skipped").status_code, 302)
        self.assertEqual(self.send("weight", kg="71").status_code, 302)


class ThePractitionersSide(Linked):
    def test_made_given_read_and_withdrawn(self) -> None:
        self.client.force_login(self.rower.practitioner)
        self.send("weight", place="x", kg="71")
        address = reverse("handover:week", args=[self.week.pk])
        page = self.client.get(address)
        self.assertContains(page, "weight 71 kg")
        self.assertContains(page, token_of(self.link))
        self.client.post(reverse("handover:withdraw", args=[self.week.pk, self.link.pk]))
        self.assertIsNotNone(ShareLink.objects.get(pk=self.link.pk).withdrawn_at)
        self.assertNotContains(self.client.get(address), token_of(self.link))

    def test_how_a_client_wants_it_written_is_kept_for_the_next(self) -> None:
        self.client.force_login(self.rower.practitioner)
        wish = {"figures": "none", "portions": "metric", "energy": "kj", "dates": "ymd"}
        self.client.post(reverse("handover:make", args=[self.week.pk]), wish)
        self.assertEqual(wishes_of(self.rower), Wishes(**wish))
        self.assertEqual(stored_booklet(self.week).wishes, Wishes(**wish))
        refused = self.client.post(
            reverse("handover:make", args=[self.week.pk]), wish | {"energy": "joule"}
        )
        self.assertEqual(refused.status_code, 422)

    def test_a_message_waits_in_the_outbox_and_nobody_elses_is_there(self) -> None:
        self.client.force_login(self.rower.practitioner)
        address = reverse("handover:message", args=[self.week.pk])
        self.client.post(address, {"text": "Your week is ready, and the soup is new."})
        page = self.client.get(reverse("handover:outbox"))
        self.assertContains(page, "and the soup is new.")
        message = OutboxMessage.objects.get()
        self.client.post(reverse("handover:passed-on", args=[message.pk]))
        message.refresh_from_db()
        self.assertIsNotNone(message.passed_on_at)
        refused = self.client.post(address, {"text": "  "})
        self.assertContains(refused, "Write the message first", status_code=422)
        long = self.client.post(address, {"text": "soup " * 500})
        self.assertContains(long, "soup soup", status_code=422)  # what was typed stays
        self.client.force_login(get_user_model().objects.get(username="joon"))
        self.assertNotContains(self.client.get(reverse("handover:outbox")), "the soup is new")
        theirs = reverse("handover:remove-message", args=[message.pk])
        self.assertEqual(self.client.post(theirs).status_code, 404)
        self.assertEqual(OutboxMessage.objects.count(), 1)

    def test_everything_of_a_client_is_one_file(self) -> None:
        self.client.force_login(self.rower.practitioner)
        answer = self.client.get(reverse("handover:everything", args=[self.rower.pk]))
        with zipfile.ZipFile(io.BytesIO(answer.content)) as file:
            self.assertIsNone(file.testzip())
            stored = json.loads(file.read("client.json"))
            columns = file.read("columns.csv").decode()
            name = f"booklets/week-{self.week.start.isoformat()}-version-{self.week.version}.pdf"
            self.assertIn("Wednesday", text_of(file.read(name)))
        for table, rows in stored["tables"].items():
            for column in rows[0]:
                self.assertIn(f"{table},{column},", columns)

    def test_today_says_that_something_came_back_until_it_is_read(self) -> None:
        self.client.force_login(self.rower.practitioner)
        self.send("remark", text="I loved the slaw.")
        self.send("bought", place="kale-raw", how="yes")
        self.assertContains(self.client.get("/today/"), "1 answer to read")
        self.client.get(reverse("handover:week", args=[self.week.pk]))
        self.assertNotContains(self.client.get("/today/"), "answer to read")

    def test_a_week_in_progress_has_no_booklet_and_an_ending_is_needed(self) -> None:
        self.client.force_login(self.rower.practitioner)
        other = add_week(self.rower, clock.today() + timedelta(weeks=27))
        refused = self.client.post(reverse("handover:make", args=[other.pk]), {"figures": "main"})
        self.assertContains(refused, "Hand over the week first", status_code=422)
        refused = self.client.post(
            reverse("handover:give-link", args=[self.week.pk]), {"ends_on": "someday"}
        )
        self.assertContains(refused, 'value="someday"', status_code=422)
        self.assertEqual(self.client.get(reverse("handover:pdf", args=[other.pk])).status_code, 404)
