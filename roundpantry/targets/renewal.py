"""What a client's targets would be by the record as it is now, beside those that are set, read from
rows for the rules of `dietetics.targets.renewal`. Nothing is written here.
"""

from __future__ import annotations

from dietetics.errors import DieteticsError
from dietetics.nutrients import nutrient
from dietetics.targets import renewal as rules
from dietetics.targets.proposal import Proposal
from dietetics.targets.windows import Window
from roundpantry.clients.models import Client
from roundpantry.targets.models import TargetSet
from roundpantry.targets.records import newest_set, proposal_of


def plan_or_none(client: Client) -> Proposal | None:
    """What is computed for a client, or None where their facts contradict themselves."""
    try:
        return proposal_of(client)
    except DieteticsError:
        return None


def renewed_windows(client: Client) -> tuple[TargetSet, list[Window]] | None:
    """The newest version and what its windows would be by the record as it is now. None without
    targets, or where the record contradicts itself.
    """
    present, plan = newest_set(client), plan_or_none(client)
    if present is None or plan is None:
        return None
    return present, rules.renewed_windows(_as_set(present), plan)


def proposed_changes(client: Client) -> list[rules.Change]:
    """The windows that the record as it is now would change: before and after, None where there
    was, or would be, none.
    """
    present, plan = newest_set(client), plan_or_none(client)
    if present is None or plan is None:
        return []
    return rules.proposed_changes(_as_set(present), plan)


def changed_names(client: Client) -> list[str]:
    """The nutrients of which the record asks for another target than is set, by their names."""
    pairs = [before or after for before, after in proposed_changes(client)]
    return [nutrient(window.key).name for window in pairs if window is not None]


def _as_set(present: TargetSet) -> rules.SetTargets:
    windows = [
        rules.SetWindow(
            Window(w.key, w.low, w.high, w.importance), bool(w.overridden or not w.source)
        )
        for w in present.windows.all()
    ]
    signed = bool(present.clinician and present.clinician_on)
    return rules.SetTargets(windows, present.asked, signed)
