"""The scenario's registers and dispatch rules: a register for each district, one for wells and one
for bottles, receipts, a notice to a crew, and bottles that nobody has sent out."""

from typing import Any
from uuid import UUID

from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.records.accounts import Account
from jotgate.core.registers.columns import Column, Register
from jotgate.demo.ways import DISTRICTS
from jotgate.services.context import Context
from jotgate.services.staff.dispatch import dispatch_rules, hooks
from jotgate.services.staff.registers import columns as columns_of
from jotgate.services.staff.registers import registers
from jotgate.services.staff.registers.columns import ColumnsGiven

SORT, WELLS, BOTTLES = "To sort by hand", "Wells", "Bottles"

USES = {
    "drinking": "Drinking and cooking",
    "washing": "Washing",
    "livestock": "Livestock",
    "garden": "Garden only",
}

HOUSEHOLD: tuple[dict[str, Any], ...] = (
    {"key": "name", "label": "Name"},
    {"key": "phone", "label": "Phone", "type": "phone"},
    {
        "key": "uses",
        "label": "Uses",
        "type": "pick_many",
        "options": [{"code": code, "label": label} for code, label in USES.items()],
    },
    {"key": "drinkers", "label": "Drinkers", "type": "number"},
    {"key": "visit", "label": "Wished for"},
    {"key": "kit", "label": "Kit"},
    {"key": "visit_on", "label": "Visit", "type": "date"},
    {"key": "sampler", "label": "Sampler", "type": "person"},
    {"key": "photo", "label": "Well head", "type": "files"},
    {"key": "arrived", "label": "Arrived", "type": "date_time"},
)
A_WELL: tuple[dict[str, Any], ...] = (
    {"key": "well", "label": "Well"},
    {"key": "household", "label": "Household"},
    {"key": "depth", "label": "Depth", "type": "number"},
    {"key": "district", "label": "District"},
)
A_BOTTLE: tuple[dict[str, Any], ...] = (
    {"key": "kit", "label": "Kit"},
    {"key": "household", "label": "Household"},
    {"key": "used", "label": "Answered", "type": "date_time"},
)
COLUMNS = {WELLS: A_WELL, BOTTLES: A_BOTTLE}


async def make_registers(context: Context, coordinator: Account) -> dict[str, Register]:
    """By name, those of the districts first; that of the Saltings is for cleared eyes too."""
    made = {}
    for name in (*DISTRICTS.values(), SORT, WELLS, BOTTLES):
        columns = [Column.model_validate(one) for one in COLUMNS.get(name, HOUSEHOLD)]
        made[name] = await registers.add(context, coordinator, name, columns)
    crew = made["Saltings"]
    given = ColumnsGiven(crew.revision, crew.name, crew.columns, clear=False, cleared=True)
    made[crew.name] = (await columns_of.put(context, coordinator, crew.id, given)).register
    return made


def _from(**names: str) -> dict[str, Any]:
    return {column: {"kind": "entry", "name": name} for column, name in names.items()}


def _file(register: Register, columns: dict[str, Any], **more: Any) -> dict[str, Any]:
    return {"kind": "file", "register_id": str(register.id), "columns": columns, **more}


def _household(register: Register) -> dict[str, Any]:
    plain = _from(name="name", phone="phone", uses="uses", drinkers="drinkers", kit="kit")
    plain |= _from(photo="photo")
    visit = {"visit": {"kind": "composed", "text": "{when|any time} from {from_day:short|now on}"}}
    kept = ("ill", "illness") if register.cleared else ()
    return _file(register, {**plain, **visit, **_from(arrived="entry.arrived")}, kept=kept)


def _wells(register: Register) -> dict[str, Any]:
    names = _from(well="well_name", household="name", depth="depth", district="district")
    return _file(register, names, per="wells")


