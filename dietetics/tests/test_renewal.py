"""What a changed record asks of targets that are set: what was typed stays, unless somebody could
be hurt by it.
"""

from __future__ import annotations

import unittest
from dataclasses import replace

from dietetics.targets.person import Person
from dietetics.targets.proposal import Proposal, propose
from dietetics.targets.renewal import SetTargets, SetWindow, proposed_changes, renewed_windows
from dietetics.targets.windows import Window

WOMAN = Person("female", 42, 168, 74)
TYPED_ENERGY = Window("energy_kcal", 1500, 1600, "must")


def as_proposed(plan: Proposal, *typed: Window, is_signed: bool = False) -> SetTargets:
    """A version set from a proposal, with some windows typed by hand in their place."""
    keys = {window.key for window in typed}
    windows = [SetWindow(t.window, False) for t in plan.targets if t.window.key not in keys]
    windows += [SetWindow(window, True) for window in typed]
    return SetTargets(windows, [one.key for one in plan.asked], is_signed)


def keys_changed(present: SetTargets, person: Person) -> set[str]:
    """The nutrients of which the record asks for another target."""
    pairs = [before or after for before, after in proposed_changes(present, propose(person))]
    return {window.key for window in pairs if window is not None}


class Renewal(unittest.TestCase):
    def test_a_record_that_did_not_change_asks_for_nothing(self) -> None:
        self.assertEqual(keys_changed(as_proposed(propose(WOMAN)), WOMAN), set())

    def test_what_was_typed_stays_and_the_rest_follows_the_record(self) -> None:
        present = as_proposed(propose(WOMAN), TYPED_ENERGY)
        heavier = replace(WOMAN, weight_kg=84)
        windows = {w.key: w for w in renewed_windows(present, propose(heavier))}
        self.assertEqual(windows["energy_kcal"], TYPED_ENERGY)
        self.assertIn("protein_g", keys_changed(present, heavier))
        self.assertNotIn("energy_kcal", keys_changed(present, heavier))

    def test_a_typed_energy_does_not_survive_what_forbids_a_deficit(self) -> None:
        pregnant = replace(WOMAN, pregnant=True, pregnancy_week=20)
        present = as_proposed(propose(WOMAN), TYPED_ENERGY)
        self.assertIn("energy_kcal", keys_changed(present, pregnant))
        signed = as_proposed(propose(WOMAN), TYPED_ENERGY, is_signed=True)
        self.assertNotIn("energy_kcal", keys_changed(signed, pregnant))

    def test_limits_of_blood_results_are_never_dropped(self) -> None:
        sick = replace(WOMAN, conditions=frozenset({"ckd-4"}))
        limit = SetWindow(Window("potassium_mg", None, 2500, "must"), False)
        present = as_proposed(propose(sick), is_signed=True)
        present = replace(present, windows=[*present.windows, limit])
        self.assertIn(limit.window, renewed_windows(present, propose(sick)))

    def test_no_must_of_a_clinicians_figure_while_nobody_is_named(self) -> None:
        plan = propose(WOMAN)
        present = replace(as_proposed(plan), asked=["protein_g"])
        changed = {after.key: after for _, after in proposed_changes(present, plan) if after}
        self.assertEqual(changed["protein_g"].importance, "should")
        self.assertEqual(keys_changed(replace(present, is_signed=True), WOMAN), set())

    def test_a_target_left_out_by_hand_is_not_asked_for_again(self) -> None:
        plan = propose(WOMAN)
        kept = [w for w in as_proposed(plan).windows if w.window.key != "fibre_g"]
        self.assertEqual(keys_changed(SetTargets(kept), WOMAN), set())
        without = [w for w in kept if w.window.key != "energy_kcal"]
        self.assertEqual(keys_changed(SetTargets(without), WOMAN), {"energy_kcal"})
