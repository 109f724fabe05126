"""The bare worker that dispatch is measured against: the same queue, the same row inserted and the
same letter sent, and nothing asked or decided."""

import asyncio
import json
import logging
import sys
from typing import Any

from psycopg import AsyncConnection
from psycopg_pool import AsyncConnectionPool

from jotgate.adapters.queue import queue_app
from jotgate.adapters.smtp import Server, SmtpMail
from jotgate.ports.mail import Letter
from jotgate.settings import Settings
from jotgate.worker import JOBS_AGAIN

INSERT = """insert into register_rows
    (register_id, values, questionnaire_id, entry_id, entry_number, filed)
    values (%(register_id)s, %(values)s, %(questionnaire_id)s, %(entry_id)s, %(number)s, now())"""


async def work(given: dict[str, Any]) -> None:
    """Insert `row` and send `letter` for each job."""
    settings = Settings()
    app = queue_app(settings.database_url)
    server = Server(settings.smtp_host, settings.smtp_port, tls="none")
    mail = SmtpMail(server, settings.mail_from)
    url = settings.database_url.replace("+psycopg", "", 1)
    pool: AsyncConnectionPool[AsyncConnection] = AsyncConnectionPool(url, open=False, min_size=4)
    await pool.open()

    @app.task(name="dispatch_entry")
    async def dispatch(questionnaire_id: str, entry_id: str) -> None:
        async with pool.connection() as conn:
            row = {**given["row"], "questionnaire_id": questionnaire_id, "entry_id": entry_id}
            await conn.execute(INSERT, row)
        await mail.send(Letter(f"bare-{entry_id}", **given["letter"]))

    async with app.open_async():
        await app.run_worker_async(
            concurrency=4,
            listen_notify=False,
            fetch_job_polling_interval=JOBS_AGAIN,
            delete_jobs="successful",
        )


if __name__ == "__main__":
    logging.basicConfig(level=logging.WARNING)
    asyncio.run(work(json.loads(sys.argv[1])))
