"""What the documents name is there: files, and a reason for every dependency."""

from __future__ import annotations

import re
import tomllib
import unittest
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
FOLDERS = "dietetics|roundpantry|reference|bench|hostile|headless|docs|tools"
NAMED_FILE = re.compile(rf"`((?:{FOLDERS})/[\w/.-]+\.(?:py|csv|txt|toml|md|html))`")
LINK = re.compile(r"\]\(([\w./-]+\.(?:md|png))\)")


class Documents(unittest.TestCase):
    """README and docs/."""

    def test_every_file_that_is_named_is_there(self) -> None:
        for document in (ROOT / "README.md", *ROOT.glob("docs/**/*.md")):
            text = document.read_text(encoding="utf-8")
            for name in NAMED_FILE.findall(text):
                if "KEY." not in name:  # any of the approaches
                    self.assertTrue((ROOT / name).exists(), f"{document.name} names {name}")
            for name in LINK.findall(text):
                there = (document.parent / name).resolve()
                self.assertTrue(there.exists(), f"{document.name} links {name}")

    def test_every_dependency_has_its_reason(self) -> None:
        project = tomllib.loads((ROOT / "pyproject.toml").read_text(encoding="utf-8"))
        wanted = [*project["project"]["dependencies"], *project["dependency-groups"]["dev"]]
        text = (ROOT / "docs" / "architecture.md").read_text(encoding="utf-8")
        reasons = text.partition("## Dependencies")[2]
        for one in wanted:
            name = re.split(r"[\[<>=;]", one)[0]
            self.assertRegex(reasons, rf"[| ,]{re.escape(name)}[ ,|]", name)
