"""The command line: ``kaustos`` opens the window, its verbs work without one and load no Qt.

Exit codes of a review: 0 no stop finding, 3 at least one, 2 wrong usage or bad input.
"""

import contextlib
import io
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from kaustos import __version__
from kaustos.core.errors import KaustosError
from kaustos.proof_verbs import add_verbs
from kaustos.told import told

if TYPE_CHECKING:
    from kaustos.app.wording import Wording
    from kaustos.app.workspace import Workspace
    from kaustos.core.records import Run

app = typer.Typer(add_completion=False, no_args_is_help=False, pretty_exceptions_enable=False, rich_markup_mode=None)
library_app = typer.Typer(help="The shipped reference data.", rich_markup_mode=None)
app.add_typer(library_app, name="library")
add_verbs(app)

WorkspaceOption = Annotated[Path | None, typer.Option("--workspace", help="Workspace whose records ids refer to")]
MachineOption = Annotated[str | None, typer.Option("--machine", help="Judge on this machine instead")]


def run() -> int:
    """Run the command line; how it ended.

    What a terminal's encoding lacks is spelled out. Where nobody reads any more it ends without a word, where nothing
    can be written with one.
    """
    import os
    import sys

    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="backslashreplace")
    code = 0
    try:
        app()
    except SystemExit as end:
        code = end.code if isinstance(end.code, int) and end.code != 1 else 2  # 1: nobody reads any more
    except OSError as error:
        code = _not_printed(error)
    try:
        sys.stdout.flush()
    except OSError as error:
        code = _not_printed(error)
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())  # what is left unprinted goes nowhere
    return code


def _not_printed(error: OSError) -> int:
    if not isinstance(error, BrokenPipeError):
        with contextlib.suppress(OSError):
            typer.echo(f"What was to be printed could not be written: {error.strerror}", err=True)
    return 2


def _version(wanted: bool) -> None:
    if wanted:
        typer.echo(f"kaustos {__version__}")
        raise typer.Exit


@app.callback(invoke_without_command=True)
def window(
    context: typer.Context,
    version: Annotated[bool, typer.Option("--version", callback=_version, is_eager=True, help="Print it.")] = False,
    workspace: Annotated[Path | None, typer.Option(help="Workspace file to open")] = None,
) -> None:
    """Judge, record and plan print recipes. Without a verb the window opens."""
    if context.invoked_subcommand is None:
        from kaustos.ui.main import run

        with told():
            raise typer.Exit(run(workspace))


@app.command("review")
def review_command(
    files: Annotated[list[Path] | None, typer.Argument(help="Recipe files")] = None,
    as_json: Annotated[bool, typer.Option("--json", help="Print as a document, in °C with a decimal point")] = False,
    machine: MachineOption = None,
    workspace: WorkspaceOption = None,
    every: Annotated[bool, typer.Option("--all", help="All recipes of the workspace")] = False,
    only: Annotated[str | None, typer.Option(help="Only findings of one kind: stop or watch")] = None,
    table: Annotated[bool, typer.Option("--table", help="One line each, as with several files")] = False,
) -> None:
    """Judge recipe files or a whole workspace: 0 no stop finding, 3 at least one, 2 bad input."""
    from kaustos.app.report import (
        document_of,
        documents_of,
        lines_of,
        review_file,
        review_records,
        table_lines,
    )
    from kaustos.app.workspace import read_records
    from kaustos.core.review.contract import SEVERITIES
    from kaustos.core.review.experience import Tally, tallies
    from kaustos.formats.json_text import write_json

    with told():
        if only is not None and only not in SEVERITIES:
            raise KaustosError(f"--only: {only!r:.40} is no kind of finding; known: {', '.join(SEVERITIES)}")
        if every == bool(files):
            raise KaustosError("Name recipe files, or say --workspace FILE --all.")
        if every and workspace is None:
            raise KaustosError("--all needs --workspace FILE.")
        records = read_records(workspace) if workspace else None
        found = list(review_records(records, machine)) if every and records else []
    unread = 0
    for file in files or ():
        try:
            found.append(review_file(file, machine, records))
        except (KaustosError, OSError) as error:
            typer.echo(str(error), err=True)
            unread += 1
    for each in found:
        if each.is_newer:
            typer.echo(f"{each.source} was written by a newer version; it is read as far as it is known.", err=True)
    runs = tuple(records.runs.values()) if records else ()

    def experience(polymer: str) -> dict[str, Tally]:
        return tallies(run for run in runs if run.polymer == polymer)

    is_one = not every and len(files or ()) == 1
    if as_json and found:
        document = document_of(found[0], experience, only) if is_one else documents_of(found, experience, only)
        typer.echo(write_json(document), nl=False)
    elif found:
        lines = lines_of(found[0], _wording(), only) if is_one and not table else table_lines(found, _wording(), only)
        typer.echo("\n".join(lines))
    stops = any(each.findings("stop") for each in found)
    raise typer.Exit(2 if unread else 3 if stops else 0)


