"""Large questionnaires with much branching, made by chance, for measuring."""

from random import Random
from typing import Any

from jotgate.core.document.questionnaire import Questionnaire

PER_PAGE = 5
KINDS = ("yes_no", "pick_one", "pick_one", "pick_many", "number", "scale", "date", "short_text")


def branching(questions: int, rules: int, seed: int) -> Questionnaire:
    """`questions` on pages of five, with `rules` conditions and skip rules between them."""
    dice = Random(seed)
    items = [_item(f"q{number}", dice) for number in range(questions)]
    pages = [
        {
            "key": f"p{number}",
            "title": {"en": f"Page {number}"},
            "items": items[number * PER_PAGE : (number + 1) * PER_PAGE],
            "skips": [],
        }
        for number in range(questions // PER_PAGE)
    ]
    for _ in range(rules):
        _rule(pages, dice)
    finishes = [{"key": key, "title": {"en": key}} for key in ("done", "none", "other")]
    return Questionnaire.model_validate(
        {"title": {"en": "Large"}, "pages": pages, "finishes": finishes}
    )


def _item(key: str, dice: Random) -> dict[str, Any]:
    kind = dice.choice(KINDS)
    more: dict[str, Any] = {"required": dice.random() < 0.6}
    if kind.startswith("pick"):
        codes = "abcdef"[: dice.randint(2, 6)]
        more["options"] = [{"code": code, "label": {"en": code}} for code in codes]
    if kind == "number":
        more |= {"at_least": "0", "at_most": "100"}
    return {"kind": kind, "key": key, "text": {"en": key}, **more}


def _rule(pages: list[dict[str, Any]], dice: Random) -> None:
    """A condition on an item or a page, or a skip rule, about what is asked before it."""
    number = dice.randrange(1, len(pages))
    near = pages[max(0, number - 8) : number] if dice.random() < 0.7 else pages[:number]
    when = _condition([item for page in near for item in page["items"]], dice)
    what = dice.random()
    if what < 0.6:
        dice.choice(pages[number]["items"])["shown_when"] = when
    elif what < 0.7:
        pages[number]["shown_when"] = when
    elif number + 1 < len(pages):
        to: dict[str, str] = {"kind": "finish", "finish": dice.choice(["none", "other"])}
        if dice.random() < 0.8:
            later = dice.randrange(number + 1, min(number + 6, len(pages)))
            to = {"kind": "page", "page": f"p{later}"}
        pages[number]["skips"].append({"when": when, "to": to})


def _condition(known: list[dict[str, Any]], dice: Random) -> dict[str, Any]:
    if dice.random() < 0.6:
        return _leaf(dice.choice(known), dice)
    parts = [_leaf(dice.choice(known), dice) for _ in range(dice.randint(2, 3))]
    return {"op": dice.choice(["all", "any"]), "parts": parts}


def _leaf(one: dict[str, Any], dice: Random) -> dict[str, Any]:
    key = one["key"]
    match one["kind"]:
        case "yes_no":
            return {"op": "is", "item": key, "value": dice.random() < 0.5}
        case "pick_one":
            code = dice.choice(one["options"])["code"]
            return {"op": dice.choice(["is", "is_not"]), "item": key, "value": code}
        case "pick_many":
            return {"op": "includes", "item": key, "value": dice.choice(one["options"])["code"]}
        case "date":
            return {"op": "less_than", "item": key, "value": f"today-{dice.randint(0, 900)}"}
        case "short_text":
            return {"op": "answered", "item": key}
    value = str(dice.randint(1, 5 if one["kind"] == "scale" else 99))
    return {"op": dice.choice(["at_least", "at_most"]), "item": key, "value": value}
