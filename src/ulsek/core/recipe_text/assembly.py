"""Assigns each ingredient of a recipe to the action of the method at which it goes in, whole or in shares: “half the water now, the rest later”."""

from __future__ import annotations

from dataclasses import replace

from ..operations.catalogue import VERBS
from ..written.quantities import MEASURED, Quantity
from ..written.tokens import tokens_of
from .action import FINISHING_VERBS, Action
from .alike_amounts import put_in_alike
from .calling import SAME, Calling
from .doubts import Answer, Change, Doubt, amount_form
from .ingredient import Amount, Ingredient
from .method_amounts import MethodAmounts
from .not_taken import ask_what_goes_in
from .one_step import speaks_of_things
from .parts_used import cut_as_listed, is_of_listed, juice_of_what_was_peeled, parts_put_in
from .text_reading import TextReading
from .unlisted import not_in_list
from .vessel_amounts import VesselAmounts
from .waits import PIECES, STRAINS, bottled_where_strained, dissolved_cold, stored_for_a_while, waits_off_the_heat, waits_resolved

_TAKES = {"boil": True, "wait": True, "press": False, "drip": False, "skim": False, "centrifuge": False, "settle": False, "nothing": False}
_PLACED = (*PIECES, "spirit", "vinegar", "gum", "fining", "extract", "oil")
"""Kinds of which it matters at which step they go in."""


_DRAWS = ("spirit", "wine", "vinegar")
"""Kinds of material that extract cold."""
_WET = ("water", "juice", "spirit", "wine", "vinegar", "dairy")
"""Kinds in which something may steep."""
_OF_WHAT_THEY_TAKE = ("reduce", "peel", "zest")
"""Verbs after which a fraction is not that of an ingredient to add: “reduce by half”, “zest half of the oranges”."""
_BEFORE_MIXING = ("combine", "cut", "juice", "zest", "peel", "core", "wash", "crush", "toast", "muddle", "dissolve")
"""Verbs of preparation. “Mix” without an object adds all ingredients still to be added if only these came before it; after any other verb it adds none."""


