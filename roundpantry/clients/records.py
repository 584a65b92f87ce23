"""Queries of this app: a practitioner's own clients and nobody else's."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

from django.contrib.auth.models import User
from django.db.models import QuerySet

from dietetics.cautions.facts import ClientFacts, client_facts
from dietetics.cautions.verdict import Verdict
from dietetics.composition.foods import Food
from dietetics.composition.phosphorus import absorbed_phosphorus
from dietetics.errors import DieteticsError
from dietetics.targets.conditions import KIDNEY
from dietetics.targets.person import ClinicianNote, Person
from dietetics.targets.schools import DEFAULT_SCHOOL, School, school, schools
from dietetics.targets.supplements import amounts_a_day, supplements_and_rest
from dietetics.targets.weight import lost_percent
from roundpantry.clients.models import Acknowledgement, Client, Measurement, OwnSchool
from roundpantry.clients.stored_data import client_tables, mentions_of, went_out
from roundpantry.counter.backups.taking import kept_copies
from roundpantry.counter.dates import day_text
from roundpantry.counter.seen import mark_of
from roundpantry.counter.typed_numbers import row_number


def client_mark(client: Client) -> str:
    """A short mark of everything a client's form shows, sent along with it: another mark is another
    state of the client.
    """
    return mark_of(client, ("archived", "opened_at", "stage_said_on"))


def clients_of(user: User) -> QuerySet[Client]:
    """The clients of a practitioner; an anonymous user has none."""
    return (
        Client.objects.filter(practitioner_id=user.pk)
        if user.is_authenticated
        else Client.objects.none()
    )


def client_in_session(user: User, pk: int | None) -> Client | None:
    """The client last worked with, if it is still this practitioner's."""
    return clients_of(user).filter(pk=pk).first() if pk else None


def _number_of(facts: Mapping[str, Any], name: str) -> float | None:
    given = facts.get(name)
    return None if given is None else float(given)


def person_of(facts: Mapping[str, Any]) -> Person:
    """The person of stored or typed facts. Raises DieteticsError where they contradict
    themselves.
    """
    meals, lost = facts.get("meals_a_day"), _number_of(facts, "lost_kg")
    return Person(
        facts["sex"],
        float(facts["age_years"]),
        float(facts["height_cm"]),
        float(facts["weight_kg"]),
        facts["activity"],
        facts["goal"],
        float(facts["pace_kg_per_week"]),
        facts["school"],
        frozenset(facts["conditions"]),
        bool(facts["pregnant"]),
        bool(facts["breastfeeding"]),
        _number_of(facts, "goal_weight_kg"),
        None if meals is None else int(meals),
        _number_of(facts, "pregnancy_week"),
        _number_of(facts, "weight_before_kg"),
        _number_of(facts, "breastfeeding_month"),
        note_of(facts.get("deficit_by", ""), facts.get("deficit_on")),
        loss_percent=None if lost is None else lost_percent(lost, float(facts["weight_kg"])),
        loss_unintended=bool(facts.get("lost_unintended")),
        eats_little_days=_number_of(facts, "eats_little_days"),
        appetite=facts.get("appetite") or "good",
        babies=int(facts.get("babies") or 1),
        usual_sodium_mg=_number_of(facts, "usual_sodium_mg"),
        usual_vitamin_k_ug=_number_of(facts, "usual_vitamin_k_ug"),
        clinician_energy_kcal=_number_of(facts, "clinician_energy_kcal"),
        clinician_energy_note=note_of(
            facts.get("clinician_energy_by", ""), facts.get("clinician_energy_on")
        ),
    )


def note_of(by: str | None, on: Any) -> ClinicianNote | None:
    """A clinician's leave for a deficit, when it is both named and dated."""
    return ClinicianNote(by.strip(), f"{on:%Y-%m-%d}") if by and by.strip() and on else None


PERSON_FACTS = (
    "sex", "age_years", "height_cm", "weight_kg", "activity", "goal", "pace_kg_per_week", "school",
    "conditions", "pregnant",
    "breastfeeding", "goal_weight_kg", "meals_a_day", "pregnancy_week", "weight_before_kg",
    "breastfeeding_month",
    "deficit_by", "deficit_on", "lost_kg", "lost_unintended", "eats_little_days", "appetite",
    "babies", "usual_sodium_mg", "usual_vitamin_k_ug", "clinician_energy_kcal",
    "clinician_energy_by", "clinician_energy_on",
)  # fmt: skip


def person_of_client(client: Client) -> Person:
    """The person of a stored client."""
    return person_of({name: getattr(client, name) for name in PERSON_FACTS})


def person_or_none(client: Client) -> Person | None:
    """The person of a stored client; None where the record contradicts itself."""
    try:
        return person_of_client(client)
    except DieteticsError:
        return None


def supplements_of(client: Client) -> dict[str, float]:
    """What a client's supplements bring a day, by nutrient; of lines not counted, nothing."""
    return amounts_a_day(supplements_and_rest(client.supplements)[0])


