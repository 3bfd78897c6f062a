"""The command line, run in this process: a start of its own takes longer than what it does."""

from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from typer.testing import CliRunner, Result

from deriva.cli import app


def deriva(url: str, *arguments: str | Path, given: str = "", **settings: str) -> Result:
    """Run the command line, in a thread of its own: in this one a browser may have left its loop."""
    known = {"DERIVA_DATABASE_URL": url} | settings
    with ThreadPoolExecutor(1) as thread:
        return thread.submit(
            CliRunner().invoke, app, [str(one) for one in arguments], env=known, input=given
        ).result()
