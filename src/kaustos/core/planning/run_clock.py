"""The clock of one run: when it began, how long it stood at its pauses, and what it has printed."""

from datetime import datetime

from kaustos.core.records import Run

RESTS = ("pause.", "coat_pause.")  # steps at which it stands until somebody has been there


def begun_at(run: Run) -> datetime | None:
    """When a run made its first move.

    Parameters
    ----------
    run : Run
        With its steps as they were ticked [-]

    Returns
    -------
    datetime or None
        As it was ticked; of a run whose card nobody uses when it was started [-]
    """
    done = next((each.done_utc for each in run.steps if each.key == "start"), "")
    if not done and not any(each.is_over for each in run.steps):
        done = run.started_utc
    return datetime.fromisoformat(done) if done else None


def waited_h(run: Run, begun: datetime, until_h: float) -> float:
    """How long a run stood: at its pauses as they were ticked, and still as it was noted.

    Parameters
    ----------
    run : Run
        With its steps [-]
    begun : datetime
        Its first move [-]
    until_h : float
        What was before this hour of printing counts [h]

    Returns
    -------
    float
        Hours that were no printing [h]
    """
    waited, told = 0.0, 0.0  # and up to when the tick of a pause has told of all that went before
    for each in run.steps:
        if each.key.startswith(RESTS) and each.done_utc and each.at_h is not None and each.at_h < until_h:
            passed = _passed_h(begun, each.done_utc)
            waited, told = max(waited, passed - each.at_h), max(told, passed)
    for rest in sorted(run.rests, key=lambda each: each.at_utc):
        passed, stood = _passed_h(begun, rest.at_utc), (rest.minutes or 0.0) / 60.0
        if passed > told and passed - stood - waited < until_h:
            waited += min(stood, max(passed, 0.0))
    return waited


def _passed_h(begun: datetime, at_utc: str) -> float:
    return (datetime.fromisoformat(at_utc) - begun).total_seconds() / 3600.0


def printing_h(run: Run, now: datetime) -> float | None:
    """How long a run has printed.

    Parameters
    ----------
    run : Run
        With its steps [-]
    now : datetime
        Until then [-]

    Returns
    -------
    float or None
        What it stood at its pauses is none of it [h]; None before its first move
    """
    begun = begun_at(run)
    if begun is None or now < begun:
        return None
    passed = (now - begun).total_seconds() / 3600.0
    for each in run.steps:
        if each.key.startswith(RESTS) and each.at_h is not None and not each.is_over:
            printed = passed - waited_h(run, begun, each.at_h)
            if printed > each.at_h:  # it stands there now
                return each.at_h
    return passed - waited_h(run, begun, float("inf"))
