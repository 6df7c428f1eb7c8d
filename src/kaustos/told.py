"""The one place where the command line turns errors into messages."""

from collections.abc import Iterator
from contextlib import contextmanager

import typer

from kaustos.core.errors import KaustosError


@contextmanager
def told() -> Iterator[None]:
    """Say what went wrong and end with 2; a closed pipe is nobody's fault."""
    try:
        yield
    except BrokenPipeError:
        raise
    except (KaustosError, OSError) as error:
        typer.echo(str(error), err=True)
        raise typer.Exit(2) from error
