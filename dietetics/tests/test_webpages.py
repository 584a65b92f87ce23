"""What a web page says of itself, by the rules of the HTML standard: microdata sections 5.2 to 5.3,
end tags 13.1.2.4.
"""

from __future__ import annotations

import json
import unittest
from unittest import mock

from dietetics.dishes import webpages
from dietetics.dishes.recipe_files import read_file
from dietetics.dishes.webpages import described
from dietetics.errors import DieteticsError
from dietetics.untrusted_input import MOST_DEPTH

RECIPE = "https://schema.org/Recipe"


def only(page: str) -> dict:
    """The one item of a page."""
    (found,) = described(page)
    return found


class Microdata(unittest.TestCase):
    """Items, properties, and where a value stands."""

    def test_the_value_is_the_attribute_or_the_text(self) -> None:
        """The table of section 5.2.4: meta content, a and link href, img src, time datetime, data
        value, else text.
        """
        page = (
            f'<div itemscope itemtype="{RECIPE}"><meta itemprop="a" content="1"><a itemprop="b" '
            'href="/2">two</a>'
            '<img itemprop="c" src="3.png"><time itemprop="d" datetime="PT4M">four</time><data '
            'itemprop="e" value="5">V</data>'
            '<time itemprop="f">six</time><p itemprop="g">se<b>v</b>en</p><link itemprop="h" '
            'href="/8"></div>'
        )
        item = only(page)
        self.assertEqual(item.pop("@type"), [RECIPE])
        self.assertEqual(
            {k: [v.strip() for v in vs] for k, vs in item.items()},
            {
                "a": ["1"],
                "b": ["/2"],
                "c": ["3.png"],
                "d": ["PT4M"],
                "e": ["5"],
                "f": ["six"],
                "g": ["seven"],
                "h": ["/8"],
            },
        )

    def test_a_property_belongs_to_the_item_around_it(self) -> None:
        page = (
            '<div itemscope><p itemprop="x">1</p><div itemprop="in" itemscope><p '
            'itemprop="x">2</p></div><p itemprop="x">3</p></div>'
        )
        item = only(page)
        self.assertEqual([v.strip() for v in item["x"]], ["1", "3"])
        self.assertEqual([v.strip() for v in item["in"][0]["x"]], ["2"])

    def test_two_names_of_one_property_and_one_outside_any_item(self) -> None:
        item = only('<p itemprop="stray">no</p><div itemscope><b itemprop="x y">1</b></div>')
        self.assertEqual((item["x"], item["y"]), (["1"], ["1"]))
        self.assertNotIn("stray", item)

    def test_end_tags_may_be_left_out(self) -> None:
        page = (
            f'<div itemscope itemtype="{RECIPE}"><ul><li itemprop="i">a<ul><li>b</ul><li '
            'itemprop="i">c</ul><p itemprop="n">d</div>'
        )
        item = only(page)
        self.assertEqual([v.split() for v in item["i"]], [["a", "b"], ["c"]])
        self.assertEqual(item["n"][0].strip(), "d")

    def test_a_page_cut_off_in_the_middle_gives_what_was_there(self) -> None:
        item = only(
            f'<div itemscope itemtype="{RECIPE}"><h1 itemprop="name">Soup</h1><p '
            'itemprop="recipeIngredient">1 cup le'
        )
        self.assertEqual([v.strip() for v in item["recipeIngredient"]], ["1 cup le"])

    def test_what_lies_too_deep_is_left_out_and_nothing_breaks(self) -> None:
        deep = '<div itemscope itemprop="x">' * (MOST_DEPTH * 40)
        (item,) = described(deep)
        depth = 0
        while "x" in item and isinstance(item["x"][0], dict):
            item, depth = item["x"][0], depth + 1
        self.assertLess(depth, MOST_DEPTH)

    def test_the_work_for_one_tag_does_not_grow_with_the_page(self) -> None:
        """Ten thousand open elements: each start and text looks at no more than the most that may
        be open.
        """
        most = 0
        real = webpages._Reader.start

        def watched(reader, tag, attributes):
            nonlocal most
            real(reader, tag, attributes)
            most = max(most, len(reader.open))

        with mock.patch.object(webpages._Reader, "start", watched):
            described('<div itemscope><b itemprop="x">y' * 10_000)
        self.assertEqual(most, webpages.MOST_OPEN)

    def test_ends_without_a_start_are_passed_over(self) -> None:
        self.assertEqual(described("</div></li></script><p>nothing</p></html>"), [])


