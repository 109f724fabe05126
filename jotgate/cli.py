"""The commands: `python -m jotgate COMMAND`."""

import asyncio
import shutil
import signal
import threading
from collections.abc import Callable
from pathlib import Path
from typing import Annotated

import typer

from jotgate import logs
from jotgate.local import checks
from jotgate.local.cluster import SetupError
from jotgate.local.installation import (
    Installation,
    bring,
    data_folder,
    open_for_use,
    open_installation,
    start_processes,
)
from jotgate.local.processes import port_is_free
from jotgate.local.running import keep_running, stopped_by_signal
from jotgate.settings import ROOT, Settings

app = typer.Typer(no_args_is_help=True, add_completion=False, pretty_exceptions_enable=False)


@app.command()
def demo(
    port: Annotated[int, typer.Option(help="The port to serve on.")] = 8000,
    fresh: Annotated[bool, typer.Option("--fresh", help="Throw the data away first.")] = False,
    watch: Annotated[bool, typer.Option("--watch", help="Start again what is edited.")] = False,
) -> None:
    """Start the database, the outside world, the worker and the application with demo data."""
    from jotgate.demo.load import ACCOUNTS, PASSWORD, PEOPLE, SAYS, load_once

    def open_it(folder: Path) -> Installation:
        if fresh and folder.exists():
            typer.echo(f"Throwing away {folder}")
            _clear(folder)
        typer.echo("Starting PostgreSQL")
        return open_installation(folder, port, people=PEOPLE)

    def greet(installation: Installation) -> None:
        if asyncio.run(load_once(installation.settings, typer.echo)):
            typer.echo("Demo data is in place")

    def tell(installation: Installation) -> None:
        typer.echo(f"\nJot Gate is at {installation.settings.public_url}\n")
        for email, name, _role in ACCOUNTS:
            typer.echo(f"  {email:<20} {name}: {SAYS[name]}")
        typer.echo(f"\n  The password of each is {PASSWORD}")
        bench = installation.settings.webhook_bench_port
        typer.echo(f"  What other systems are told lies at http://127.0.0.1:{bench}/")

    _run("bin/demo", port, open_it, greet, tell, watch=watch)


@app.command()
def serve(
    port: Annotated[int, typer.Option(help="The port to serve on.")] = 8000,
    host: Annotated[str, typer.Option(help="The address to listen on.")] = "127.0.0.1",
    mail_room: Annotated[
        bool, typer.Option("--mail-room", help="Keep letters in a simulated mail room.")
    ] = False,
) -> None:
    """Start everything for real use, without demo data, as the settings say."""

    def open_it(folder: Path) -> Installation:
        typer.echo("Looking at the settings")
        return open_for_use(folder, port, mail_room)

    def tell(installation: Installation) -> None:
        found = checks.look(installation.settings)
        if found:
            typer.echo(f"\nTo be looked at:\n{checks.told(found)}")
        typer.echo(f"\nJot Gate is at {installation.settings.public_url}")
        first = asyncio.run(_first_owner(installation.settings))
        if first:
            typer.echo(
                "\nNobody has an account yet. Make the owner's, within two days, at this address, "
                f"which works once:\n\n  {first}"
            )

    _run("bin/serve", port, open_it, lambda _: None, tell, host=host)


def _run(
    name: str,
    port: int,
    open_it: Callable[[Path], Installation],
    before: Callable[[Installation], None],
    tell: Callable[[Installation], None],
    host: str = "127.0.0.1",
    watch: bool = False,
) -> None:
    """Open an installation, start its processes, and keep them running until Ctrl C."""
    stop = stopped_by_signal()
    try:
        if not port_is_free(port):
            raise SetupError(f"Port {port} is in use. Choose another: {name} --port {port + 1}")
        installation = open_it(data_folder())
    except (SetupError, OSError) as trouble:
        raise SystemExit(f"{name}: {trouble}") from None
    processes = installation.processes()
    try:
        before(installation)
        typer.echo("Starting the processes")
        processes = start_processes(installation, host)
        tell(installation)
        typer.echo("\nCtrl C stops everything.")
        keep_running(installation, processes, stop, typer.echo, watch)
    except (SetupError, OSError) as trouble:
        raise SystemExit(f"{name}: {trouble}") from None
    finally:
        processes.stop()
        installation.stop()
        typer.echo("Stopped.")


async def _first_owner(settings: Settings) -> str | None:
    from jotgate.services.staff.accounts.one_time_links import first_owner
    from jotgate.wiring import open_context

    async with open_context(settings) as context:
        return await first_owner(context)


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
    where = (settings.smtp_host, settings.smtp_port, settings.reports_port)
    room = open_mail_room(settings.mail_room, *where)
    stop = threading.Event()
    signal.signal(signal.SIGTERM, lambda *_: stop.set())
    signal.signal(signal.SIGINT, lambda *_: stop.set())
    stop.wait()
    room.stop()


