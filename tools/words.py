"""Print every text that a user can meet, as one list to be read through: `./pantry words`.

Templates give their text between tags and the attributes that are shown or spoken; Python gives its
string literals that read as words. A placeholder stands as ‹name›. What only a programmer meets
(docstrings, patterns, tests) is left out.
"""

from __future__ import annotations

import ast
import html
import re
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
SHOWN_ATTRIBUTES = re.compile(
    r'(?:title|aria-label|placeholder|alt|data-confirm|data-spoken)="([^"]*[A-Za-z]{2}[^"]*)"'
)
INLINE_TAGS = re.compile(r"</?(?:b|i|em|strong|a|span|kbd|small|abbr|code|sub|sup)\b[^>]*>")
READS_AS_WORDS = re.compile(r"[A-Za-z]{2,} .*[A-Za-z]|^[A-Z][a-z]{3,}")
PROGRAM_TEXT = re.compile(r"\.html$|^[a-z_]+/|\\b|\(\?|^SELECT|^PRAGMA")
# Word lists that are read, not shown: the vocabulary of recipes and labels.
NOT_SHOWN = {
    "vocabulary.py",
    "allergenwords.py",
    "food_matching.py",
    "tokens.py",
    "phrases.py",
    "label_words.py",
    "name_words.py",
}


def template_texts(text: str) -> Iterator[str]:
    """The texts of a template."""
    text = re.sub(
        r"\{%\s*comment.*?endcomment\s*%\}|\{#.*?#\}|<script.*?</script>", "", text, flags=re.DOTALL
    )
    yield from SHOWN_ATTRIBUTES.findall(text)
    text = re.sub(r"\{%.*?%\}", "¦", text)
    text = re.sub(r"\{\{\s*([\w.]+).*?\}\}", lambda found: f"‹{found[1].split('.')[-1]}›", text)
    yield from re.split(r"<[^>]*>|\n|¦", INLINE_TAGS.sub(" ", text))


def python_texts(source: str) -> Iterator[str]:
    """The string literals of a module that read as words, f-strings with their placeholders."""
    tree = ast.parse(source)
    left_out = {
        id(part)
        for joined in ast.walk(tree)
        if isinstance(joined, ast.JoinedStr)
        for part in joined.values
    }
    for node in ast.walk(tree):
        body = getattr(node, "body", None)
        if isinstance(body, list) and body and isinstance(body[0], ast.Expr):
            left_out.add(id(body[0].value))
    for node in ast.walk(tree):
        if isinstance(node, ast.JoinedStr):
            yield "".join(
                str(part.value)
                if isinstance(part, ast.Constant)
                else f"‹{ast.unparse(part.value)[:18]}›"
                for part in node.values
                if isinstance(part, ast.Constant | ast.FormattedValue)
            )
        elif (
            isinstance(node, ast.Constant)
            and isinstance(node.value, str)
            and id(node) not in left_out
        ):
            yield node.value


def all_texts() -> dict[str, list[str]]:
    """Every text by file."""
    found: dict[str, list[str]] = {}
    for file in sorted(
        [
            *ROOT.glob("roundpantry/**/*.html"),
            *ROOT.glob("roundpantry/**/*.py"),
            *ROOT.glob("dietetics/**/*.py"),
        ]
    ):
        where = str(file.relative_to(ROOT))
        if file.name in NOT_SHOWN or any(
            part in where for part in ("/tests/", "/migrations/", "/demo/", "/settings/")
        ):
            continue
        source = file.read_text(encoding="utf-8")
        pieces = template_texts(source) if file.suffix == ".html" else python_texts(source)
        clean = [html.unescape(re.sub(r"\s+", " ", piece)).strip(" ·,;:") for piece in pieces]
        shown = [
            piece
            for piece in clean
            if READS_AS_WORDS.search(re.sub(r"‹.*?›", " ", piece))
            and not PROGRAM_TEXT.search(piece)
        ]
        if shown:
            found[where] = list(dict.fromkeys(shown))
    return found


if __name__ == "__main__":
    for where, texts in all_texts().items():
        print(f"\n## {where}")
        for text in texts:
            print(text)
