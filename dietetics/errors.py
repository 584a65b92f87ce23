"""The one exception family of the core: a code, the values it speaks of, and a sentence for a person."""

from __future__ import annotations

from collections.abc import Mapping


class DieteticsError(ValueError):
    """Something given to the core cannot be used.

    `code` is stable and meant for programs; `params` holds the values the message speaks of.
    """

    messages: Mapping[str, str] = {
        "unknown-food": "There is no food with the key “{key}” on the shelf.",
        "unknown-nutrient": "There is no nutrient with the key “{key}”.",
        "amount-unreadable": "“{text}” was not understood as an amount. Write it like 1 1/2 cups, 30 g or 2 pieces.",
        "amount-not-positive": "“{text}” is not more than nothing. An amount must be above zero.",
        "amount-absurd": "“{text}” comes to {grams:,.0f} g. Over {limit_kg:g} kg of one thing is taken for a slip.",
        "measure-unknown": "{food} has no weight for “{unit}”. Known: {known}. Or write grams.",
        "yield-not-positive": "A yield of {grams:g} g is not possible. It must be above zero.",
        "servings-not-positive": "{servings:g} servings are not possible. The number must be above zero, and such as people serve.",
        "servings-unknown": "{name} does not say how many it serves. Give grams or a volume, or set its servings first.",
        "dish-in-itself": "{name} cannot be put into {into}: {into} is in {name} already.",
        "window-reversed": "The window for {name} runs from {low:g} to {high:g}: low is above high.",
        "window-negative": "The window for {name} goes below zero ({value:g}).",
        "window-fixed": "The window for {name} is set by the clinician: it is changed under Targets, not for one bowl.",
        "window-empty": "The window for {name} has neither a low nor a high.",
        "person-impossible": "A {name} of {value:g} {unit} is not possible; between {low} and {high} {unit} is.",
        "person-unknown-word": "“{value}” is not a known {name}. Known: {known}.",
        "person-contradiction": "“{one}” and “{other}” contradict each other.",
        "school-unreadable": "The rules of {file} cannot be used: {problem}.",
        "supplement-unreadable": "“{text}” was not understood as a supplement: {why}.",
        "answer-broken": "The program found an answer that breaks its own rules and did not keep it: {rules}.",
        "person-unreadable": "The person cannot be read: {problem}.",
        "allergen-blocked": "{food} holds {allergens}, and {client} has that allergy. To put it in all the same, say why.",
        "measurement-unreadable": "“{text}” was not understood as a {name}.",
        "goal-too-light": "A goal of {kg:g} kg is a BMI of {bmi:.1f}, under {least:.1f}. Choose a higher one.",
        "recipe-empty": "There is nothing to read: write or paste one ingredient a line.",
        "recipe-too-long": "The text is {size:,} characters long; {limit:,} is the most that is read at once.",
        "recipe-too-many-lines": "The text has {lines:,} lines; {limit:,} is the most that is read at once.",
        "recipe-not-text": "The file is not text: byte {position} cannot be read as UTF-8.",
        "bowl-moved-on": "The bowl was changed in another window while it was balanced: nothing was stored. Balance it again.",
        "client-moved-on": "{client} was changed in another window since this form was opened, and nothing was stored. "
        "What you typed is kept below: look at the client in another window, then store again.",
        "balance-nothing": "There is nothing to balance: put a part into the bowl first.",
        "balance-too-many": "{count} parts are more than can be balanced at once; {limit} is the most.",
        "balance-bad-step": "The steps of {food} cannot be used: step and weight must be above zero, the least not below.",
        "balance-reversed": "{food} runs from {least:g} to {most:g} {unit}: the least is above the most.",
        "balance-importance": "“{value}” is not a known importance. Known: {known}.",
        "balance-unreadable": "The question cannot be read: {problem}.",
        "scale-moving": "The scale still moves ({grams} g). Wait until it has settled.",
        "scale-empty": "The scale shows {grams} g: put the part on it first, or type its weight.",
        "method-unknown": "“{method}” is no way of cooking known here. Known: {known}.",
        "yield-unreadable": "“{text}” was not understood as a yield. Write 1.74 kg, 2.9 kg less 1.16 kg, 12 x 45 g, 7 ladles.",
        "recipe-file-none": "The file holds no recipe that can be read: {problem}.",
        "recipe-file-several": "The file holds {count} recipes: {names}. Choose one.",
        "week-no-longer-fits": "The week that was found does not fit what is there now, and was not stored: {rules}. Search again.",
        "week-day": "A week from {start} is not planned here: choose a day between {first} and {last}.",
        "week-no-dish": "There is no such dish on your shelf: {dish}.",
        "week-there": "There is a week from {start} already.",
        "week-no-meals": "A week needs at least one meal: set the client's targets and skeleton first.",
        "week-no-cell": "There is no meal {meal} on day {day} in this week.",
        "week-cell-full": "A meal holds at most {most} things.",
        "week-way": "That way is not taken here: a window is changed under Targets, and {evenings} cooking evenings are the most.",
        "week-scale": "{scale:g} servings of {name} cannot be: above 0, at most {most:g}.",
        "week-locked": "A locked meal stays where it is: unlock it first.",
        "week-unknown-kind": "“{kind}” is no way to spend a day. Known: {known}.",
        "week-cooking": "{pots:g} pots on day {day} with {frozen:g} frozen cannot be: a day of the week or the evening before it, "
        "up to {most:g} pots, a frozen share of 0 to 1.",
        "week-unreadable": "The week cannot be read: {problem}.",
        "week-no-dishes": "There is no dish to plan with: make a bowl, or let one of them be used again.",
        "json-refused": "The file cannot be read: {problem}.",
        "nothing-matched": "No line was understood as a food with an amount.",
    }

    def __init__(self, code: str, **params: object) -> None:
        self.code = code
        self.params = params
        super().__init__(self.messages[code].format(**params))


class BrokenAnswerError(DieteticsError):
    """An answer of the program breaks the rules it was asked to keep: an internal error, to be logged; nothing is stored."""
