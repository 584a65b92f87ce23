"""What is written to the log: what failed and where, under the number the user was shown; nobody's
name or words.

A message of an error may hold what a client is called or what somebody typed. So of an error its
kind and the lines of code it came through are written, and not its message.
"""

from __future__ import annotations

import logging
import re
import traceback
from types import TracebackType

Raised = tuple[type[BaseException], BaseException, TracebackType | None] | tuple[None, None, None]

_TOKEN = re.compile(r"(/s/[^/\s]{0,6})[^/\s]*")


def without_tokens(text: str) -> str:
    """A text with the address of every client's link cut after six letters: who reads a log must
    not be able to open one.

    >>> without_tokens("/s/abcdefghij:klm/answer/")
    '/s/abcdef…/answer/'
    """
    return _TOKEN.sub(r"\1…", text)


class WithoutTokens(logging.Filter):
    """Cut the addresses of links in what a server writes about requests that it could not read."""

    def filter(self, record: logging.LogRecord) -> bool:
        """Change the message, and let it pass."""
        record.msg, record.args = without_tokens(record.getMessage()), ()
        return True


class WithoutWords(logging.Formatter):
    """One line a record, then the lines of code of an error, without its message."""

    def format(self, record: logging.LogRecord) -> str:
        """The record as it is written."""
        request = getattr(record, "request", None)
        if (
            request is not None
        ):  # Django's own words name the address, and may name what was asked for behind it
            who = getattr(getattr(request, "user", None), "pk", None)
            words = (
                f"{request.method} {request.path} [{getattr(request, 'name', '-')}] "
                f"practitioner {who or '-'}"
            )
        else:
            words = record.getMessage()
        words = without_tokens(words)
        line = f"{self.formatTime(record)} {record.levelname} {record.name}: {words}"
        return f"{line}\n{self.formatException(record.exc_info)}" if record.exc_info else line

    def formatException(self, ei: Raised) -> str:  # noqa: N802 the name is the library's
        """The kind of an error and the way through the code, and of those that led to it."""
        lines, error = [], ei[1]
        while error is not None:
            lines += [
                f"  {frame.filename}:{frame.lineno} {frame.name}"
                for frame in traceback.extract_tb(error.__traceback__)
            ]
            lines.append(f"  {type(error).__name__}")
            error = error.__cause__ or (None if error.__suppress_context__ else error.__context__)
        return "\n".join(lines)
