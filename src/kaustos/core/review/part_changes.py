"""Which fields change the printed part, and what of it has to be proven anew; all others undo no proof.

Every field of everything that a recipe is judged with stands in one of the two tables.
"""

from collections.abc import Mapping

ANEW = {  # what falls, and with which evidence
    "strength": "strength: specimens, hand tests, tones",
    "size": "sizes",
    "underside": "its faces",
    "hold": "its hold on the plate",
    "after": "what the anneal makes of it; prints before it stand",
}
WELDS, ALL = ("strength", "size"), ("strength", "size", "underside", "hold")
CHANGES: Mapping[str, tuple[str, ...]] = {
    "polymer": ALL,
    "plate.bed_c": ("hold", "underside", "size"), "plate.anchor": ("hold", "underside"),
    "plate.brim_mm": ("hold",), "plate.raft_mm": ("hold", "underside"), "plate.copies": WELDS, "plate.clips": ("hold",),
    "plate.coats": ("hold", "underside"), "plate.release": ("hold", "size"),
    "first_layer.bed_c": ("hold", "underside"), "first_layer.nozzle_c": ("hold", "underside"),
    "first_layer.gap_mm": ("hold", "underside"), "first_layer.height_mm": ("hold", "underside"),
    "first_layer.width_mm": ("hold", "underside"), "first_layer.speed_mm_s": ("hold", "underside"),
    "first_layer.slow_layers": ("hold",),
    "melt.nozzle_c": WELDS, "melt.infill_pct": WELDS, "melt.height_mm": WELDS, "melt.width_mm": WELDS,
    "melt.speed_mm_s": WELDS, "melt.walls": WELDS, "melt.multiplier": WELDS,
    "heat.chamber_c": WELDS, "heat.fan_pct": WELDS, "heat.least_layer_s": WELDS, "heat.soak_min": ("hold", "size"),
    "supports.way": ("underside",), "supports.material": ("underside",), "supports.from_deg": ("underside",),
    "supports.gap_mm": ("underside",), "supports.filled_pct": ("underside",), "supports.contact_only": ("underside",),
    "supports.bath_c": WELDS,
    "anneal.steps": ("after",), "anneal.where": ("after",), "anneal.packed": ("after",), "anneal.pack_mm": ("after",),
    "anneal.cool_k_h": ("after",), "anneal.out_c": ("after",),
    "machine.id": ALL, "machine.nozzle.sensor.kind": WELDS, "machine.nozzle.sensor.table": WELDS,
    "machine.plate.sensor.kind": ("hold", "size"), "machine.plate.sensor.table": ("hold", "size"),
    "machine.chamber.sensor.kind": WELDS, "machine.chamber.sensor.table": WELDS,
    "machine.enclosure.kind": WELDS, "machine.enclosure.fan": WELDS, "machine.stack": ("hold", "size"),
    "lot.grade": ALL, "lot.polymer": ALL, "lot.filler": WELDS, "lot.recycled": WELDS, "lot.diameter": WELDS,
    "nozzle.bore_mm": WELDS, "nozzle.material": WELDS, "nozzle.edge": WELDS, "nozzle.finish": WELDS,
    "plate.surface": ("hold", "underside"), "plate.film": ("hold", "underside"),
    "agent.agent": ("hold", "underside"), "agent.solids_pct": ("hold",),
    "bath.material": ("underside",), "oven.id": ("after",),
    "part.shape": ALL, "part.scale": ALL, "part.turned": ALL, "part.decided": ("underside",),
    "job.moves_sha256": ALL,
}  # fmt: skip
NEVER: Mapping[str, str] = {  # whole records and sections, or fields of those above, with the reason
    "name": "a name", "brief": "what is wanted of the part", "rules": "what the shop asks for",
    "stock": "a plan; how dry the filament was stands with each run", "dryer": "the same",
    "plate.apart_mm": "a plan of the plate", "first_layer.look_by": "a person",
    "melt.pause_min": "what came of a pause stands with each run", "supports.contrast": "a colour",
    "supports.bath_ml": "how much bath, not what it does", "anneal.wall_mm": "a measure of the part",
    "anneal.joint_mpa": "a test", "anneal.joint_wanted_mpa": "a wish", "anneal.cure_h": "of a joint",
    "anneal.patch": "of the paint",
    "machine": "what it reaches and costs; what is changed on it is logged, and counts by the part that changed",
    "lot": "what is known of the spool; another of its grade wants a coupon",
    "nozzle": "what is known of it, and its price",
    "plate.id": "one of its kind", "plate.name": "a name", "plate.fits_on": "where it fits",
    "plate.size_x_mm": "its room", "plate.size_y_mm": "its room", "plate.thick_mm": "known of it",
    "plate.held": "known of it",
    "plate.stands_c": "known of it", "plate.backing_c": "known of it", "plate.cleaned": "its state",
    "plate.film_coats": "its state", "plate.film_prints": "its state", "plate.prints": "its state",
    "plate.renewed_prints": "its state", "plate.coating": "its state", "plate.step": "its state",
    "plate.step_utc": "its state", "plate.test_only": "a wish", "plate.price": "a price",
    "plate.installed_utc": "a date", "plate.damages": "its state", "plate.retired": "a list",
    "agent": "a bottle of its kind", "bath": "a tank of its kind", "oven": "known of it",
    "part": "a name; what is asked of its faces, and where it came from", "job": "what is read from its moves",
}  # fmt: skip


def changed_by(path: str) -> tuple[str, ...]:
    """What another value of a field changes of the printed part.

    Parameters
    ----------
    path : str
        As a recipe sees it, such as melt.nozzle_c or machine.enclosure.fan [-]

    Returns
    -------
    tuple of str
        Keys of ANEW; empty where the part stays what it is [-]

    Examples
    --------
    >>> changed_by("anneal.steps.0.hold_h"), changed_by("machine.rate_per_h")
    (('after',), ())
    """
    parts = path.removeprefix("context.").split(".")
    chosen = f"{parts[0]}.id" if path.startswith("context.") and len(parts) == 1 else ""
    if chosen in CHANGES:
        return CHANGES[chosen]
    for count in range(len(parts), 0, -1):
        head = ".".join(parts[:count])
        if head in CHANGES or head in NEVER:
            return CHANGES.get(head, ())
    return ALL  # of a field that nobody has put into a table nothing is taken for granted