@app.command()
def sheet(
    file: Path,
    output: Annotated[Path, typer.Argument(help="Where to write it; .html or .pdf")],
    machine: MachineOption = None,
    workspace: WorkspaceOption = None,
    appendix: Annotated[bool, typer.Option("--appendix", help="With pictures, every figure and its source")] = False,
) -> None:
    """Make the sheet of a recipe file as HTML or PDF."""
    from kaustos.app.report import review_file
    from kaustos.app.sheet import sheet_content
    from kaustos.app.workspace import read_records, utc_now
    from kaustos.disk import write_whole
    from kaustos.formats.sheet import sheet_html, sheet_pdf

    with told():
        if output.suffix not in (".html", ".pdf"):
            raise KaustosError(f"{output}: must end in .html or .pdf")
        each = review_file(file, machine, read_records(workspace) if workspace else None)
        printed = utc_now().astimezone().strftime("%Y-%m-%d %H:%M")
        content = sheet_content(
            each.recipe, each.context, each.review, _wording(), revision=file.name, printed=printed, appendix=appendix
        )
        write_whole(output, sheet_pdf(content) if output.suffix == ".pdf" else sheet_html(content))


@app.command("export")
def export_command(
    folder: Annotated[Path, typer.Argument(help="Where to write; made where it is missing")],
    workspace: Annotated[Path, typer.Option("--workspace", help="Workspace file to read")],
) -> None:
    """Write every recipe as JSON, and all recipes, runs and lots as CSV."""
    from kaustos.app.tables import write_everything
    from kaustos.app.workspace import reading

    with told(), reading(workspace) as opened:
        folder.mkdir(parents=True, exist_ok=True)
        for file in write_everything(opened, folder):
            typer.echo(file)


@app.command("import")
def import_command(
    files: Annotated[list[Path], typer.Argument(help="Recipes as .json, recipes, runs or lots as .csv")],
    workspace: Annotated[Path, typer.Option("--workspace", help="Workspace file to write; made where it is missing")],
) -> None:
    """Bring recipes, runs and lots in, all files or none; nothing that is there is written over."""
    from kaustos.app.intake import take_all
    from kaustos.app.settings import load_settings, settings_file
    from kaustos.app.workspace import Workspace

    with told():
        opened = Workspace(workspace, load_settings(settings_file())[0])
        try:
            if opened.draft.read_only:
                raise KaustosError(opened.notice)
            words = take_all(opened, files)
        except BaseException:
            opened.close(discard=True)  # all or none
            raise
        opened.close()
        typer.echo(words)


@app.command("backups")
def backups_command(
    workspace: Annotated[Path, typer.Option("--workspace", help="Workspace file whose earlier states are listed")],
) -> None:
    """Print the earlier states kept beside a workspace, the newest first, tab-separated."""
    from kaustos.store import backups_of

    with told():
        for each in backups_of(workspace):
            typer.echo(f"{each.at.astimezone():%Y-%m-%d %H:%M}\t{each.why}\t{each.size}\t{each.file}")


@app.command("restore")
def restore_command(
    backup: Annotated[Path, typer.Argument(help="A copy or backup of a workspace")],
    workspace: Annotated[Path, typer.Option("--workspace", help="Workspace file that takes its state")],
) -> None:
    """Bring a workspace to the state of a copy; the state before is kept beside it."""
    from kaustos.app.restore import restore
    from kaustos.app.workspace import utc_now

    with told():
        typer.echo(restore(workspace, backup, utc_now()))


