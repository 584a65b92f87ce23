"""The one exception family of the core: a code, the values it speaks of, and a sentence for a
person.
"""

from __future__ import annotations

from collections.abc import Mapping


class DieteticsError(ValueError):
    """Something given to the core cannot be used.

    `code` is stable and meant for programs; `params` holds the values the message speaks of.
    """

    messages: Mapping[str, str] = {
        "unknown-food": "There is no food with the key “{key}”.",
        "unknown-nutrient": "There is no nutrient with the key “{key}”.",
        "amount-unreadable": (
            "“{text}” was not understood as an amount. Write it like 1 1/2 cups, 30 g or 2 pieces."
        ),
        "amount-not-positive": "“{text}”: an amount must be above zero.",
        "amount-absurd": (
            "“{text}” comes to {grams:,.0f} g. More than {limit_kg:g} kg of one "
            "ingredient looks like a typing error."
        ),
        "measure-unknown": "{food} has no weight for “{unit}”. Known: {known}. Or write grams.",
        "yield-not-positive": (
            "A cooked weight of {grams:g} g is not possible. It must be above zero."
        ),
        "servings-not-positive": (
            "{servings:g} servings is not possible. Enter a realistic number above zero."
        ),
        "servings-unknown": (
            "{name} has no number of servings. Enter grams or a volume, or set its servings first."
        ),
        "dish-in-itself": (
            "{name} can't be added to {into}, because {into} is already part of {name}."
        ),
        "window-reversed": (
            "The target for {name} runs from {low:g} to {high:g}: the minimum is above the maximum."
        ),
        "window-negative": "The target for {name} is below zero ({value:g}).",
        "window-fixed": (
            "The target for {name} is set by the clinician. Change it under Targets, "
            "not for one bowl."
        ),
        "window-empty": "The target for {name} has no minimum and no maximum.",
        "person-impossible": (
            "A {name} of {value:g} {unit} is not possible; between {low} and {high} {unit} is."
        ),
        "person-unknown-word": "“{value}” is not a known {name}. Known: {known}.",
        "person-contradiction": "“{one}” and “{other}” contradict each other.",
        "school-unreadable": "The rules of {file} cannot be used: {problem}.",
        "supplement-unreadable": "“{text}” was not understood as a supplement: {why}.",
        "shop-unreadable": "The list cannot be read: {problem}.",
        "shopping-negative": "Less than nothing of {food} ({grams:g} g) cannot be bought.",
        "prep-too-many": "{count} tasks are more than one evening holds: at most {most}.",
        "prep-twice": "The task {key} is there twice.",
        "prep-unknown-after": "“{text}” waits for the task {key}, which is not there.",
        "prep-circle": "These tasks wait for each other in a circle: {tasks}.",
        "prep-minutes": "“{text}” cannot take {minutes:g} minutes: from 0 to a day is possible.",
        "prep-kitchen": "{count} {name} is not possible: from {least} to {most}.",
        "prep-burner": "A burner of {kw} kW is not known: {known}.",
        "prep-no-device": "“{text}” needs this, and the kitchen has none: {device}.",
        "prep-no-task": "The task {key} is not part of this evening.",
        "prep-not-yet": "“{text}” cannot be done yet: something it needs is not finished.",
        "prep-unreadable": "What is to be cooked cannot be read: {problem}.",
        "prep-not-running": "This evening has not been started, or was stopped in another window.",
        "booklet-unreadable": "This booklet cannot be read: {problem}.",
        "answer-not-allowed": "Your practitioner has not asked for this here.",
        "answer-too-often": "More than {most} remarks in a day: not saved. It stays in its field.",
        "answer-past": "This was sent more than a day ago, or is gone: write a remark instead.",
        "answer-unknown": "Not understood. Known: {known}.",
        "answer-place-unknown": "This is not in the booklet as it is now. Load the page again.",
        "trajectory-none": "There is no weigh-in yet.",
        "trajectory-long": "These weigh-ins lie {years:.0f} years apart. Is a year typed wrong?",
        "expected-not-made": "No expected weight: {why}.",
        "measured-unknown": "“{key}” is not something this program measures.",
        "measured-file": "This is no table of measurements: {problem}.",
        "measured-unit": "{name} with {unit}: write one of {known}.",
        "measured-reporter": "“{text}” did not report it. Known: {known}.",
        "measured-time": "“{text}” is no time of day. Write it like 07:30.",
        "measured-number": "The {name} “{text}” is no number.",
        "measured-gone": "This measurement is no longer there.",
        "proposal-gone": "This is no longer proposed: something changed meanwhile.",
        "undo-moved-on": (
            "The targets were changed again since. Nothing was taken back; change them on the "
            "targets page."
        ),
        "visit-day": "A visit lies between {first} and {last}. Nothing was saved.",
        "diary-day": "{day} is not one of the last {most} days. Nothing was saved.",
        "measured-empty": "Nothing was written. Type for example: 72.4 kg today, waist 81.",
        "measured-impossible": (
            "“{text}” was read as {name} and cannot be right: from {least} to {most} is possible. "
            "Nothing was saved."
        ),
        "measured-before-birth": "On {day} this client was not born yet. Nothing was saved.",
        "measured-future": "{day} has not been yet. Nothing was saved.",
        "measured-which-day": (
            "“{text}” names no day. Write the day of the blood test, like 12 March. Nothing was "
            "saved."
        ),
        "measured-unclear": "“{text}” was not understood as a blood pressure. Nothing was saved.",
        "day-unclear": (
            "“{text}” may be two different days. Write the month as a word, like 3 Nov. Nothing "
            "was saved."
        ),
        "day-impossible": "“{text}” is no day of the calendar. Nothing was saved.",
        "message-empty": "Write the message first.",
        "answer-empty": "Nothing was written, so nothing was sent.",
        "answer-too-long": "{length} characters are too many: at most {most}.",
        "answer-weight": "{kg:g} kg cannot be right. From {least:g} to {most:g} kg is possible.",
        "prep-broken": "Internal error: the timetable broke these rules and is not shown: {rules}.",
        "answer-broken": "Internal error: the result broke these rules and was not saved: {rules}.",
        "person-unreadable": "The person cannot be read: {problem}.",
        "allergen-blocked": (
            "{food} contains {allergens}; {client} is allergic to it. To add it "
            "anyway, give a reason."
        ),
        "text-too-long": (
            "This is {length:,} characters long; {most:,} are the most that are read here. "
            "Shorten it, or enter it in parts."
        ),
        "measurement-parts": (
            "“{text}”: {each} {small} are a {large}, so there is a slip in it. Nothing was saved."
        ),
        "measurement-unreadable": "“{text}” was not understood as a {name}.",
        "goal-too-light": (
            "A goal of {kg:g} kg is a BMI of {bmi:.1f}, under {least:.1f}. Choose a higher one."
        ),
        "recipe-empty": "Nothing to read: write or paste one ingredient per line.",
        "recipe-too-long": "The text is {size:,} characters long; the maximum is {limit:,}.",
        "recipe-too-many-lines": "The text has {lines:,} lines; the maximum is {limit:,}.",
        "recipe-not-text": "The file is not text: byte {position} cannot be read as UTF-8.",
        "bowl-moved-on": (
            "The bowl was changed in another window while being balanced, so "
            "nothing was saved. Balance again."
        ),
        "line-moved-on": (
            "This line was changed in another window. It is now “{stored}”; you wrote “{typed}”, "
            "which is not saved yet. Save again to put yours in its place."
        ),
        "moved-on": "This was changed in another window. Nothing was saved.",
        "client-moved-on": "{client} was changed in another window after you opened this form, "
        "so nothing was saved. "
        "What you typed is kept below. Check the client in another window, then save again.",
        "balance-nothing": "Nothing to balance: add an ingredient to the bowl first.",
        "balance-too-many": (
            "{count} ingredients are too many to balance at once; the maximum is {limit}."
        ),
        "balance-bad-step": (
            "The portion steps of {food} are not possible: the step and its "
            "weight must be above zero."
        ),
        "balance-reversed": (
            "The limits of {food} run from {least:g} to {most:g} {unit}: the "
            "minimum is above the maximum."
        ),
        "balance-importance": "“{value}” is not a known importance. Known: {known}.",
        "client-unreadable": "The facts of the client cannot be read: {problem}.",
        "balance-unreadable": "The file with the balancing question cannot be read: {problem}.",
        "scale-moving": "The scale is still moving ({grams} g). Wait until it is steady.",
        "scale-empty": (
            "The scale shows {grams} g. Put the ingredient on it first, or type its weight."
        ),
        "method-unknown": "“{method}” is not a known cooking method. Known: {known}.",
        "yield-unreadable": "“{text}” was not understood as a cooked weight. "
        "Write 1.74 kg, 2.9 kg less 1.16 kg, 12 x 45 g, 7 ladles.",
        "recipe-file-none": "No recipe could be read from the file: {problem}.",
        "recipe-file-several": "The file contains {count} recipes: {names}. Choose one.",
        "week-no-longer-fits": (
            "The plan no longer fits the current week and was not saved: {rules}. Search again."
        ),
        "week-stands-better": (
            "The week as it stands was kept: it does better where it matters more. A new plan "
            "would change: {changes}."
        ),
        "week-day": "A week can't start on {start}. Choose a day between {first} and {last}.",
        "week-no-dish": "You have no dish called {dish}.",
        "week-there": "There is a week from {start} already.",
        "week-no-meals": (
            "A week needs at least one meal. Set the client's targets and meals first."
        ),
        "week-no-cell": "There is no meal {meal} on day {day} in this week.",
        "week-cell-full": "A meal can have at most {most} items.",
        "week-way": (
            "That can't be applied here. Change targets under Targets; at most "
            "{evenings} cooking evenings are possible."
        ),
        "week-scale": (
            "{scale:g} servings of {name} is not possible. Enter a number above 0, at "
            "most {most:g}."
        ),
        "week-locked": "This meal is locked. Unlock it first.",
        "week-unknown-kind": "“{kind}” is not a type of day. Known: {known}.",
        "week-cooking": "{pots:g} batches on day {day} with {frozen:g} frozen is not possible. "
        "Use a day of the week or the evening before it, "
        "up to {most:g} batches and a frozen share of 0 to 1.",
        "week-unreadable": "The week cannot be read: {problem}.",
        "week-no-dishes": (
            "There are no dishes to plan with. Create a bowl, or allow a dish to be used."
        ),
        "json-refused": "The file cannot be read: {problem}.",
        "nothing-matched": "No line was understood as a food with an amount.",
    }

    def __init__(self, code: str, **params: object) -> None:
        self.code = code
        self.params = params
        super().__init__(self.messages[code].format(**params))


class BrokenAnswerError(DieteticsError):
    """An answer of the program breaks the rules it was asked to keep: an internal error, to be
    logged; nothing is stored.
    """
