"""What a web page says of itself, by the rules of the HTML standard: microdata sections 5.2 to 5.3,
end tags 13.1.2.4.
"""

from __future__ import annotations

import unittest
from unittest import mock

from dietetics.dishes import webpages
from dietetics.dishes.recipe_files import read_file
from dietetics.dishes.webpages import described
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
