"""Letters that the worker sends, asked for in the transaction that they belong to."""

from collections.abc import Mapping
from dataclasses import asdict, dataclass, replace
from email.utils import formataddr

import orjson

from jotgate.core.common.wording import say
from jotgate.core.office import Office
from jotgate.core.walking.plan import Plan
from jotgate.ports.mail import Letter
from jotgate.services import office
from jotgate.services.context import Context
from jotgate.store import letters
from jotgate.store.base import Connection


@dataclass(frozen=True)
class Written:
    """What is to be sent to whom."""

    to: str
    subject: str
    body: str


def worded(
    plan: Plan, to: str, language: str, words: Mapping[str, str], name: str, **slots: str
) -> Written:
    """A letter in our own `words` that is called `name`, about a questionnaire in a language of
    its."""
    document = plan.questionnaire
    title = say(document.title, language, document.first_language)
    return in_words(to, words, name, title=title, **slots)


def in_words(to: str, words: Mapping[str, str], name: str, **slots: str) -> Written:
    """A letter in our own `words` that is called `name`."""
    subject = " ".join(words[f"{name}_subject"].format(**slots).split())
    return Written(to, subject, words[f"{name}_body"].format(**slots))


async def ask(context: Context, conn: Connection, written: Written) -> None:
    """Have a letter sent once this transaction is committed; it waits sealed."""
    letter = {"id": str(context.ids.id()), **asdict(written)}
    sealed = context.cipher.seal(orjson.dumps(letter), "letter").decode("ascii")
    await letters.ask(conn, sealed, context.queue)


async def send(context: Context, sealed: str) -> None:
    """Send a letter that was asked for. Raises MailFailed, to be tried again later."""
    found = orjson.loads(context.cipher.open(sealed.encode("ascii"), "letter"))
    letter = Letter(found["id"], found["to"], found["subject"], found["body"])
    await context.mail.send(await from_office(context, letter))


async def from_office(context: Context, letter: Letter) -> Letter:
    """The letter with the office as its sender."""
    return sent_by(await office.current(context), letter)


def sent_by(office: Office, letter: Letter) -> Letter:
    sender = formataddr((office.name, office.sender)) if office.sender else ""
    return replace(letter, sender=sender, reply_to=office.reply_to)