class Assembly:
    """Puts the ingredients of one text into its actions."""

    def __init__(self, reading: TextReading, actions: list[Action]) -> None:
        self._reading, self._words = reading, reading.words
        self.actions = actions
        self._calling = Calling(reading)
        self._waiting = list(reading.listed)
        self._amounts = MethodAmounts(reading, self._calling, self._waiting)
        self._against = VesselAmounts(reading, self._calling, self._waiting)
        self._split: dict[int, Ingredient] = {}
        self._told = tuple(actions)

    def run(self) -> list[Action]:
        """Returns the actions with their lines."""
        stored_for_a_while(self._reading, self.actions)
        bottled_where_strained(self._reading, self.actions)
        if self.actions and self.actions[0].verb == "press":
            # “Press the peel and sugar together”: nothing is there yet that could be pressed out.
            self.actions[0].verb = "combine"
        later = self._calling.said_later(self.actions)
        for position, action in enumerate(list(self.actions)):
            if action.verb != "nothing":
                self._fill(position, action, later)
        self._left_over()
        parts_put_in(self._reading, self.actions)
        juice_of_what_was_peeled(self._reading, self.actions)
        waits_off_the_heat(self.actions)
        waits_resolved(self._reading, self.actions)
        dissolved_cold(self._reading, self.actions)
        cut_as_listed(self._reading, self.actions)
        return self.actions

    def _fill(self, position: int, action: Action, later: dict[int, int]) -> None:
        """Puts into an action what it names, measures or takes in silence; `later` are the actions before which a thing does not go in."""
        amounts = self._amounts
        if not self._takes(action):
            self._strained_onto(action)
            return
        reading = self._reading
        used: set[int] = set()
        put_in_alike(reading, self._calling, action)
        if self._against.all_of(action, used):
            return
        if action.verb == "juice" and action.gives is None:
            amounts.juiced(action)
        self._measured(action, used)
        self._spoken_parts(action, used)
        self._shares(action, used)
        due = [item for item in self._waiting if id(item) not in used and max(later.get(id(item), 0), item.due) <= position]
        for item in due:
            if (
                self._speaks_of(action, item)
                and not self._calling.another_is_meant(action, item)
                and not self._added_by_name(position, action, item)
            ):
                self._take(action, item)
        # “Tumble them with the sugar”
        them = self._only_them(action) and (bool(action.lines) or any(before.lines for before in self.actions[:position]))
        spoken_of = action.everything and not them
        bare = self._says_only_its_verb(action) and all(before.verb in _BEFORE_MIXING for before in self.actions[:position])
        if spoken_of or bare or (not action.lines and self._silent(position)):
            held = self._added_later(position) if spoken_of or bare else set()
            # What is poured off later goes in here: “shake together … pour off the gin”.
            then = [later for later in self.actions[position + 1 :] if self._takes(later)] if bare else []
            held |= {id(item) for item in due if any(self._speaks_of(later, item) for later in then)}
            held |= {id(item) for item in due if self._against.filled_up_with(item, self.actions[position + 1 :])}
            for item in due:
                behind = None if spoken_of else self._corrected(item)
                if (
                    item in self._waiting
                    and id(item) not in held
                    and not any(token.stem in item.called for token in action.but)
                    and behind in (None, action)
                ):
                    self._take(action, item)
        self._against.covered(action)
        if self._calling.listed:
            not_in_list(self._reading, self._calling, action)
        else:
            amounts.unmeasured(action)
        amounts.unknown(action)
        if action.gives is not None and not action.lines:
            amounts.pressed_out(action, self.actions[position + 1 :])
        if action.gives is not None and not any(before.lines for before in self.actions[: position + 1]):
            ask_what_goes_in(reading, action)
        if action.gives is not None and len(action.lines) == 1:
            amounts.gives(action.lines[0], action.gives, action.gives_end)

    def _only_them(self, action: Action) -> bool:
        """Returns True if “them” means the contents of the vessel: “put them into the water”."""
        hit = self._words.phrases["everything"].within(action.tokens)
        return hit is not None and action.tokens[hit[0]].plain in self._words.words["them_words"]

    def _says_only_its_verb(self, action: Action) -> bool:
        """Returns True for a combining action that is nothing but its verb, such as “mix”, while only some of the listed ingredients are left."""
        words = sum(1 for token in action.tokens if token.kind == "word")
        return (
            action.verb == "combine"
            and bool(action.word)
            and words == len(action.word.split())
            and len(self._waiting) < len(self._calling.listed)
        )

    def _added_later(self, position: int) -> set[int]:
        """Returns the identities of what a later action adds by name: “bring everything to the boil … stir in the acid”."""
        adding = [
            action for action in self.actions[position + 1 :] if action.word in self._words.words["add_words"] and self._takes(action)
        ]
        return {id(item) for action in adding for item in self._waiting if self._speaks_of(action, item)}

    def _added_by_name(self, position: int, action: Action, item: Ingredient) -> bool:
        """Returns True if a later action adds an ingredient by its own name while this one says only its kind: “warm the juice … add the lemon”."""
        words = self._words.words
        own = {token.stem for token in tokens_of(item.named.said) if token.kind == "word"} - words["part_words"] - words["describes"]
        own -= {word for other in self._calling.listed if other is not item for word in other.called}
        if not own or any(token.stem in own for token in action.tokens):
            return False
        adding = [later for later in self.actions[position + 1 :] if later.word in words["add_words"] or later.verb == "off_heat"]
        said = [later.tokens[later.told_from :] for later in adding]
        # “Add the orange flower water” adds no orange peel.
        return any(any(token.stem in own for token in tokens) and self._calling.speaks(tokens, item) for tokens in said)

    def _measured(self, action: Action, used: set[int]) -> None:
        """Puts in what stands with an amount in the action: a part of a line, or a thing that the list does not hold."""
        for quantity, named in self._calling.pairs(action):
            item = self._calling.the_one(named, quantity)
            share = item is not None and self._calling.is_share(action.tokens, quantity)
            if share or is_of_listed(self._reading, action, quantity, named):
                continue
            more = item is not None and self._calling.one_more(action, quantity) and self._calling.equal(quantity, item)
            if item is None or more or (item not in self._waiting and id(item) not in self._split):
                if quantity.kind in (*MEASURED, "vague", "percent", "parts") or (quantity.kind == "count" and named.key):
                    self._amounts.inline(action, quantity, named)
            elif item in self._waiting and not self._calling.equal(quantity, item) and self._part_of(action, item, quantity):
                used.add(id(item))

    def _takes(self, action: Action) -> bool:
        return _TAKES.get(action.verb, action.verb in VERBS and VERBS[action.verb].takes_lines)

    def _speaks_of(self, action: Action, item: Ingredient) -> bool:
        # What stands behind “everything but” waits.
        kept_back = {token.start for token in action.but}
        spoken = [token for token in action.tokens if token.start not in kept_back] if action.but else action.tokens
        if action.verb in ("juice", "zest", "peel") or (action.verb == "wait" and action.word):
            # The verb itself names no juice, and “leave 30 minutes” no leaves.
            spoken = [token for at, token in enumerate(spoken) if at != action.told_from]
        if action.verb in ("freeze", "cool") and self._reading.material(item.key).kind == "fat":
            # “Freeze, lift the fat off”: it is there already.
            return False
        if item.named.part == "juice" and self._calling.names_no_juice(action, item):
            return False
        return self._calling.speaks(spoken, item)

    def _take(self, action: Action, item: Ingredient) -> None:
        action.lines.append(item)
        if item in self._waiting:
            self._waiting.remove(item)

    def _silent(self, position: int) -> bool:
        """Returns True if this is the first action that something goes into, and no action names anything of the list."""
        first = next((at for at, action in enumerate(self.actions) if self._takes(action) and action.verb != "nothing"), None)
        if first != position:
            return False
        takes = [action for action in self.actions if self._takes(action)]
        return not any(self._speaks_of(action, item) for action in takes for item in self._calling.listed)

    def _spoken_parts(self, action: Action, used: set[int]) -> None:
        """“250 ml of the juice”: a part of what the list has as another juice by name."""
        paired = [quantity for quantity, _ in self._calling.pairs(action)]
        for quantity in action.quantities:
            of = self._words.at("of", action.tokens, quantity.end)
            if quantity in paired or quantity.kind not in MEASURED or not of:
                continue
            spoken = {token.stem for token in self._amounts.noun(action.tokens, quantity.end + of[0])}
            item = next((item for item in self._waiting if item.called & spoken), None)
            if (
                item is not None
                and id(item) not in used
                and not self._calling.equal(quantity, item)
                and self._part_of(action, item, quantity)
            ):
                used.add(id(item))

    def _strained_onto(self, action: Action) -> None:
        """“Strain onto the honey”: what is named there goes in next, in a step of its own."""
        if not action.into or action.verb not in STRAINS:
            return
        onto = [item for item in self._waiting if any(token.stem in item.called for token in action.into)]
        if not onto and self._calling.listed:
            not_in_list(self._reading, self._calling, action)
        if onto:
            added = Action("combine", action.line, action.into)
            self.actions.insert(self.actions.index(action) + 1, added)
            for item in onto:
                self._take(added, item)

    def _shares(self, action: Action, used: set[int]) -> None:
        """“Half of the juice”, “the rest of the water”."""
        tokens, words = action.tokens, self._words
        for at in range(len(tokens) if action.verb not in _OF_WHAT_THEY_TAKE else 0):
            share = words.at("shares", tokens, at)
            if not share:
                continue
            behind = at + share[0]
            # “Half with the peel” is not half of the peel.
            end = next((n for n in range(behind, len(tokens)) if tokens[n].plain in words.words["ends_name"]), len(tokens))
            spoken = tokens[behind : min(end, behind + 4)]
            item = next((item for token in spoken for item in self._waiting if token.stem in item.called), None)
            if item is not None and id(item) not in used:
                said = self._reading.text[tokens[at].start : tokens[behind - 1].end]
                self._apart(action, item, float(share[1]), said.removesuffix(" of"))
                used.add(id(item))

    def _part_of(self, action: Action, item: Ingredient, quantity: Quantity) -> bool:
        """Takes so much of a line; False where it is not less than the line."""
        if item.amount.kind == "open" or item.amount.assumed:
            if quantity.kind in MEASURED:
                self._reading.settle(item.start, item.end, ("missing_amount", "to_taste"))
            item.amount = (
                Amount("mass" if quantity.kind == "mass" else "volume", quantity.amount, quantity.unit)
                if quantity.kind in MEASURED
                else item.amount
            )
            return False
        part = self._calling.amount_g(quantity, item)
        if item.amount.kind == "line" and quantity.kind in MEASURED:
            taken = replace(item, amount=Amount(quantity.kind, quantity.amount, quantity.unit), split=True)  # type: ignore[arg-type]
            self._reading.listed.insert(self._reading.listed.index(item), taken)
            # Of what is filled up to a line so much goes in first: nothing is open.
            action.lines.append(taken)
            return True
        whole = self._reading.grams(item)
        if part is None or whole is None or part >= whole * (1 - SAME):
            return False
        self._apart(action, item, part / whole, self._reading.said(action.tokens, quantity))
        return True

    def _apart(self, action: Action, item: Ingredient, share: float, said: str) -> None:
        whole = item.amount
        taken = replace(item, amount=replace(whole, amount=whole.amount.times(share)), split=True)
        if item.per is not None:
            taken.per, item.per = (item.per[0], item.per[1] * share), (item.per[0], item.per[1] * (1 - share))
        item.amount = replace(item.amount, amount=item.amount.amount.times(1 - share))
        item.split = True
        self._split[id(item)] = taken
        for other in self._reading.listed:
            # What was measured against the whole is now measured against the part that goes in first.
            if other.per is not None and other.per[0] is item and share > 0:
                other.per = (taken, other.per[1] / share)
        self._reading.listed.insert(self._reading.listed.index(item), taken)
        action.lines.append(taken)
        self._doubt_part(action, item, taken, whole, said)

    def _doubt_part(self, action: Action, item: Ingredient, taken: Ingredient, whole: Amount, said: str) -> None:
        name = self._reading.called(item)
        self._reading.doubts.append(
            Doubt(
                "part_of_it",
                action.line,
                self._reading.text[action.start : action.end],
                f"{said} of the {name} goes in here, the rest later: is that right?",
                (
                    Answer("yes, in two parts"),
                    Answer("all of it here", (Change({"amount": amount_form(whole)}, taken), Change({"drop": True}, item))),
                ),
                action.start,
                action.end,
            )
        )

    def _left_over(self) -> None:
        left = list(self._waiting)
        if not left and self.actions and any(action.lines for action in self.actions):
            return
        home = next((action for action in self.actions if self._takes(action)), None)
        first = self.actions[0] if self.actions else None
        spoken = any(action.lines for action in self.actions)
        if home is None or (first is not None and first is not home and not spoken):
            home = Action("combine", left[0].line if left else 1, ())
            self.actions.insert(0, home)
        # “Cook 40 min” is said of everything that goes in later by no name.
        silent = bool(home.tokens) and not home.lines and not speaks_of_things(self._reading, home)
        for item in left:
            if item.split:
                # Where the method never says where the rest goes, it goes in next.
                at = next((n for n, action in enumerate(self.actions) if self._split.get(id(item)) in action.lines), 0)
                # “Half of the coffee … add the rest, citric and salt”
                rest = next((one for one in self.actions[at + 1 :] if self._takes(one) and self._words.says("rest", one.tokens)), None)
                if rest is None:
                    rest = Action("combine", item.line, ())
                    self.actions.insert(at + 1, rest)
                self._take(rest, item)
                continue
            goes = self._listed_behind(item) or self._fitting(item) or self._corrected(item)
            # What is listed below a step goes in behind it.
            behind = next((action for action in self.actions[item.due :] if self._takes(action)), None) if item.due else None
            # “Slice it” is said of the one thing that is not named.
            meant = silent or behind is not None or (len(left) == 1 and self._takes_it(home))
            if goes is None and spoken and not meant and self._told_by_name() and self._reading.material(item.key).kind in _PLACED:
                self._reading.ask("never_used", item, f"The method never uses {self._reading.called(item)}: where does it go?")
            if goes is None and behind is None and any(token.stem in item.called for token in home.but):
                # “Simmer all but the acid”, and nobody says where the acid goes: behind everything.
                behind = Action("combine", item.line, ())
                end = len(self.actions)
                while end and self.actions[end - 1].verb in FINISHING_VERBS:
                    end -= 1
                self.actions.insert(end, behind)
            self._take(goes or behind or home, item)

    def _takes_it(self, action: Action) -> bool:
        """Returns True if the words of an action contain a pronoun (“it”, “them”), so that the action may refer to an earlier ingredient."""
        return any(token.plain in self._words.words["pronouns"] for token in action.tokens)

    def _listed_behind(self, item: Ingredient) -> Action | None:
        """Returns a new combining action right behind the step after which an ingredient is listed: the sugar of “strain / sugar 600 g / bottle”.

        None for one that an action names, for one that a later action takes, and where the whole list stands behind the method.
        """
        first = any(other.due == 0 for other in self._reading.listed)
        if not item.due or not first or any(self._speaks_of(action, item) for action in self.actions):
            return None
        before = self._told[item.due - 1]
        at = next((at + 1 for at, action in enumerate(self.actions) if action is before), 0)
        while at and self.actions[at - 1].verb in FINISHING_VERBS:
            at -= 1
        if not at or any(self._takes(action) and action.tokens for action in self.actions[at:]):
            return None
        if at < len(self.actions) and not self.actions[at].tokens and self.actions[at].verb == "combine":
            return self.actions[at]
        self.actions.insert(at, Action("combine", item.line, ()))
        return self.actions[at]

    def _told_by_name(self) -> bool:
        """Returns True if the method names most of the list: one thing that it leaves out is then worth a question."""
        taken = sum(1 for item in self._calling.listed if item not in self._waiting)
        return taken >= len(self._calling.listed) / 2

    def _corrected(self, item: Ingredient) -> Action | None:
        """Returns the last combining action after the last straining for an ingredient that is added to taste; None for other ingredients."""
        if not self._reading.words.says("to_taste", tokens_of(item.text)):
            return None
        strained = max((at for at, action in enumerate(self.actions) if action.verb in STRAINS), default=len(self.actions))
        return next((action for action in reversed(self.actions[strained:]) if action.verb == "combine"), None)

    def _fitting(self, item: Ingredient) -> Action | None:
        """Returns the first step that is there to draw something out and names nothing: what is steeped goes in there."""
        kind = self._reading.material(item.key).kind
        if kind in _DRAWS:
            waits = [action for action in self.actions if action.verb in ("infuse", "steep", "wait")]
            wet = any(self._reading.material(line.key).kind in _WET for action in self.actions for line in action.lines)
            # “Steep the horseradish 24 h”: in the one liquid that there is.
            return next((action for action in waits if not action.lines or not wet), None)
        if kind not in ("leaf", "herb", "flower", "spice", "peel", "root", "bark"):
            return None
        waits = [action for action in self.actions if action.verb in ("steep", "infuse", "simmer")]
        return next((action for action in waits if all(self._reading.material(line.key).kind in _DRAWS for line in action.lines)), None)
