"""Settings that cannot be used, or should not be: a sentence for each."""

import os
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest

from jotgate.local import checks
from jotgate.local import cluster as clusters
from jotgate.settings import ROOT, Settings
from tests.conftest import KEY


def settings(where: str, tmp_path: Path, **changes: Any) -> Settings:
    fine: dict[str, Any] = {
        "database_url": where,
        "key_store_url": where.rpartition("/")[0] + "/keys",
        "keys": (KEY,),
        "public_url": "https://answers.example.org",
        "files": tmp_path / "files",
        "mail_room": tmp_path,
    }
    return Settings(**{**fine, **changes})


def test_what_is_fine(database_url: str, tmp_path: Path) -> None:
    assert checks.look(settings(database_url, tmp_path)) == []


WRONG: dict[str, tuple[dict[str, Any], bool]] = {
    "JOTGATE_KEYS has no key": ({"keys": ()}, True),
    "Key 2 of JOTGATE_KEYS": ({"keys": (KEY, "x")}, True),
    "JOTGATE_PUBLIC_URL is not an address": ({"public_url": "answers.example.org"}, True),
    "JOTGATE_PUBLIC_URL has a path": ({"public_url": "https://example.org/answers"}, True),
    "nobody could sign in": ({"public_url": "http://answers.example.org"}, True),
    "can be read on the way": (
        {"public_url": "http://answers.example.org", "secure_cookies": False},
        False,
    ),
    "The front end is not built": ({"web": Path("/nowhere")}, True),
    "cannot be written to": ({"files": Path(__file__) / "files"}, True),
    "JOTGATE_MAIL_FROM is not a sender": ({"mail_from": "Office"}, True),
    "No mail server answers": ({"mail_room": None, "smtp_port": 1}, False),
    "The identity provider lacks JOTGATE_OIDC_CLIENT_ID": (
        {"oidc_name": "P", "oidc_issuer": "https://id.example.org", "oidc_client_secret": "x"},
        True,
    ),
    "JOTGATE_OIDC_ISSUER is not over HTTPS": (
        {
            "oidc_name": "P",
            "oidc_issuer": "http://id.example.org",
            "oidc_client_id": "c",
            "oidc_client_secret": "x",
        },
        True,
    ),
    "the database does not answer": (
        {"database_url": "postgresql+psycopg://nobody@127.0.0.1:1/none"},
        True,
    ),
    "JOTGATE_KEY_STORE_URL names no database": ({"key_store_url": ""}, True),
    "JOTGATE_KEY_STORE_URL: the key service does not answer": (
        {"key_store_url": "http://127.0.0.1:1"},
        True,
    ),
    "JOTGATE_KEY_STORE_URL is not over HTTPS": ({"key_store_url": "http://keys.example.org"}, True),
    "JOTGATE_KEY_STORE_URL: the database does not answer": (
        {"key_store_url": "postgresql+psycopg://nobody@127.0.0.1:1/none"},
        True,
    ),
}


@pytest.mark.parametrize("says", WRONG)
def test_what_is_wrong(database_url: str, tmp_path: Path, says: str) -> None:
    changes, fatal = WRONG[says]
    found = checks.look(settings(database_url, tmp_path, **changes))
    assert any(says in one.says and one.fatal is fatal for one in found), found


def test_a_database_that_nobody_has_migrated(cluster: Any, tmp_path: Path) -> None:
    name = f"bare_{os.getpid()}"
    clusters.create_database(cluster, name)
    found = checks.look(settings(cluster.url(name), tmp_path, key_store_url=cluster.url(name)))
    assert len(found) == 2
    assert all("python -m jotgate migrate" in one.says for one in found)


def test_the_command_says_it(tmp_path: Path) -> None:
    def run(*arguments: str, **given: str) -> "subprocess.CompletedProcess[str]":
        return subprocess.run(
            [sys.executable, "-m", "jotgate", *arguments],
            cwd=ROOT,
            env={**os.environ, **given},
            capture_output=True,
            text=True,
        )

    done = run("check", JOTGATE_PORT="many", JOTGATE_SMTP_TLS="perhaps")
    assert done.returncode == 1
    assert "JOTGATE_PORT" in done.stdout
    assert "JOTGATE_SMTP_TLS" in done.stdout
    served = run(
        "serve",
        "--port=1",
        JOTGATE_DATA=str(tmp_path),
        JOTGATE_KEYS='["x"]',
        JOTGATE_DATABASE_URL="postgresql+psycopg://x@127.0.0.1:1/x",
    )
    assert served.returncode == 1
    assert "bin/serve: The settings cannot be used" in served.stderr
    assert "Key 1 of JOTGATE_KEYS is not a Fernet key." in served.stderr
    assert "Traceback" not in served.stderr
