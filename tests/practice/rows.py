"""Rows of practice beside what the whole product says of them, as lines of a page."""

from kaustos.core.review.plate.cooling import cooling_case
from tests.practice import test_flow
from tests.practice.situation import asked, situation
from tests.practice.test_anneal import OFF, ROWS, WALLS, of, plan_of
from tests.practice.test_plate import ON_GLASS, bond, lifts, sheet_told
from tests.practice.test_welds import TestRows, share

BLOCK, LARGE = (60.0, 40.0, 20.0), (200.0, 150.0, 30.0)
LIFTS = (  # row, what is asked, the trade, how it is asked; chance of more than 0.3 mm [%]
    ("L1", "ABS on glass, air 30, cube of 20", "rarely", "abs", (20.0, 20.0, 20.0), ON_GLASS),
    ("L1", "the same, 150 x 40 x 40", "nearly always", "abs", (150.0, 40.0, 40.0), ON_GLASS),
    ("L2", "the same, 30 x 20 x 10", "little is seen", "abs", (30.0, 20.0, 10.0), ON_GLASS),
    ("L2", "the same, 300 x 20 x 10", "length counts", "abs", (290.0, 20.0, 10.0), ON_GLASS),
    ("L3", "the same, 150 x 150 x 1.2", "curls a little", "abs", (150.0, 150.0, 1.2), ON_GLASS),
    ("L4", "the same, 150 x 40 x 20, infill 15 %", "helps much", "abs", (150.0, 40.0, 20.0),
     ON_GLASS | {"infill": 15.0}),
    ("L4", "the same, solid", "", "abs", (150.0, 40.0, 20.0), ON_GLASS),
    ("L6", "ABS, 200 x 40 x 20, air 25", "mostly lifts", "abs", (200.0, 40.0, 20.0), {"plate": 100.0, "air": 25.0}),
    ("L6", "the same, air 70", "seldom", "abs", (200.0, 40.0, 20.0), {"plate": 100.0, "air": 70.0}),
    ("L8", "ABS on glass, 250 x 80 x 30, brim 6", "saves nothing", "abs", (250.0, 80.0, 30.0),
     ON_GLASS | {"anchor": "brim", "brim": 6.0}),
    ("L11", "PP, 150 x 40 x 20, air 25, on PEI film", "worst", "pp", (150.0, 40.0, 20.0), {"air": 25.0}),
    ("L11", "PETG, the same", "small", "petg", (150.0, 40.0, 20.0), {"air": 25.0}),
    ("L15", "ABS, 120 x 40 x 20, air 40, fan full", "lifts", "abs", (120.0, 40.0, 20.0),
     {"plate": 100.0, "air": 40.0, "fan": 100.0}),
    ("S12", "PP on PEI film", "does not hold", "pp", BLOCK, {}),
    ("S13", "POM on PEI film", "does not hold", "pom", BLOCK, {}),
)  # fmt: skip
HARMS = (  # row, what is asked, the trade, polymer, how; harm to the surface, parts by itself, breaks glass [%]
    ("S1", "PLA, textured coat, 60 °C", "no harm, off by itself", "pla",
     {"surface": "pei_coat", "plate": 60.0, "air": 25.0}),
    ("S2", "PETG, bare glass", "may pull pieces out", "petg", {"surface": "glass", "plate": 75.0, "air": 25.0}),
    ("S3", "PETG, glass and glue stick", "off cold, no harm", "petg",
     {"surface": "glass", "agent": "pvp_glue", "plate": 75.0, "air": 25.0}),
    ("S4", "ABS, PEI film, 105 °C", "off below 50 °C", "abs", {"plate": 105.0, "air": 50.0}),
    ("S5", "ABS, glass and slurry", "off cold, chips now and then", "abs",
     {"surface": "glass", "agent": "styrenic_slurry", "plate": 105.0, "air": 45.0}),
    ("S6", "PC, PEI film, 118 °C", "holds strongly, wears", "pc", {"plate": 118.0, "nozzle": 290.0, "air": 80.0}),
    ("S7", "PA12, laminate and glue", "holds, off cold", "pa12",
     {"surface": "laminate", "agent": "pvp_glue", "plate": 80.0, "air": 40.0}),
    ("S8", "filled PA, 200 x 150 x 30, glass and glue", "cracks 2 to 10 of 100", "pa_cf",
     {"surface": "glass", "agent": "pvp_glue", "plate": 80.0, "air": 40.0, "size": LARGE}),
    ("S9", "PEI, vinyl-alcohol film on glass, 170 °C", "glass survives", "pei",
     {"surface": "glass", "agent": "vinyl_film", "plate": 170.0, "air": 160.0}),
    ("S10", "PEEK, PEI film, 145 °C", "holds, off cold", "peek", {"plate": 145.0, "nozzle": 412.0, "air": 120.0}),
    ("S11", "TPU, PEI film, bare", "can weld", "tpu", {"air": 25.0}),
)  # fmt: skip
GEARED = {"tpu": {"machine.geared": True}}  # nobody pushes a rubbery strand with a plain drive
SHEETS = (  # what is asked, the trade, polymer, size, air
    ("PC, 200 x 100 x 25, air 60", "bends it up", "pc", (200.0, 100.0, 25.0), 60.0),
    ("ABS, 200 x 100 x 25, air 45", "bends it up", "abs", (200.0, 100.0, 25.0), 45.0),
    ("PA6, 200 x 100 x 20, air 25", "bends it up", "pa6", (200.0, 100.0, 20.0), 25.0),
    ("PC, 50 x 40 x 20, air 60", "small: nothing", "pc", (50.0, 40.0, 20.0), 60.0),
    ("PLA, 120 x 60 x 20", "shrinks little: nothing", "pla", (120.0, 60.0, 20.0), 25.0),
)  # fmt: skip