class Scripts(unittest.TestCase):
    """JSON-LD."""

    def test_every_readable_script_is_kept_in_its_order(self) -> None:
        page = (
            '<script type="application/ld+json">{"a": 1}</script><script>{"b": 2}</script>'
            '<script type="application/ld+json">{broken</script>'
            '<script type="Application/LD+JSON; charset=utf-8"><!-- [1] --></script>'
        )
        self.assertEqual(described(page), [{"a": 1}, [1]])

    def test_tags_inside_a_script_are_text(self) -> None:
        self.assertEqual(
            described('<script type="application/ld+json">{"a": "<div itemscope>"}</script>'),
            [{"a": "<div itemscope>"}],
        )


class ThroughTheFile(unittest.TestCase):
    """A saved page becomes the text of a recipe."""

    def test_microdata_with_steps_and_line_breaks(self) -> None:
        page = (
            f'<!doctype html><html><body><div itemscope itemtype="{RECIPE}"><h1 '
            'itemprop="name">Quay soup</h1>'
            '<meta itemprop="recipeYield" content="4 servings"><ul><li '
            'itemprop="recipeIngredient">1 cup <i>red</i> lentils'
            '<li itemprop="recipeIngredient">2 cups water</ul><p '
            'itemprop="recipeInstructions">Boil.<br>Serve.</p></div></body></html>'
        )
        (found,) = read_file(page.encode(), "soup.html")
        self.assertEqual(
            found.text,
            "# Quay soup\nServes 4.\n\n1 cup red lentils\n2 cups water\n\nMethod:\nBoil.\nServe.\n",
        )


INGREDIENTS = ["1 cup red lentils", "2 carrots, sliced", "1 tsp cumin"]
STEPS = ["Rinse the lentils.", "Simmer everything for 20 minutes."]


def list_of(lines: list[str], before: str = "<li>", after: str = "</li>") -> str:
    """Lines as a list of a page."""
    return "".join(f"{before}{line}{after}" for line in lines)


