"""Verbs of annealing and proof: the programme an oven runs, curves and tones judged, the report of the evidence."""

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from kaustos.core.errors import KaustosError
from kaustos.told import told

if TYPE_CHECKING:
    from kaustos.app.workspace import Workspace

WorkspaceArgument = Annotated[Path, typer.Option("--workspace", help="Workspace file to read")]
RecipeArgument = Annotated[str, typer.Argument(help="Id of a recipe in the workspace")]
HEADINGS = ("hour", "air", "what")


def add_verbs(app: typer.Typer) -> None:
    """Give the command line these verbs."""
    for name, verb in (("anneal", anneal), ("specimen", specimen), ("tone", tone), ("evidence", evidence),
                       ("labels", labels)):  # fmt: skip
        app.command(name)(verb)


def anneal(recipe: RecipeArgument, workspace: WorkspaceArgument) -> None:
    """Print the programme of a recipe's anneal, its holds counted from the core, and what it leaves; tab-separated."""
    from kaustos.app.workspace import reading
    from kaustos.core.review.anneal import anneal_case

    with told(), reading(workspace) as opened:
        _open(opened, recipe)
        case = anneal_case(opened.draft.records.card.recipe, opened.context())
        found, wording = case.found, opened.draft.wording
        if found is None:
            raise KaustosError(f"{recipe}: has no programme, or its thickest section or heat data are not known")
        typer.echo("\t".join(HEADINGS))
        for place, (hours, celsius) in enumerate(zip(found.nodes_h, found.nodes_c, strict=True)):
            what = "cold" if place == 0 else "ramp ends" if place % 2 else "hold ends, core was there"
            last = place >= len(found.nodes_h) - 2
            what = "cooled" if place == len(found.nodes_h) - 2 else "taken out" if last else what
            typer.echo("\t".join((f"{hours:.2f}", wording.value(round(celsius, 1), "temperature"), what)))
        stress = found.stress_at_end
        typer.echo(f"stress left\t{stress.value:.0%}\t{stress.low:.0%} to {stress.high:.0%}")
        crystals = found.crystals_at_end
        if crystals is not None:
            typer.echo(f"crystals\t{crystals.value:.0%}\t{crystals.low:.0%} to {crystals.high:.0%}")


def specimen(
    files: Annotated[list[Path], typer.Argument(help="Curves as CSV, one specimen each")],
    width: Annotated[float, typer.Option(help="Width as measured [mm]")],
    thick: Annotated[float, typer.Option(help="Thickness as measured [mm]")],
    gauge: Annotated[float | None, typer.Option(help="Length that the travel belongs to [mm]")] = None,
    compliance: Annotated[float | None, typer.Option(help="Of machine and grips [mm/N]")] = None,
) -> None:
    """Judge pulled specimens: strength, modulus, strain at break, and the interval of their mean; tab-separated."""
    from kaustos.core.planning.specimens import Curve, group_of, pulled
    from kaustos.formats.curve_file import read_curve

    def said(value: float | None, unit: str) -> str:
        return "" if value is None else f"{value:.2f} {unit}"

    with told():
        strengths = []
        for file in files:
            read = read_curve(file)
            force = read.newtons(width * thick)
            found = pulled(Curve(force_n=force, travel_mm=read.travel_mm, strain=read.strain, width_mm=width,
                                 thick_mm=thick, gauge_mm=gauge, compliance_mm_n=compliance))  # fmt: skip
            strengths.append(found.strength_mpa)
            cells = (read.name, said(found.strength_mpa, "MPa"), said(found.modulus_mpa, "MPa"),
                     said(found.break_pct, "%"), "; ".join(found.says))  # fmt: skip
            typer.echo("\t".join(cells))
        group = group_of(strengths)
        band = "one specimen: no interval" if group.low is None else f"{group.low:.2f} to {group.high:.2f} MPa"
        typer.echo(f"mean of {group.count}\t{group.mean:.2f} MPa\t{band}")


def tone(
    file: Annotated[Path, typer.Argument(help="WAV recording of one tap")],
    length: Annotated[float, typer.Option(help="Of the bar [mm]")],
    width: Annotated[float, typer.Option(help="Of the bar [mm]")],
    thick: Annotated[float, typer.Option(help="Of the bar [mm]")],
    mass: Annotated[float, typer.Option(help="Of the bar [g]")],
    edge: Annotated[bool, typer.Option("--edge", help="Tapped on its narrow face")] = False,
) -> None:
    """Judge a recording of a tapped bar: tone, decay, stiffness with its band; tab-separated."""
    from kaustos.core.planning.tone import Bar, stiffness_of, tone_of
    from kaustos.formats.recording import read_recording

    with told():
        recording = read_recording(file)
        found = tone_of(recording.samples, recording.rate_hz)
        bar = Bar(length_mm=length, width_mm=width, thick_mm=thick, mass_g=mass, direction="edge" if edge else "flat")
        stiff = stiffness_of(bar, found.hz, found.doubt_hz)
        typer.echo(f"tone\t{found.hz:.1f} Hz\t± {found.doubt_hz:.1f} Hz{', cut: tap softer' if found.clipped else ''}")
        typer.echo(f"rings\t{1e3 * found.decay_s:.0f} ms\tuntil it has fallen to a third")
        typer.echo(f"stiffness\t{stiff.value:.0f} MPa\t{stiff.low:.0f} to {stiff.high:.0f} MPa")


def evidence(
    recipe: RecipeArgument,
    workspace: WorkspaceArgument,
    output: Annotated[Path | None, typer.Option("--pdf", help="Where to write the report")] = None,
) -> None:
    """Print what a recipe's release rests on and what it lacks; or write the report of its evidence as PDF."""
    from kaustos.app.evidence import ladder_rows, pull_words, release_words, size_rows, tone_rows
    from kaustos.app.evidence_report import write_report
    from kaustos.app.workspace import reading

    with told(), reading(workspace) as opened:
        _open(opened, recipe)
        context, review = opened.judged()
        if output is not None:
            typer.echo(write_report(opened, context, review, output))
            return
        typer.echo(release_words(opened, review))
        for rows in (ladder_rows(context, opened), size_rows(context, opened), tone_rows(context, opened)):
            for row in rows:
                typer.echo("\t".join(row))
        typer.echo(pull_words(context, opened))


def labels(
    recipe: RecipeArgument, output: Annotated[Path, typer.Argument(help="Where to write them, as PDF")],
    workspace: WorkspaceArgument,
    parts: Annotated[int | None, typer.Option("--parts", help="So many labels of parts, with the use of each")] = None,
) -> None:  # fmt: skip
    """Write the labels of the specimens that a recipe wants, or of parts, each with a code that a camera reads."""
    from kaustos.app.part_labels import write_part_labels
    from kaustos.app.specimen_labels import write_labels
    from kaustos.app.workspace import reading

    with told(), reading(workspace) as opened:
        _open(opened, recipe)
        if parts is None:
            typer.echo(write_labels(opened, opened.context(), output))
        else:
            context, review = opened.judged()
            typer.echo(write_part_labels(opened, context, review, output, parts))


def _open(opened: "Workspace", recipe: str) -> None:
    if recipe not in opened.draft.records.cards:
        raise KaustosError(f"There is no recipe {recipe!r:.40}; known: {', '.join(opened.draft.records.cards)}")
    opened.draft.open_card(recipe)
