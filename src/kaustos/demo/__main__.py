"""``./demo``: opens the demo workspace, or takes pictures of it."""

import gc
import os
import sys
from datetime import UTC, datetime
from pathlib import Path
from typing import Annotated

import typer

from kaustos.core.errors import KaustosError

app = typer.Typer(add_completion=False, pretty_exceptions_enable=False, rich_markup_mode=None)


@app.command()
def main(
    shot: Annotated[Path | None, typer.Option(help="Take one picture and end")] = None,
    shots: Annotated[Path | None, typer.Option(help="Take the pictures of docs/screenshots/shots.toml and end")] = None,
    room: Annotated[str, typer.Option(help="recipe, revisions, settings or rules")] = "recipe",
    operation: Annotated[int, typer.Option(help="Number of the operation")] = 30,
    recipe: Annotated[str, typer.Option(help="Id of the recipe")] = "probe_head_shell",
    theme: Annotated[str, typer.Option(help="light or dark")] = "light",
    size: Annotated[str, typer.Option(help="Width x height")] = "1280x800",
    scale: Annotated[float, typer.Option(help="Pixels for each unit of length")] = 1.0,
    now: Annotated[str | None, typer.Option(help="The time it is taken to be, ISO 8601")] = None,
    fresh: Annotated[bool, typer.Option(help="Begin with a new copy of the demo")] = False,
) -> None:
    """Hollin Fell Instruments, a firm that does not exist."""
    try:
        moment = datetime.fromisoformat(now).astimezone(UTC) if now else datetime.now(UTC)
    except ValueError as error:
        typer.echo(f"--now {now}: is not a time such as 2026-03-02T08:00:00+00:00", err=True)
        raise typer.Exit(2) from error
    if shot or shots:
        os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
        os.environ["QT_SCALE_FACTOR"] = str(scale)
        from kaustos.demo.shots import Shot, take, take_listed

        try:
            if shots:
                take_listed(shots, moment)
            else:
                one = Shot(room=room, operation=operation, recipe=recipe, theme=theme, size=size)
                take({shot: one} if shot else {}, moment)
        except KaustosError as error:
            typer.echo(str(error), err=True)
            raise typer.Exit(2) from error
        return
    sys.exit(_open(moment, fresh=fresh))


def _open(moment: datetime, *, fresh: bool) -> int:
    from kaustos.demo.scenario import build

    gc.disable()  # until the first picture stands
    from kaustos.ui.main import run

    file = demo_file()
    if fresh:
        for each in file.parent.glob(file.name + "*"):
            each.unlink()
    if not file.exists():
        build(file, moment)
    return run(file)


def demo_file() -> Path:
    """Where the demo keeps its own copy between starts."""
    import platformdirs

    folder = Path(platformdirs.user_data_dir("kaustos"))
    folder.mkdir(parents=True, exist_ok=True)
    return folder / "demo.kaustos"


if __name__ == "__main__":
    if len(sys.argv) == 1:
        sys.exit(_open(datetime.now(UTC), fresh=False))
    app()