@app.command("orders")
def orders_command(
    workspace: Annotated[Path, typer.Option("--workspace", help="Workspace file to read")],
    every: Annotated[bool, typer.Option("--all", help="Also what there is enough of")] = False,
) -> None:
    """Print what filament is to be ordered for the runs still to come, tab-separated."""
    from kaustos.app.orders import HEADINGS, order_cells, order_list, order_total
    from kaustos.app.workspace import reading

    with told(), reading(workspace) as opened:
        wording = _wording()
        lines = order_list(opened)
        typer.echo("\t".join(HEADINGS))
        for line in lines:
            if every or line.order_g or line.coming_g:
                typer.echo("\t".join(order_cells(line, wording)))
        typer.echo(order_total(lines, wording))


@app.command("predictions")
def predictions_command(
    workspace: Annotated[Path, typer.Option("--workspace", help="Workspace file to read")],
    every: Annotated[bool, typer.Option("--all", help="Also each figure beside what was found")] = False,
) -> None:
    """Print how good what was foretold has been: bands that held, warnings that were right, tab-separated."""
    from kaustos.app.predictions import PAIR_HEADINGS, SCORE_HEADINGS, WARNING_HEADINGS, predictions_of
    from kaustos.app.workspace import reading

    with told(), reading(workspace) as opened:
        found = predictions_of(opened, _wording())
        tables = [(SCORE_HEADINGS, found.scores), (WARNING_HEADINGS, found.warnings)]
        for headings, rows in tables + ([(PAIR_HEADINGS, found.pairs)] if every else []):
            typer.echo("\t".join(headings))
            for row in rows:
                typer.echo("\t".join(row))
        typer.echo(found.unforetold)


def _run_of(opened: "Workspace", run: str) -> "Run":
    from kaustos.app.runs import number_of

    runs = opened.draft.records.runs
    found = next((each for key, each in runs.items() if run in (key, number_of(key))), None)
    if found is None:
        raise KaustosError(f"No run is {run!r:.40}; there are {len(runs)}.")
    return found


@app.command("after")
def after_command(
    run: Annotated[str, typer.Argument(help="Its number, or its id")],
    workspace: Annotated[Path, typer.Option("--workspace", help="Workspace file to read")],
) -> None:
    """Print what a run that went wrong points to, tab-separated, and the one trial that comes next."""
    from kaustos.app.causes import HEADINGS, after_run, booking_words
    from kaustos.app.workspace import reading

    with told(), reading(workspace) as opened:
        found = _run_of(opened, run)
        after, booked = after_run(opened, found), booking_words(opened, found)
        if after is None:
            typer.echo("Nothing was seen in this run that went wrong.")
        else:
            for row in (HEADINGS, *after.rows):
                typer.echo("\t".join(row))
            typer.echo(f"Next trial: {after.trial}")
            typer.echo(after.expected, nl=bool(after.expected))
        typer.echo(booked, nl=bool(booked))


@app.command("card")
def card_command(
    run: Annotated[str, typer.Argument(help="Its number, or its id")],
    workspace: Annotated[Path, typer.Option("--workspace", help="Workspace file to read")],
    output: Annotated[Path | None, typer.Option("--pdf", help="Where to write it as a page to print")] = None,
) -> None:
    """Print the steps of a run, what became of them, and what was seen where; tab-separated, or as a page."""
    from kaustos.app.cursor import along_run, spot_of, spot_words
    from kaustos.app.run_card import card_content, card_lines
    from kaustos.app.workspace import reading
    from kaustos.core.records import SEEN
    from kaustos.disk import write_whole
    from kaustos.formats.sheet import card_pdf

    with told(), reading(workspace) as opened:
        found = _run_of(opened, run)
        if output is not None:
            write_whole(output, card_pdf(card_content(opened, found)))
            return
        for line in card_lines(found):
            typer.echo("\t".join(line))
        along = along_run(opened, found)
        for seen in found.observations:
            spot = spot_of(along, seen) if along is not None else None
            where = spot_words(opened, spot, found) if spot is not None else "not known where"
            typer.echo("\t".join((SEEN[seen.what], where)))