def uncounted_supplements(client: Client) -> list[str]:
    """The lines of a client's supplements that are kept and not counted, each with why."""
    return [str(error) for error in supplements_and_rest(client.supplements)[1]]


def client_facts_of(client: Client, school_key: str = "") -> ClientFacts:
    """The client as the rules of food see them, under their school or another."""
    try:
        rules = school_of(client, school_key or client.school)
    except DieteticsError:
        rules = None  # an own school that was removed
    person = person_or_none(client)
    if person is None:
        return ClientFacts(
            frozenset(client.conditions),
            tuple(client.allergies),
            client.dislikes,
            rules,
            supplements=supplements_of(client),
        )
    return client_facts(person, client.allergies, client.dislikes, rules, supplements_of(client))


def phosphorus_words(client: Client, foods: Sequence[tuple[Food, float]]) -> str:
    """For a kidney client: how much of the phosphorus eaten is likely to be absorbed; "" for
    others.
    """
    return absorbed_phosphorus(foods).words() if KIDNEY & set(client.conditions) else ""


def acknowledged(client: Client, scope: str) -> dict[str, Acknowledgement]:
    """The newest acknowledgement of each caution in a scope."""
    found: dict[str, Acknowledgement] = {}
    for row in client.acknowledgements.filter(scope=scope):
        found.setdefault(row.key, row)
    return found


def with_acknowledgements(
    client: Client, scope: str, found: Sequence[Verdict]
) -> list[tuple[Verdict, Acknowledgement | None]]:
    """Verdicts with the acknowledgement of each that still holds: one that got worse comes back."""
    known = acknowledged(client, scope) if found else {}
    return [
        (
            verdict,
            row
            if (row := known.get(verdict.key[:80])) is not None
            and not verdict.comes_back(row.measure)
            else None,
        )
        for verdict in found
    ]


def newest_weight(client: Client) -> Measurement | None:
    """The weight that was measured last; None for a client who is not stored yet."""
    if client.pk is None:
        return None
    return Measurement.objects.filter(client=client, kind="weight").first()


def client_json(client: Client) -> dict[str, Any]:
    """Everything stored about a client, for the client to take along: facts, every table that is
    theirs, the practitioner's texts that name them.
    """
    plain = {
        f.name: getattr(client, f.name)
        for f in Client._meta.fields
        if f.name not in ("id", "practitioner")
    }
    named = [
        {"table": row._meta.label_lower, "row": row.pk, "column": column, "text": text}
        for row, column, text in mentions_of(client)
    ]
    return {**plain, "tables": client_tables(client), "named_elsewhere": named}


def left_after_erasing(client: Client) -> list[dict[str, str]]:
    """What erasing a client cannot reach: what it is, of which day, and how it goes away."""
    rows = [
        {"what": words, "day": day_text(moment), "until": "not reached: ask for it back"}
        for words, moment in went_out(client)
    ]
    return rows + [
        {
            "what": f"a copy of the database, {copy.file.name}",
            "day": day_text(copy.made_at),
            "until": f"dropped about {day_text(copy.until)}"
            if copy.until
            else "until you delete it",
        }
        for copy in kept_copies()
        if copy.made_at >= client.created_at
    ]


def own_schools_of(user: User) -> QuerySet[OwnSchool]:
    """The schools a practitioner derived."""
    return OwnSchool.objects.filter(practitioner_id=user.pk)


def school_of(client_or_user: Client | User, key: str) -> School:
    """A school by its key, one of the practitioner's own where the key says so. Raises
    DieteticsError when there is none.
    """
    if not key.startswith("own-"):
        return school(key)
    pk = client_or_user.practitioner_id if isinstance(client_or_user, Client) else client_or_user.pk
    row = OwnSchool.objects.filter(practitioner_id=pk, pk=row_number(key[4:])).first()
    if row is None:
        raise DieteticsError(
            "person-unknown-word", name="school", value=key, known="the approaches listed"
        )
    base = school(row.base)
    protein = base.protein_g_per_kg
    if row.protein_low_g_per_kg and row.protein_high_g_per_kg:
        protein = (row.protein_low_g_per_kg, row.protein_high_g_per_kg)
    return replace(
        base,
        key=key,
        name=row.name,
        why=row.why or f"Derived from {base.name}. {base.why}",
        density_high=row.density_high or base.density_high,
        sodium_high=row.sodium_high or base.sodium_high,
        protein_g_per_kg=protein,
    )


def school_choices(user: User) -> list[tuple[str, str]]:
    """The schools a client may follow: the default first, the practitioner's own last."""
    common = sorted(schools().values(), key=lambda s: s.key != DEFAULT_SCHOOL)
    return [(s.key, s.name) for s in common] + [
        (f"own-{row.pk}", row.name) for row in own_schools_of(user)
    ]
