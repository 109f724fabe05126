"""What mail systems send back about a letter (RFC 3464, RFC 5965), as the mail room makes it."""

from email.message import EmailMessage, Message
from email.mime.base import MIMEBase
from email.mime.multipart import MIMEMultipart
from email.mime.nonmultipart import MIMENonMultipart
from email.mime.text import MIMEText
from email.utils import formatdate, make_msgid

from jotgate.ports.mail import MailDoes

_STATUS: dict[MailDoes, tuple[str, str, str]] = {
    "no_address": ("failed", "5.1.1", "smtp; 550 5.1.1 No such mailbox here"),
    "full": ("failed", "5.2.2", "smtp; 552 5.2.2 Mailbox full"),
    "delay": ("delayed", "4.4.1", "smtp; 451 4.4.1 No answer from the next server"),
}


def report_about(letter: EmailMessage, to: str, back: str, does: MailDoes) -> Message:
    """The report about a letter that went to `to`, for the address `back`."""
    kind = "feedback-report" if does == "complain" else "delivery-status"
    whole = MIMEMultipart("report", report_type=kind)
    whole["From"] = "Mail system <mailer-daemon@mail-room.example>"
    whole["To"] = back
    whole["Subject"] = "What became of your letter"
    whole["Date"] = formatdate(usegmt=True)
    whole["Message-ID"] = make_msgid(domain="mail-room.example")
    whole["Auto-Submitted"] = "auto-replied"
    whole.attach(MIMEText(f"This is about your letter to {to}.\n"))
    whole.attach(_complaint(to) if does == "complain" else _status(to, does))
    head = MIMENonMultipart("text", "rfc822-headers")
    head.set_payload("".join(f"{name}: {value}\n" for name, value in letter.items()))
    whole.attach(head)
    return whole


def _status(to: str, does: MailDoes) -> MIMEBase:
    action, status, said = _STATUS[does]
    of_letter = Message()
    of_letter["Reporting-MTA"] = "dns; mail-room.example"
    of_reader = Message()
    of_reader["Final-Recipient"] = f"rfc822; {to}"
    of_reader["Action"] = action
    of_reader["Status"] = status
    of_reader["Diagnostic-Code"] = said
    part = MIMEBase("message", "delivery-status")
    part.set_payload([of_letter, of_reader])
    return part


def _complaint(to: str) -> MIMEBase:
    fields = Message()
    fields["Feedback-Type"] = "abuse"
    fields["User-Agent"] = "Mail room/1"
    fields["Version"] = "1"
    fields["Original-Rcpt-To"] = to
    part = MIMEBase("message", "feedback-report")
    part.set_payload([fields])
    return part
