"""Verdicts of the core as JSON: their values, with their sentences beside."""

from __future__ import annotations

from typing import Any

from dietetics.cautions.verdict import Verdict


def verdict_json(verdict: Verdict) -> dict[str, Any]:
    """A verdict as JSON values, with its sentences beside."""
    return {
        "key": verdict.key,
        "code": verdict.code,
        "subject": verdict.subject,
        "severity": verdict.severity,
        "text": verdict.text,
        "action": verdict.action,
        "ask": verdict.ask,
        "source": verdict.source,
    }