class PagesOfEveryKind(unittest.TestCase):
    """The same recipe in each way that pages say it, read whole."""

    def is_whole(self, page: str | bytes, name: str = "page.html") -> None:
        (found,) = read_file(page if isinstance(page, bytes) else page.encode(), name)
        lines = found.text.splitlines()
        for line in INGREDIENTS:
            self.assertIn(line, lines, found.text)
        for step in STEPS:
            self.assertIn(step, found.text)
        self.assertEqual(found.name, "Red dal")

    def test_json_that_is_put_together_otherwise(self) -> None:
        steps = json.dumps(STEPS)
        kinds = (
            '"Recipe"',
            '["Recipe", "Article"]',
            '"schema:Recipe"',
            '"http://schema.org/Recipe"',
        )
        for given in (
            json.dumps(INGREDIENTS),
            json.dumps("<br>".join(INGREDIENTS)),
            json.dumps("\n".join(INGREDIENTS)),
            json.dumps("<ul>" + list_of(INGREDIENTS) + "</ul>"),
            json.dumps([{"@type": "ItemList", "itemListElement": INGREDIENTS}]),
        ):
            for kind in kinds:
                data = (
                    f'{{"@type": {kind}, "name": "Red dal", "recipeIngredient": {given}, '
                    f'"recipeInstructions": {steps}}}'
                )
                with self.subTest(given=given, kind=kind):
                    self.is_whole(
                        f'<html><script type="application/ld+json">{data}</script></html>'
                    )

    def test_json_with_marks_and_commas_that_do_not_belong(self) -> None:
        data = json.dumps(
            {"@type": "Recipe", "name": "Red dal", "recipeIngredient": INGREDIENTS,
             "recipeInstructions": STEPS}
        )  # fmt: skip
        for text in (
            f"//<![CDATA[\n{data}\n//]]>",
            f"<!--{data}-->",
            data[:-1] + ",}",
            f"{data};",
            data.replace("Rinse the", "Rinse\nthe"),
        ):
            with self.subTest(text):
                self.is_whole(f'<html><script type="application/ld+json">{text}</script></html>')

    def test_the_other_data_of_a_page(self) -> None:
        recipe = {
            "name": "Red dal", "recipeIngredient": INGREDIENTS, "recipeInstructions": STEPS
        }  # fmt: skip
        data = json.dumps({"props": {"page": {"recipe": recipe}}})
        self.is_whole(f'<html><script type="application/json">{data}</script></html>')

    def test_rdfa_and_the_open_microformat(self) -> None:
        """RDFa Lite 1.1 (typeof, property); microformats h-recipe and hRecipe."""
        rdfa = (
            '<div vocab="https://schema.org/" typeof="Recipe"><h1 property="name">Red dal</h1><ul>'
            + list_of(INGREDIENTS, '<li property="recipeIngredient">')
            + "</ul><ol>"
            + list_of(STEPS, '<li property="recipeInstructions">')
            + "</ol></div>"
        )
        self.is_whole(f"<html><body>{rdfa}</body></html>")
        for root, name, one, step in (
            ("h-recipe", "p-name", "p-ingredient", "e-instructions"),
            ("hrecipe", "fn", "ingredient", "instructions"),
        ):
            page = (
                f'<div class="{root}"><h1 class="{name}">Red dal</h1><ul>'
                + list_of(INGREDIENTS, f'<li class="{one}">')
                + f'</ul><div class="{step}">'
                + list_of(STEPS, "<p>", "</p>")
                + "</div></div>"
            )
            with self.subTest(root):
                self.is_whole(f"<html><body>{page}</body></html>")

    def test_a_page_that_says_nothing_to_machines(self) -> None:
        for before, after in (
            ("<li>", "</li>"), ("<p>", "</p>"), ("", "<br>"), ("<tr><td>", "</td></tr>"),
        ):  # fmt: skip
            page = (
                "<html><head><title>Red dal | A blog</title></head><body><nav>Home</nav><h1>Red dal"
                "</h1><p>My aunt made it.</p><h3>Ingredients (serves 4)</h3>"
                + list_of(INGREDIENTS, before, after)
                + "<h3>Method</h3>"
                + list_of(STEPS, "<p>", "</p>")
                + "<h3>Leave a comment</h3><p>1 cup of love</p></body></html>"
            )
            with self.subTest(before):
                self.is_whole(page)
                self.assertNotIn("love", read_file(page.encode(), "x.html")[0].text)

    def test_other_character_sets(self) -> None:
        more = "½ tsp purée à l’ail"
        page = (
            '<html><head><meta charset="{0}"></head><body><h1>Red dal</h1><h2>Ingredients</h2><ul>'
            + list_of([*INGREDIENTS, more])
            + "</ul><h2>Method</h2>"
            + list_of(STEPS, "<p>", "</p>")
            + "</body></html>"
        )
        for said, used in (
            ("windows-1252", "cp1252"), ("", "cp1252"), ("utf-8", "utf-8"), ("utf-16", "utf-16"),
            ("no-such-set", "cp1252"),
        ):  # fmt: skip
            with self.subTest(said, used=used):
                raw = page.format(said).encode(used)
                self.is_whole(raw)
                self.assertIn(more, read_file(raw, "x.html")[0].text)

    def test_no_list_no_recipe(self) -> None:
        for page in (
            "<html><h2>Ingredients</h2><p>Love and time</p></html>",
            "<html><h2>About us</h2><ul><li>1 cup rice</li><li>2 carrots</li></ul></html>",
        ):
            with self.assertRaises(DieteticsError):
                read_file(page.encode(), "x.html")