@app.command("readings")
def readings_command(
    file: Annotated[Path, typer.Argument(help="A log of temperatures, CSV with a time and one column a sensor")],
    run: Annotated[str, typer.Argument(help="The run that it belongs to: its number, or its id")],
    workspace: Annotated[Path, typer.Option("--workspace", help="Workspace file to read")],
) -> None:
    """Print what the readings of a run say of each sensor and heater, tab-separated."""
    import attrs

    from kaustos.app.readings import HEADINGS, reading_of, readings_words, sensor_rows
    from kaustos.app.workspace import reading

    with told(), reading(workspace) as opened:
        found = _run_of(opened, run)
        read = attrs.evolve(found, sensors=reading_of(opened, found.id, file)())
        for row in (HEADINGS, *sensor_rows(read, _wording())):
            typer.echo("\t".join(row))
        typer.echo(readings_words(read, _wording()))


@app.command("job")
def job_command(
    file: Annotated[Path, typer.Argument(help="Job file (G-code)")],
    workspace: WorkspaceOption = None,
    machine: MachineOption = None,
) -> None:
    """Print what a job file says, tab-separated: hours with their band, filament, heats, layers, pauses, odd words."""
    from kaustos.app.jobs import job_lines, read_file
    from kaustos.app.workspace import read_records
    from kaustos.core.planning.motion import planned_of

    with told():
        machines = read_records(workspace).machines if workspace is not None else {}
        if machine is not None and machine not in machines:
            raise KaustosError(f"No machine is {machine!r:.40}; known: {', '.join(machines) or 'none'}.")
        for line in job_lines(read_file(str(file), file.name, planned_of(machines.get(machine or "")))):
            typer.echo("\t".join(line))


@app.command("weld")
def weld_command(
    file: Annotated[Path, typer.Argument(help="Recipe file")],
    machine: MachineOption = None,
    workspace: WorkspaceOption = None,
) -> None:
    """Print how strong layers hold together, and what each lever buys of it, the best first, tab-separated."""
    from kaustos.app.report import review_file
    from kaustos.app.welds import weld_lines
    from kaustos.app.workspace import read_records

    with told():
        records = read_records(workspace) if workspace else None
        for line in weld_lines(review_file(file, machine, records), _wording()):
            typer.echo(line)


@app.command("log")
def log_command(
    file: Annotated[Path, typer.Argument(help="A log of temperatures, CSV with a time and one column a sensor")],
    sensor: Annotated[str, typer.Option(help="Sensor that is fitted; the first where none is named")] = "",
    room: Annotated[float, typer.Option(help="Room temperature in °C")] = 21.0,
) -> None:
    """Print what a log of temperatures tells: each sensor, how far they stand apart, losses and capacity."""
    from kaustos.app.heat_log import SENSOR_HEADINGS, ReadHeatLog, fit_of, log_words, sensor_rows

    with told():
        wording = _wording()
        log = ReadHeatLog(file, None)()
        typer.echo("\t".join(SENSOR_HEADINGS))
        for row in sensor_rows(log, wording):
            typer.echo("\t".join(row))
        typer.echo(log_words(log, fit_of(log, sensor or next(iter(log.thin.readings)), room), wording))


@app.command("part")
def part_command(
    file: Annotated[Path, typer.Argument(help="A part: STL, 3MF or OBJ")],
    scale: Annotated[float, typer.Option(help="Factor on its size; 25.4 for inches")] = 1.0,
    down: Annotated[int | None, typer.Option(help="Side that lies down, by the number that is printed")] = None,
    workspace: WorkspaceOption = None,
    recipe: Annotated[str | None, typer.Option(help="Keep it with this recipe of the workspace")] = None,
) -> None:
    """Measure a part: size, volume, contact, walls, sides to lie on, what is wrong with its mesh."""
    from kaustos.app.parts import ReadPart, asked_now, keep_part, part_lines, read_scale
    from kaustos.app.worker import WORKER
    from kaustos.app.workspace import Workspace

    try:
        with told():
            if (recipe is None) != (workspace is None):
                raise KaustosError("--recipe and --workspace belong together.")
            read_scale(f"{scale:g}", _wording())
            found = ReadPart(file, scale, down)()
            for line in part_lines(found, _wording()):
                typer.echo(line)
            if workspace is not None and recipe is not None:
                opened = Workspace(workspace)
                try:
                    if recipe not in opened.draft.records.cards:
                        raise KaustosError(f"--recipe: {recipe!r:.60} is not in this workspace.")
                    opened.draft.open_card(recipe)
                    typer.echo(f"Kept as {keep_part(opened, found, asked_now(opened))}.")
                finally:
                    opened.close()
    finally:
        WORKER.stop()