def practice_lines():
    """The rows as lines of a page."""
    lines = ["", "## Practice, row by row", ""]
    lines += ["Each is a whole recipe with a shop that stands in nobody's way, and what its review says.", ""]
    lines += ["| row | asked | the trade | lifts over 0.3 mm [%] | nine of ten below [mm] |", "|---|---|---|---|---|"]
    for row, words, trade, polymer, size, how in LIFTS:
        chance, most = lifts(polymer, size=size, **how)
        lines.append(f"| {row} | {words} | {trade} | {100.0 * chance:.0f} | {most:.1f} |")
    lines += [
        "",
        "| row | asked | the trade | harms [%] | off by itself [%] | breaks glass [%] |",
        "|---|---|---|---|---|---|",
    ]
    for row, words, trade, polymer, how in HARMS:
        found = bond(polymer, **({"size": BLOCK} | how))
        told = (found.harms, found.comes_off, found.breaks)
        lines.append(f"| {row} | {words} | {trade} | {' | '.join(f'{100.0 * each:.0f}' for each in told)} |")
    lines += ["", "| row | thin sheet of 0.5 mm on a magnet | the trade | told in [%] of prints |", "|---|---|---|---|"]
    for words, trade, polymer, size, air in SHEETS:
        found = sheet_told(polymer, **{"size": size, "air": air, "plate.thick_mm": 0.5})
        lines.append(f"| L12 | {words} | {trade} | {found.values['gap'] if found is not None else 'nothing'} |")
    lines += [
        "",
        "| row | polymer, 0.4 mm bore | common head [mm³/s], the trade | large head, the trade |",
        "|---|---|---|---|",
    ]
    for polymer, common, large in (("pla", "8 to 14", "20 to 35"), ("abs", "8 to 14", "20 to 35"),
                                   ("petg", "8 to 14", "20 to 35"), ("tpu", "2 to 5", "")):  # fmt: skip
        found = [
            f"{test_flow.most(polymer, head | GEARED.get(polymer, {})):.0f}"
            for head in (test_flow.COMMON, test_flow.LARGE)
        ]
        lines.append(f"| F1 | {polymer} | {found[0]}, {common} | {found[1]}{f', {large}' if large else ''} |")
    lines += ["", "| row | polymer | the trade [°C] | lets go at [°C] |", "|---|---|---|---|"]
    for polymer, usual in (("pla", "30 to 45"), ("petg", "30 to 45"), ("abs", "40 to 70"), ("pc", "50 to 90"),
                           ("pei", "60 to 150"), ("ppsu", "60 to 150"), ("peek", "60 to 120")):  # fmt: skip
        case = cooling_case(*asked(situation(polymer, surface="glass"))[:2])
        lines.append(f"| S15 | {polymer} | {usual} | {case.release_c:.0f} |")
    lines += [
        "",
        "| row | polymer | air [°C] | the trade, across over along [%] | reckoned [%] |",
        "|---|---|---|---|---|",
    ]
    for polymers, airs, *usual in TestRows.ROWS:
        low, high = (f"{100.0 * each:.0f}" for each in usual)
        lines += [f"| W | {each} | {airs[0]:g} | {low} to {high} | {100.0 * share(each, air=airs[0]):.0f} |"
                  for each in polymers]  # fmt: skip
    lines += ["", "| row | polymer | wall [mm] | the trade: hold [°C], hours | planned | ramp [K/h] | off |"]
    lines += ["|---|---|---|---|---|---|---|"]
    for polymer, (low, high), hours, _ in ROWS:
        for wall, (least, most) in zip(WALLS, hours, strict=True):
            _, hold, held, ramp = plan_of(of(polymer, wall))
            off = max(least / held, held / most, 1.0)
            told = "" if off == 1.0 else f"{off:.1f} times, of {OFF:g} allowed"
            trade, plan = f"{low:g} to {high:g}, {least:g} to {most:g}", f"{hold:.0f}, {held:g}"
            lines.append(f"| A | {polymer} | {wall:g} | {trade} | {plan} | {ramp:.0f} | {told} |")
    return lines
