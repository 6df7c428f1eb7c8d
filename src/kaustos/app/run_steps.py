"""The steps of a run in words, as they stand when it begins: what is done, how hot, how long, with which caution."""

from collections.abc import Sequence

from kaustos.app.releasing import card_rows
from kaustos.app.running import because
from kaustos.app.wording import hours_words
from kaustos.app.workspace import Workspace
from kaustos.core.records import RunStep
from kaustos.core.review import CODES, Context
from kaustos.core.review.plate.case import case_of
from kaustos.core.review.plate.cooling import cooling_case
from kaustos.core.review.run.case import run_case
from kaustos.core.review.run.preflight import Check
from kaustos.core.review.run.steps import Step, steps_of

HEAT = "Hot parts, unattended heat: a smoke alarm, and a cut-off that works."
CAUTIONS = {
    "coat": "Solvents and hot plates: heaters off, air moving, gloves; the data sheet of the agent rules.",
    "coat_pause": "Nozzle and plate are hot: gloves, and nothing that burns near them.",
    "heat": HEAT,
    "free": "Goggles and gloves. Never towards the hand, never force on glass.",
    "clean": "Wait until the plate is cold before any solvent touches it.",
}
SAFETY = frozenset(key for key, code in CODES.items() if code.is_safety)


def run_steps(workspace: Workspace, context: Context, checks: Sequence[Check]) -> tuple[RunStep, ...]:
    """All steps of a run of the open recipe, in words that stay as they were when it began."""
    recipe = workspace.draft.records.card.recipe
    found = steps_of(recipe, context, checks, SAFETY)
    said = _Words(workspace, context)
    return tuple(
        RunStep(
            key=each.key, title=said.title(each), says=said.says(each), caution=CAUTIONS.get(_kind(each.key), ""),
            phase=each.phase, at_h=each.at_h, at_mm=each.at_mm, wait_min=each.wait_min,
            stands=each.check.state if each.check is not None else None, is_safety=each.is_safety,
        )
        for each in found
    )  # fmt: skip


TITLES = {
    "dry": "Spool into the dryer", "dried": "Spool out, straight to the machine", "coat": "Coat the plate",
    "load": "Load and purge", "heat": "Heaters on", "hot": "Heat up and soak", "start": "First move",
    "look": "Look at layer one", "corners": "Look at the corners", "pause": "It waits for you",
    "coat_pause": "Coat, and go on", "narrow": "Look: small layers", "weak": "Look: weakest layers",
    "end": "Printed: heaters off", "cool": "Let it cool", "free": "Take it off", "look_cold": "Look once more, cold",
    "clean": "Clean the plate", "close": "What did it come to?",
}  # fmt: skip


def _kind(key: str) -> str:
    """What is done in a step, without its number."""
    return key.partition(".")[0]


class _Words:
    """What each step says, by the recipe as it stands."""

    def __init__(self, workspace: Workspace, context: Context) -> None:
        records = workspace.draft.records
        self._recipe, self._context, self._wording = records.card.recipe, context, workspace.draft.wording
        self._cooling = {row[0]: row[1] for row in card_rows(context, workspace)}
        self._says = {
            "dry": self._dry, "coat": self._coat, "load": self._load, "heat": self._heat, "hot": self._hot,
            "start": self._start, "end": self._end, "cool": self._cool, "free": self._free, "clean": self._clean,
        }  # fmt: skip

    def title(self, step: Step) -> str:
        return step.check.title if step.check is not None else TITLES[_kind(step.key)]

    def says(self, step: Step) -> str:
        if step.check is not None:
            return because(step.check, self._wording)
        if step.key in self._says:
            return self._says[step.key]()
        height = "" if step.at_mm is None else f" at {self._wording.value(step.at_mm, 'length')}"
        return {
            "dried": "Weigh it, note the hour. It takes up water from now on.",
            "look": "Lines touch, corners lie flat, nothing drags. Good: go on. Else stop now, it is cheapest.",
            "corners": "Corners down all round? A lift that begins now grows with every layer.",
            "pause": "The file waits here: do what it waits for, then let it go on.",
            "coat_pause": "Coat the support, let it dry, let it go on before the layer is cold.",
            "narrow": f"The quickest layers{height}: too soft they smear, drag and bulge.",
            "weak": f"The coldest layers{height}: look for cracks along them.",
            "look_cold": "Flat, underside, corners: what moved only as it cooled?",
            "close": "Good, usable, failed or stopped: one number. What was seen stands in the log already.",
        }[_kind(step.key)]

    def _value(self, value: float | None, quantity: str = "temperature") -> str:
        return "not set" if value is None else self._wording.value(value, quantity)

    def _dry(self) -> str:
        stock, wanted = self._recipe.stock, run_case(self._recipe, self._context).dry_h
        said = ""
        if stock.dryer_h is not None and wanted > 1.1 * stock.dryer_h:
            said = f" The recipe's {self._value(stock.dryer_h, 'duration')} do not dry this spool."
        return f"{self._value(stock.dryer_c)} for {hours_words(wanted)}; lid shut, spool level.{said}"

    def _coat(self) -> str:
        agent = case_of(self._recipe, self._context).agent
        if agent is None or not agent.steps:
            return "As the label says."
        return " ".join(f"{number}. {each.do}." for number, each in enumerate(agent.steps, start=1))

    def _load(self) -> str:
        lot = self._context.lot
        return f"{lot.name}, and no other: read its label." if lot is not None else "No lot is chosen: note which one."

    def _heat(self) -> str:
        recipe = self._recipe
        words = f"Nozzle {self._value(recipe.melt.nozzle_c)}, plate {self._value(recipe.plate.bed_c)}"
        chamber = recipe.heat.chamber_c
        return words + (f", chamber {self._value(chamber)}." if chamber is not None else ".")

    def _hot(self) -> str:
        soak = self._recipe.heat.soak_min
        return f"Door shut. {self._value(soak, 'minutes')} of it soak the walls." if soak else "Door shut."

    def _start(self) -> str:
        job = self._context.job
        name = f"File {job.name}." if job is not None else "No file is bound: note which one it is."
        return f"{name} Plate in its place, nozzle clean, nothing lies on the plate."

    def _end(self) -> str:
        if cooling_case(self._recipe, self._context).way == "hot":
            return "It comes off hot: within ten minutes of the last layer."
        return {"none": "Leave it where it stands."}.get(door := self._cooling["Door"], f"Door {door}.")

    def _cool(self) -> str:
        case = cooling_case(self._recipe, self._context)
        takes = f"Without a probe {self._cooling['Minutes']}: likely, never safe."
        if case.best is not None and case.best.until is None:
            takes = "Behind the shut door it does not get there in half a day: open it by steps once the part bears it."
        release = self._wording.value(case.release_c, "temperature")
        burns = ", and still burns skin there: heat-proof gloves" if case.burns else ""
        return f"It comes off at {release} or below, by the probe{burns}. {takes}"

    def _free(self) -> str:
        return f"{self._cooling['Method']}. Tool: {self._cooling['Tool']}. Hands: {self._cooling['Hands']}."

    def _clean(self) -> str:
        case = case_of(self._recipe, self._context)
        agent = case.agent
        if agent is not None and agent.washes_off:
            return f"{agent.name}: washes off with {agent.washes_off}. Look for chips, pulls and craters."
        return "Wipe it as its surface bears. Look for chips, pulls and craters; log them with the plate."