@app.command("upgrade")
def upgrade_command(
    machine: Annotated[str, typer.Argument(help="Machine, by its id")],
    polymers: Annotated[list[str], typer.Argument(help="Polymers that it is to run, by their ids")],
    workspace: Annotated[Path, typer.Option("--workspace", help="Workspace file to read")],
) -> None:
    """Print the cheapest set of changes that lets a machine run some polymers, its bill, and what is out of reach."""
    from kaustos.app.upgrades import PLAN_HEADINGS, known_machine, known_polymers, outlook
    from kaustos.app.workspace import reading

    with told(), reading(workspace) as opened:
        found = outlook(opened, known_machine(opened, machine), known_polymers(opened, polymers), _wording())
        typer.echo("\t".join(PLAN_HEADINGS))
        for row in found.rows:
            typer.echo("\t".join(row))
        for words in found.words:
            typer.echo(words)


@app.command("simulate")
def simulate_command(
    port: Annotated[int, typer.Option(min=0, max=65535, help="Port on loopback; 0 lets the system choose")] = 0,
    celsius: Annotated[float, typer.Option(help="Setpoint to begin with")] = 60.0,
    looks: Annotated[int, typer.Option(help="End after so many looks; 0 goes on until it is stopped")] = 0,
) -> None:
    """Run a simulated dryer that speaks Modbus TCP and a scale beside it; print what they show every second."""
    import time
    from datetime import UTC, datetime

    from kaustos.app.simulation import start_simulation

    wording = _wording()
    with told():
        running = start_simulation(celsius, lambda: datetime.now(UTC), port=port)
        try:
            typer.echo(f"A simulated dryer listens on 127.0.0.1:{running.port}; Ctrl+C stops it.")
            count = 0
            while not looks or count < looks:
                entry, count = running.log.look(), count + 1
                typer.echo(entry.words(wording))
                if not looks or count < looks:
                    time.sleep(1.0)
        except KeyboardInterrupt:
            typer.echo("Stopped.")
        finally:
            running.stop()


@app.command("desktop")
def desktop_command() -> None:
    """Make the program known to this user's desktop: entry, icon, file type."""
    import os

    from kaustos.app.desktop import install

    with told():
        folder = Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share")
        for file in install(folder):
            typer.echo(file)


@library_app.command("export")
def library_export(
    as_json: Annotated[bool, typer.Option("--json", help="As JSON, the only form there is yet")] = False,
    workspace: Annotated[Path | None, typer.Option(help="With the polymers of this workspace's shop")] = None,
) -> None:
    """Print every polymer with every value, unit, range, kind of source and doubt."""
    from kaustos.formats.json_text import write_json
    from kaustos.formats.library_file import library_document
    from kaustos.library import load

    if not as_json:
        typer.echo("Say --json: there is no other form yet.", err=True)
        raise typer.Exit(2)
    with told():
        from kaustos.app.workspace import read_records

        polymers = read_records(workspace).polymers if workspace else load().polymers
        typer.echo(write_json(library_document(polymers)), nl=False)


@library_app.command("check")
def library_check(
    folder: Annotated[Path | None, typer.Argument(help="Folder with polymers/ and machines/")] = None,
    estimates: Annotated[bool, typer.Option("--estimates", help="Print every assumed constant instead")] = False,
) -> None:
    """Print the faults of the library, the share of estimates in it, and how many constants are assumed."""
    from kaustos.app.estimates import estimate_rows, estimates_document

    if estimates:
        typer.echo(estimates_document(), nl=False)
        return
    from kaustos.library import check
    from kaustos.library.loader import DATA

    with told():
        if folder is not None and not folder.is_dir():
            raise KaustosError(f"{folder}: there is no such folder")
    library, faults = check(folder or DATA)
    for fault in faults:
        typer.echo(fault)
    count = sum(len(polymer.values) for polymer in library.polymers.values())
    typer.echo(
        f"{len(library.polymers)} polymers, {len(library.machines)} machines, {count} values, "
        f"{library.share_of_estimates():.0%} estimates, {len(faults)} faults; {len(estimate_rows())} constants are "
        "assumed (--estimates lists them)"
    )
    raise typer.Exit(2 if faults else 0)


def _wording() -> "Wording":
    """Words under the settings of this user."""
    from kaustos.app.settings import load_settings, settings_file
    from kaustos.app.wording import Wording

    return Wording(load_settings(settings_file())[0])
