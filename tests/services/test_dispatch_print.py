"""Letters with the entry in print, attached as a PDF."""

import io
from collections.abc import Sequence
from dataclasses import replace
from email import message_from_bytes, policy

from pypdf import PdfReader

from jotgate.adapters.smtp import Server, SmtpMail
from jotgate.ports.isolated import TookTooLong
from jotgate.ports.printing import Joined
from jotgate.services.context import Context
from tests.conftest import Post
from tests.core.dispatch.rules import notice
from tests.scenes import Scene
from tests.services.dispatching import arrived, ruled, send_all


class TooSlow:
    """Where nothing gets done in time."""

    async def pdf(self, html: str) -> bytes:
        raise TookTooLong

    async def picture(self, svg: str) -> bytes:
        raise TookTooLong

    async def joined(self, parts: Sequence[bytes], fronts: bool) -> Joined:
        raise TookTooLong

    def close(self) -> None: ...


async def test_a_letter_goes_without_the_pdf_that_takes_too_long(
    scene: Scene, context: Context, post: Post
) -> None:
    """And says so; the others have it, as letters of the mail standards."""
    await ruled(scene, otherwise=(notice("From {name}", printed=True),))
    await arrived(scene, "a", name="Ada")
    await send_all(context)
    await arrived(scene, "b")
    await send_all(replace(context, printing=TooSlow()))
    first, second = post.letters
    (pdf,) = first.attached
    assert pdf.name == "entry.pdf"
    read = PdfReader(io.BytesIO(pdf.data)).pages[0].extract_text()
    assert "Ada" in read
    written = SmtpMail(Server("", 0), "a@example.org").written(first)
    parsed = message_from_bytes(written.as_bytes(), policy=policy.default)
    (part,) = parsed.iter_attachments()
    assert (part.get_content_type(), part.get_filename()) == ("application/pdf", "entry.pdf")
    assert part.get_content() == pdf.data
    assert second.attached == ()
    assert "could not be attached" in second.body
    assert "could not be attached" in second.html
