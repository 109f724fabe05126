"""The first page drawn before it is sent."""

import hashlib

from jotgate.ports.rendering import NOTHING, Rendered
from jotgate.services.context import Context


async def rendered(context: Context, data: str, shared: bool) -> Rendered:
    """The answering page that starts with `data` (JSON); NOTHING where that cannot be had soon.

    Where others will be shown the very same (`shared`), it is kept for them.
    """
    name = hashlib.blake2b(data.encode()).digest()
    found = context.pages_kept.find(name)
    if found is None:
        found = await context.rendering.render(data)
        if shared and found is not NOTHING:
            context.pages_kept.keep(name, found)
    return found
