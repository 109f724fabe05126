"""The commands: `python -m jotgate COMMAND`."""

import asyncio
import shutil
import signal
import threading
from pathlib import Path
from typing import Annotated

import typer

from jotgate import logs
from jotgate.local.cluster import SetupError
from jotgate.local.edits import watched
from jotgate.local.installation import data_folder, open_installation, start_processes
from jotgate.local.processes import port_is_free
from jotgate.settings import ROOT, Settings

app = typer.Typer(no_args_is_help=True, add_completion=False, pretty_exceptions_enable=False)


@app.command()
def demo(
    port: Annotated[int, typer.Option(help="The port to serve on.")] = 8000,
    fresh: Annotated[bool, typer.Option("--fresh", help="Throw the data away first.")] = False,
    watch: Annotated[bool, typer.Option("--watch", help="Start again what is edited.")] = False,
) -> None:
    """Start the database, the outside world, the worker and the application with demo data."""
    from jotgate.demo.load import ACCOUNTS, PASSWORD, SAYS, load_once

    folder = data_folder()
    stop = threading.Event()
    for number in (signal.SIGINT, signal.SIGTERM):
        signal.signal(number, lambda *_: stop.set())
    try:
        if not port_is_free(port):
            raise SetupError(f"Port {port} is in use. Choose another: bin/demo --port {port + 1}")
        if fresh and folder.exists():
            typer.echo(f"Throwing away {folder}")
            _clear(folder)
        typer.echo("Starting PostgreSQL")
        installation = open_installation(folder, port)
    except (SetupError, OSError) as trouble:
        raise SystemExit(f"bin/demo: {trouble}") from None
    processes = installation.processes()
    try:
        if asyncio.run(load_once(installation.settings, typer.echo)):
            typer.echo("Demo data is in place")
        typer.echo("Starting the application, the worker and the mail room")
        processes = start_processes(installation)
        typer.echo(f"\nJot Gate is at {installation.settings.public_url}\n")
        for email, name, _role in ACCOUNTS:
            typer.echo(f"  {email:<20} {name}: {SAYS[name]}")
        typer.echo(f"\n  The password of each is {PASSWORD}")
        typer.echo("\nCtrl C stops everything.")
        edited = watched(stop) if watch else threading.Event()
        while not stop.wait(0.5):
            if edited.is_set():
                edited.clear()
                typer.echo("Edited. Starting the application and the worker again")
                processes.renew("application", "worker")
            if not installation.cluster.runs():
                typer.echo("PostgreSQL has ended. Starting it again")
                installation = installation.with_cluster(installation.cluster.start_again())
            ended = processes.ended()
            if ended:
                typer.echo(f"The {ended} has ended. Starting it again")
                processes.start_again(ended)
    except (SetupError, OSError) as trouble:
        raise SystemExit(f"bin/demo: {trouble}") from None
    finally:
        processes.stop()
        installation.cluster.stop()
        typer.echo("Stopped.")


def _clear(folder: Path) -> None:
    """Throw an installation's folder away, unless its server is still running."""
    from jotgate.local.cluster import end_left_over

    end_left_over(folder / "postgres")
    shutil.rmtree(folder)


@app.command()
def worker() -> None:
    """Do what submissions have deferred."""
    from jotgate.worker import work

    settings = Settings()
    logs.set_up(settings.log_level)
    asyncio.run(work(settings))


@app.command("mail-room")
def mail_room() -> None:
    """Run the simulated mail server."""
    from jotgate.adapters.simulated.mail_room import open_mail_room

    settings = Settings()
    if settings.mail_room is None:
        raise SystemExit("Set JOTGATE_MAIL_ROOM to the folder that takes the mail.")
    room = open_mail_room(settings.mail_room, settings.smtp_host, settings.smtp_port)
    stop = threading.Event()
    signal.signal(signal.SIGTERM, lambda *_: stop.set())
    signal.signal(signal.SIGINT, lambda *_: stop.set())
    stop.wait()
    room.stop()


@app.command()
def migrate() -> None:
    """Bring the database to the newest schema."""
    from jotgate.store.migrate import migrate as bring

    bring(Settings().database_url)


@app.command()
def described(
    check: Annotated[
        bool, typer.Option("--check", help="Only tell whether they are true.")
    ] = False,
) -> None:
    """Write what is made from the code: descriptions, and what the front end knows of kinds."""
    from jotgate.described import files

    for target, text in files().items():
        if not check:
            target.write_text(text)
        elif target.read_text() != text:
            raise SystemExit(f"{target} is out of date: bin/fix")


@app.command()
def licences() -> None:
    """Write the page of the licences of all that ships into the built front end."""
    from jotgate.licences import written

    written(ROOT / "requirements.txt", Settings().web)
