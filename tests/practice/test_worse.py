"""What is worse never gives a better verdict, and what is not recorded none better than the worst: one kind for each
of many inputs of every operation, over recipes of the shop."""

import unittest

from kaustos.core.errors import KaustosError
from kaustos.core.review import GRADES
from tests.asserting import every
from tests.support import at_once, changed, opened

CARDS = (("packer_ring", "crag"), ("centraliser_blade", "crag"), ("winch_bracket", "gill"), ("cable_clamp", "tarn"))


def more(step):
    return lambda value: None if value is None else value + step


def times(factor):
    return lambda value: None if value is None else value * factor


def of(value):
    return lambda _: value


WORSE = {  # kind: what is changed, by how much, once and again; each is worse in everybody's eyes
    "hotter in service": ("brief.service_c", more(15.0), more(60.0)),
    "more load": ("brief.stress_mpa", times(1.6), times(12.0)),
    "longer in service": ("brief.service_h", of(2_000.0), of(60_000.0)),
    "load across layers": ("brief.load_across", of(True), of(True)),
    "outdoors": ("brief.outdoor", of(True), of(True)),
    "meets alkali": ("brief.chemical", of("alkalis"), of("alkalis")),
    "meets steam": ("brief.chemical", of("steam"), of("steam")),
    "more margin wanted": ("brief.margin_k", of(40.0), of(120.0)),
    "must be rubbery": ("brief.character", of("rubbery"), of("rubbery")),
    "must be clear": ("brief.clear", of(True), of(True)),
    "for safety": ("brief.purpose", of("safety"), of("safety")),
    "only claimed to be annealed": ("brief.history", of("annealed"), of("annealed")),
    "dried for less": ("stock.dryer_h", times(0.5), times(0.05)),
    "dried colder": ("stock.dryer_c", more(-20.0), more(-60.0)),
    "waits in open air": (("stock.wait_h", "stock.wait_in"), of((60.0, "open")), of((900.0, "open"))),
    "scatters more": ("first_layer.gap_mm", times(1.8), times(4.0)),
    "first layer faster": ("first_layer.speed_mm_s", times(2.0), times(8.0)),
    "first layer colder": ("first_layer.nozzle_c", more(-25.0), more(-90.0)),
    "plate colder": (("plate.bed_c", "first_layer.bed_c"), more(-25.0), more(-70.0)),
    "nozzle colder": ("melt.nozzle_c", more(-20.0), more(-80.0)),
    "nozzle far hotter": ("melt.nozzle_c", more(40.0), more(110.0)),
    "faster": ("melt.speed_mm_s", times(2.5), times(8.0)),
    "starved": ("melt.multiplier", of(0.85), of(0.6)),
    "longer pause": ("melt.pause_min", of(30.0), of(240.0)),
    "less filled": ("melt.infill_pct", of(20.0), of(5.0)),
    "chamber colder": ("heat.chamber_c", more(-30.0), more(-90.0)),
    "more fan": ("heat.fan_pct", more(40.0), of(100.0)),
    "layers wait": ("heat.least_layer_s", of(200.0), of(1_500.0)),
    "never soaked": ("heat.soak_min", of(0.0), of(0.0)),
    "no anchor": ("plate.anchor", of("none"), of("none")),
    "larger": (("brief.size_x_mm", "brief.size_y_mm"), times(1.5), times(4.0)),
    "taken off with a blade": ("plate.release", of("blade"), of("blade")),
    "plate touched": ("plate.cleaned", of("touched"), of("touched")),
    "plate worn": ("plate.prints", more(200.0), more(3_000.0)),
    "plate for tests only": ("plate.test_only", of(True), of(True)),
    "plate of another machine": ("plate.fits_on", of("beck"), of("beck")),
    "heater weaker": ("machine.nozzle.heater.max_c", more(-60.0), more(-160.0)),
    "chamber heater weaker": ("machine.chamber.heater.max_c", more(-40.0), more(-120.0)),
    "plate heater weaker": ("machine.plate.heater.max_c", more(-40.0), more(-90.0)),
    "liner": ("machine.nozzle.liner.fitted", of(True), of(True)),
    "recycled": ("lot.recycled", of(True), of(True)),
    "unheld": ("supports.way", of("none"), of("none")),
    "supports welded": ("supports.gap_mm", of(0.05), of(0.0)),
}  # fmt: skip
UNKNOWN = (
    "machine.nozzle.heater.max_c", "machine.nozzle.heater.basis", "machine.nozzle.liner.fitted",
    "machine.nozzle.sensor.max_c", "machine.plate.heater.max_c", "machine.chamber.heater.max_c",
    "machine.chamber.heater.fitted", "machine.feeds", "machine.two_feeds", "nozzle.bore_mm", "nozzle.material",
    "lot.feed", "lot.grade",
    "lot.flange", "plate.cleaned", "plate.prints", "brief.service_c", "brief.stress_mpa", "brief.purpose",
    "brief.history", "brief.moisture", "melt.nozzle_c", "heat.chamber_c", "stock.dryer_h", "stock.wait_in",
    "plate.bed_c", "first_layer.nozzle_c", "melt.speed_mm_s", "melt.width_mm",
)  # fmt: skip


def verdict(records):
    return GRADES.index(at_once(records).grade.value)


def at_worst(records):
    """The same, with the worst that is said of what is not recorded."""
    found = at_once(records)
    held = [GRADES.index(each.worst) for each in found.completeness.missing if each.required]
    return min([GRADES.index(found.grade.value), *held])


def fields_of(paths):
    return paths if isinstance(paths, tuple) else (paths,)


def worsened(records, paths, step):
    """The records with a change; None where there is nothing to change, or what it would be is refused."""
    changes = {}
    try:
        for place, path in enumerate(fields_of(paths)):
            value = step(records.at(records.place(path)))
            if value is None:
                return None
            changes[path] = value[place] if isinstance(value, tuple) else value
        return changed(records, changes)
    except KaustosError:
        return None


class TestWorseIsNeverBetter(unittest.TestCase):
    def test_each_kind_of_worse_on_recipes_of_four_machines(self):
        tried, kinds = 0, set()
        better = []
        for card, machine in CARDS:
            records = opened(card, machine)
            base = verdict(records)
            for kind, (paths, *steps) in WORSE.items():
                last = base
                for step in steps:
                    there = worsened(records, paths, step)
                    if there is None:
                        continue
                    tried += 1
                    kinds.add(kind)
                    found = verdict(there)
                    if found > last:
                        better.append((card, kind, GRADES[last], GRADES[found]))
                    last = found
        self.assertEqual(better, [])
        self.assertGreaterEqual(tried, 200)
        self.assertEqual(set(WORSE) - kinds, set(), "kinds that no recipe knows are tried nowhere")


class TestUnknownIsNeverBetter(unittest.TestCase):
    def test_what_is_taken_away_never_lifts_the_grade(self):
        for card, machine in every(CARDS):
            records = opened(card, machine)
            base = verdict(records)
            for path in every(UNKNOWN):
                try:
                    there = changed(records, {path: "" if path == "lot.grade" else None})
                except KaustosError:
                    continue
                with self.subTest(card, field=path):
                    self.assertLessEqual(at_worst(there), base)