@app.command("reports")
def reports() -> None:
    """Take delivery reports about letters to contacts."""
    from jotgate.bounced import serve

    asyncio.run(serve(Settings()))


@app.command("key-service")
def key_service() -> None:
    """Serve the simulated key service, on this machine alone."""
    from jotgate.adapters.simulated.key_service import serve_keys

    settings = Settings()
    if settings.key_service is None or not settings.key_store_token:
        raise SystemExit("Set JOTGATE_KEY_SERVICE to a file, and JOTGATE_KEY_STORE_TOKEN.")
    serve_keys(settings.key_service, settings.key_store_token, settings.key_service_port)


@app.command("webhook-bench")
def webhook_bench() -> None:
    """Run the simulated receiver of calls."""
    from jotgate.adapters.simulated.webhook_bench import serve_bench

    settings = Settings()
    if settings.webhook_bench is None:
        raise SystemExit("Set JOTGATE_WEBHOOK_BENCH to the folder that takes the calls.")
    serve_bench(settings.webhook_bench, settings.webhook_bench_port)


@app.command("identity-provider")
def identity_provider() -> None:
    """Run the simulated identity provider."""
    from jotgate.adapters.simulated.identity_provider import serve_provider

    settings = Settings()
    if settings.identity_people is None:
        raise SystemExit("Set JOTGATE_IDENTITY_PEOPLE to a JSON file of names by address.")
    base = settings.public_url.rstrip("/")
    backs = (f"{base}/api/sign-in/provider/back", f"{base}/sign-in/back")
    serve_provider(settings.oidc_issuer, settings.identity_people, backs)


@app.command()
def migrate() -> None:
    """Bring the database to the newest schema, and give its roles what they need."""
    bring(Settings())


@app.command()
def check() -> None:
    """Look whether the settings can be used; a sentence for each thing that is wrong."""
    settings, found = checks.read()
    found = checks.look(settings) if settings else found
    typer.echo(checks.told(found) or "The settings can be used.")
    if any(one.fatal for one in found):
        raise SystemExit(1)


@app.command("first-owner")
def first_owner_link() -> None:
    """Print the one-time address at which the first account is made."""
    found = asyncio.run(_first_owner(Settings()))
    typer.echo(found or "There are accounts already. An owner invites others.")


@app.command("owner-link")
def owner_link(email: str) -> None:
    """Print a one-time address for an owner who has lost every way in; their second factor is
    taken away, and the trail says so."""
    from jotgate.services.staff.accounts.one_time_links import for_owner
    from jotgate.wiring import open_context

    async def made(settings: Settings) -> str | None:
        async with open_context(settings) as context:
            return await for_owner(context, email)

    found = asyncio.run(made(Settings()))
    if found is None:
        raise SystemExit("There is no owner with this address, or their account is closed.")
    typer.echo(found)


@app.command("check-trail")
def check_trail(
    number: Annotated[
        int, typer.Option(help="A row that was noted elsewhere before, with its hash.")
    ] = 0,
    hash: Annotated[str, typer.Option(help="The hash of that row, in hexadecimal.")] = "",
) -> None:
    """Look whether the trail is as it was written; tells its last row, to be kept elsewhere."""
    from jotgate.services.trail import check as look
    from jotgate.wiring import open_context

    async def looked(settings: Settings) -> tuple[int, str, str]:
        async with open_context(settings) as context:
            return await look(context, number, bytes.fromhex(hash))

    count, last, wrong = asyncio.run(looked(Settings()))
    if wrong:
        raise SystemExit(f"The trail does not hold after {count} rows: {wrong}")
    typer.echo(f"The trail holds: {count} rows. The last one: {last or 'none'}")


@app.command("rewrap-keys")
def rewrap_keys() -> None:
    """Encrypt the data keys with the first of the installation's keys, so that the others can be
    taken out of the settings."""
    from jotgate.wiring import open_context

    async def rewrapped(settings: Settings) -> int:
        async with open_context(settings) as context:
            return await context.data_keys.rewrap()

    typer.echo(f"Encrypted anew: {asyncio.run(rewrapped(Settings()))} data keys.")


@app.command("move-keys")
def move_keys(
    source: Annotated[str, typer.Argument(metavar="FROM")],
    token: Annotated[str, typer.Option(help="What a key service at FROM knows us by.")] = "",
) -> None:
    """Move the data keys from the key store at FROM to the one of the settings. Nothing may seal or
    open answers meanwhile: stop the application and the worker before."""
    from jotgate.adapters.data_keys import move
    from jotgate.wiring import open_key_store

    async def moved(settings: Settings) -> int:
        if not settings.key_store_url or settings.key_store_url == source:
            raise SystemExit("JOTGATE_KEY_STORE_URL has to name the key store to move them to.")
        stores = (
            open_key_store(source, token),
            open_key_store(settings.key_store_url, settings.key_store_token),
        )
        try:
            return await move(*stores)
        finally:
            for one in stores:
                await one.close()

    typer.echo(f"Moved: {asyncio.run(moved(Settings()))} data keys.")


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
