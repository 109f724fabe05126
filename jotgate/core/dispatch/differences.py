"""What a change of rules means for an entry: what would be done no more, and what anew."""

from dataclasses import dataclass, replace

from jotgate.core.dispatch.effects import Effect, Place, Planned

_ANYWHERE = Place("", 0)


@dataclass(frozen=True)
class Difference:
    """The rules that catch it before and after, and the effects that only one of both has, wherever
    they stand in the rules."""

    caught_before: str | None
    caught_after: str | None
    gone: tuple[Effect, ...]
    new: tuple[Effect, ...]


def difference(before: Planned, after: Planned) -> Difference | None:
    """None where the same is done, whichever rule does it."""
    gone = _without(before.effects, after.effects)
    new = _without(after.effects, before.effects)
    if not gone and not new:
        return None
    return Difference(before.caught_by, after.caught_by, gone, new)


def _without(effects: tuple[Effect, ...], others: tuple[Effect, ...]) -> tuple[Effect, ...]:
    """Those of `effects` that are not among the others, each of which stands for one."""
    left = [replace(one, at=_ANYWHERE) for one in others]
    found = []
    for effect in effects:
        somewhere = replace(effect, at=_ANYWHERE)
        if somewhere in left:
            left.remove(somewhere)
        else:
            found.append(effect)
    return tuple(found)
