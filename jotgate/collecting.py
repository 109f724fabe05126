"""How the garbage collector is set in processes that live long."""

import gc


def leave_what_is_there() -> None:
    """What exists by now stays, so it is not looked through again; what comes is looked
    through less often, since little of it is in cycles."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(20_000, 20, 50)
