"""Where work at the machine can hurt."""

from kaustos.core.estimates import MACHINE
from kaustos.core.records import Machine, Recipe
from kaustos.core.records.machine import ChamberZone, NozzleZone, PlateZone
from kaustos.core.review.contract import Caution, Context

MAINS_V = 60.0  # above what is touched without harm
HOT_CHAMBER_C = MACHINE["hot_chamber"].value


def cautions_of(recipe: Recipe, context: Context) -> tuple[Caution, ...]:
    cautions = [
        Caution(
            "machine.hot_surfaces",
            "Nozzle, plate and purged strings burn skin; let them cool or wear gloves fit for the heat.",
        )
    ]
    hottest_air = max(recipe.heat.chamber_c or 0.0, 0.0)
    if hottest_air >= HOT_CHAMBER_C:
        cautions.append(
            Caution(
                "machine.hot_chamber",
                "The chamber is hot enough to burn: keep its interlock closed, never reach in hot, never leave an "
                "added heater unattended, and keep an independent thermal cut-off.",
            )
        )
    if context.machine and any(each.heater.volts and each.heater.volts >= MAINS_V for each in _zones(context.machine)):
        cautions.append(
            Caution(
                "machine.mains",
                "A heater on mains voltage: work on it is for a licensed trade, unplugged and discharged; it wants an "
                "earth, a residual-current device and a thermal cut-off of its own.",
            )
        )
    if context.polymer:
        cautions.append(
            Caution(
                "machine.fumes",
                f"{context.polymer.name} gives off {context.polymer.emissions}, and fine particles. Extract outdoors "
                "first; the maker's data sheet and local rules decide.",
            )
        )
        cautions += [Caution(f"machine.polymer_{n}", each) for n, each in enumerate(context.polymer.cautions, start=1)]
    liner = context.machine.nozzle.liner.fitted if context.machine else False
    if liner is not False and context.machine:
        cautions.append(
            Caution(
                "machine.fluoropolymer",
                "A fluoropolymer liner gives off toxic fumes when overheated, deadly to pet birds: stay below its hard "
                "stop, and keep birds away.",
            )
        )
    return tuple(cautions)


def _zones(machine: Machine) -> tuple[NozzleZone | PlateZone | ChamberZone, ...]:
    return machine.nozzle, machine.plate, machine.chamber