PHONE = {"kind": "entry", "name": "phone"}
CREW = {
    "kind": "notice",
    "to": {"kind": "address", "address": "saltings-crew@example.org"},
    "subject": {"en": "Well check {entry_number}: {name}"},
    "body": {
        "en": "**{name}** in {district} asks for a visit, {when|at any time}.\n\n"
        "- Phone: {phone|none given}\n- Uses: {uses}\n- Kit: {kit|none yet}\n"
    },
    "printed": True,
}
RECEIPT = {
    "kind": "notice",
    "to": {"kind": "answer", "name": "email"},
    "subject": {
        "en": "Your well check, {entry_number}",
        "es": "Su control de pozo, {entry_number}",
        "ar": "فحص بئرك، {entry_number}",
    },
    "body": {
        "en": "Dear {name|neighbour},\n\nthank you. We have noted your answers under number "
        "**{entry_number}** on {entry.arrived:weekday}. A sampler will ring you {when|soon}.",
        "es": "Hola, {name|vecino}:\n\ngracias. Hemos anotado sus respuestas con el número "
        "**{entry_number}** el {entry.arrived:weekday}. Le llamaremos {when|pronto}.",
        "ar": "{name|جارنا العزيز}،\n\nشكرًا. سجلنا إجاباتك برقم **{entry_number}** "
        "يوم {entry.arrived:weekday}. سنتصل بك {when|قريبًا}.",
    },
    "whole": True,
    "quiet": {"start": "21:00", "end": "07:00"},
}


async def called(context: Context, coordinator: Account, id: UUID, bench: int | None) -> list[UUID]:
    """Two systems at the webhook bench, where there is one: of one nobody answers any more."""
    found = []
    for name, path in (("Laboratory", "calls"), ("Old laboratory", "gone")) if bench else ():
        address = f"http://127.0.0.1:{bench}/{path}"
        found.append((await hooks.add(context, coordinator, id, name, address)).hook.id)
    return found


def _rules(made: dict[str, Register], now: list[UUID] | None) -> Dispatch:
    """With what is sent and set now, and which systems are called; or as it was before: filing
    alone."""
    rules: list[dict[str, Any]] = []
    for code, name in DISTRICTS.items():
        acts = [_household(made[name]), *([CREW] if now is not None and code == "saltings" else [])]
        when = {"op": "is", "item": "district", "value": code}
        rules.append({"key": code, "when": when, "acts": acts})
    wells = {"op": "answered", "item": "wells"}
    rules.append({"key": "wells", "catches": False, "when": wells, "acts": [_wells(made[WELLS])]})
    if now is not None:
        rules += _now(made, now)
    return Dispatch.model_validate({"rules": rules, "otherwise": [_household(made[SORT])]})


def _now(made: dict[str, Register], called: list[UUID]) -> list[dict[str, Any]]:
    bottle = _from(kit="kit", household="name", used="entry.arrived")
    found = {"columns": ["kit"], "none": "ask", "several": "ask"}
    return [
        {
            "key": "bottles",
            "catches": False,
            "when": {"op": "answered", "item": "kit"},
            "acts": [
                _file(made[BOTTLES], bottle, matching=found),
                *({"kind": "call", "hook_id": str(one)} for one in called[:1]),
            ],
            "note": "Bottles are added to the register when they are sent out.",
        },
        {
            "key": "receipt",
            "catches": False,
            "acts": [RECEIPT, {"kind": "status", "status": "received"}],
        },
        {
            "key": "known",
            "catches": False,
            "when": {"op": "answered", "item": "contact.name"},
            "acts": [{"kind": "contact", "field": "phone", "source": PHONE}],
        },
        *(
            {
                "key": "old",
                "catches": False,
                "when": {"op": "includes", "item": "uses", "value": "livestock"},
                "acts": [{"kind": "call", "hook_id": str(one)}],
            }
            for one in called[1:]
        ),
        {
            "key": "weekend",
            "catches": False,
            "off": True,
            "when": {"op": "one_of", "item": "entry.weekday", "values": ["sat", "sun"]},
            "acts": [CREW],
            "note": "Only while the office is staffed on weekends.",
        },
    ]


async def set_rules(
    context: Context,
    coordinator: Account,
    id: UUID,
    made: dict[str, Register],
    now: list[UUID] | None = None,
) -> None:
    saved = await dispatch_rules.find(context, coordinator, id)
    rules = _rules(made, now).model_copy(update={"on_status": saved.rules.on_status})
    await dispatch_rules.save(context, coordinator, id, rules, saved.revision)
