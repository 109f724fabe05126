"""A questionnaire as statements: every way to walk through it is a way to make them true.

Who cannot answer what is required, or cannot satisfy a check, is stuck on that page; the walk of
the statements ends there.
"""

from collections import defaultdict
from collections.abc import Iterable

from jotgate.core.common.today import Today
from jotgate.core.conditions.condition import Condition
from jotgate.core.document.questionnaire import Page
from jotgate.core.items import SHOWN, Carried, Computed, Item, Roster, ShortText
from jotgate.core.items.carried import Constant
from jotgate.core.proof.answers import one_valued
from jotgate.core.proof.asking import Asking, Encoding
from jotgate.core.proof.cells import Cell, Cells
from jotgate.core.proof.gates import FALSE, TRUE
from jotgate.core.publishing.condition_faults import VISITOR
from jotgate.core.walking.plan import Plan
from jotgate.core.walking.prefill import as_raw


def encode(plan: Plan, today: Today, apart: bool = False) -> Encoding:
    """The statements of `plan`; `apart` makes each condition one that can be set aside."""
    encoder = Encoder(plan, today, apart)
    encoder.all()
    return encoder.made


class Encoder(Asking):
    def __init__(
        self, plan: Plan, today: Today, apart: bool, also: Iterable[Condition] = ()
    ) -> None:
        super().__init__(plan, today, apart, also)
        self.arrivals: dict[int, list[int]] = defaultdict(list)
        self.finishes: dict[str, list[int]] = defaultdict(list)

    def all(self) -> None:
        self._arriving()
        pages = self.plan.questionnaire.pages
        onward = TRUE
        for number, page in enumerate(pages):
            arrive = self.gates.either(onward, *self.arrivals[number])
            onward = self._page(page, arrive)
        first = self.plan.questionnaire.finishes[0].key
        self.finishes[first].append(onward)
        for finish in self.plan.questionnaire.finishes:
            ends = self.gates.either(*self.finishes[finish.key])
            self.made.goals["finish", f"finishes/{finish.key}"] = ends
        opened = [literal for one in self.made.every() for literal in one.loose]
        if opened:
            self.made.closed = self.gates.fresh()
            for one in opened:
                self.gates.never(self.made.closed, one)

    def _arriving(self) -> None:
        """Carried values, and the facts of the visitor."""
        for item in self.plan.carried:
            if item.arrives:
                self._arrived(item, TRUE)
        for key in self.subjects.leaves:
            if VISITOR.fullmatch(key):
                fact = ShortText.model_construct(kind="short_text", key=key, text={})
                cells = self._cells(fact)
                self.made.answers[key] = one_valued(self.gates, TRUE, FALSE, cells)

    def _arrived(self, item: Carried, active: int) -> None:
        sure = item.required and (item.can_be_asked or item.when_wrong == "refuse")
        must, cells = TRUE if sure else FALSE, self._cells(item)
        if not item.can_be_asked and not item.sources:
            cells = Cells(())
        elif not item.can_be_asked and isinstance(item.sources[0], Constant):
            must, raw = TRUE, as_raw(item, item.sources[0].value)
            cells = Cells((Cell(raw, raw),))
        elif not item.can_be_asked and {one.kind for one in item.sources} <= _OF_ITSELF:
            cells = Cells((Cell(None, None),))
        self.made.answers[item.key] = one_valued(self.gates, active, must, cells)

    def _page(self, page: Page, arrive: int) -> int:
        """Go over one page: whether the walk goes on to the next one."""
        at, gates, goals = f"pages/{page.key}", self.gates, self.made.goals
        holds = self._when(at, page.shown_when, self.made.answers)
        visit = gates.both(arrive, holds)
        passed = gates.both(arrive, -holds)
        goals["page", at] = visit
        self._told(at, page.shown_when, arrive, holds)
        actives = [self._item(item, f"{at}/items/{item.key}", visit) for item in page.items]
        seen = [self._seen(*one) for one in zip(page.items, actives, strict=True)]
        goals["empty", at] = gates.both(visit, *(-one for one in seen))
        stuck = [self.made.answers[one.key].stuck for one in page.items if one.kind not in SHOWN]
        broken = []
        for number, check in enumerate(page.checks, start=1):
            place = f"{at}/checks/{number}"
            when = self._when(place, check.when, self.made.answers)
            self._told(place, check.when, visit, when)
            found = self._crossed(check, self.made.answers)
            broken.append(self._apart(f"{place}/broken", gates.both(visit, when, found)))
        leave = gates.both(visit, *(-one for one in [*stuck, *broken]))
        goals["left", at] = leave
        return gates.either(self._leave(page, at, leave), passed)

    def _leave(self, page: Page, at: str, leave: int) -> int:
        still = leave
        for number, skip in enumerate(page.skips, start=1):
            place = f"{at}/skips/{number}"
            holds = self._when(place, skip.when, self.made.answers)
            self.made.goals["matches", place] = self.gates.both(leave, holds)
            fires = self.gates.both(still, holds)
            self.made.goals["fires", place] = fires
            self.made.goals["false", place] = self.gates.both(still, -holds)
            still = self.gates.both(still, -holds)
            if skip.to.kind == "finish":
                self.finishes[skip.to.finish].append(fires)
            else:
                self.arrivals[self.plan.page_numbers[skip.to.page]].append(fires)
        self.made.goals["straight", at] = still
        return still

    def _seen(self, item: Item, active: int) -> int:
        """Whether a visitor sees something of an item that counts where `active` holds."""
        if not isinstance(item, Carried):
            return FALSE if isinstance(item, Computed) and not item.visible else active
        if not item.is_seen or item.shown == "changeable":
            return active if item.is_seen else FALSE
        has_one = self.made.answers[item.key].answered
        locked = self.gates.both(active, has_one) if item.shown == "locked" else FALSE
        if not item.can_be_asked:
            return locked
        # It is asked where none came. One that is there may have come, or have been answered.
        none_came = self.gates.fresh()
        self.gates.some((has_one, none_came))
        return self.gates.both(active, self.gates.either(locked, none_came))

    def _item(self, item: Item, at: str, visit: int) -> int:
        """One item of a page: whether it is shown."""
        holds = self._when(at, item.shown_when, self.made.answers)
        active = self.gates.both(visit, holds)
        self._told(at, item.shown_when, visit, holds)
        if isinstance(item, Carried):
            if not item.arrives:
                self._arrived(item, active)
            return active
        self.made.goals["item", at] = active
        if item.kind in SHOWN:
            return active
        answer = self._answer(item, at, active, self.made.answers)
        self.made.answers[item.key] = answer
        if answer.stuck != FALSE and not isinstance(item, Roster):
            self.made.goals["stuck", at] = answer.stuck
            self.made.goals["met", at] = self.gates.both(active, answer.must, -answer.stuck)
        return active


_OF_ITSELF = frozenset({"moment", "edition", "page"})
"""The sources of which nothing is known beforehand."""
