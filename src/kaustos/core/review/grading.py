"""From caps and gaps of knowledge to the grade of the part and the completeness of its record."""

from kaustos.core.review.contract import (
    GRADES,
    Cap,
    Completeness,
    Grade,
    Missing,
    OperationReview,
    worst_of,
)

WANTED = {  # grade that a purpose asks for
    "ornament": "decorative",
    "fit_check": "decorative",
    "prototype": "reduced",
    "tool": "reduced",
    "loaded": "functional",
    "outdoor": "functional",
    "safety": "functional",
}


def worst_grade(caps: tuple[Cap, ...]) -> str:
    """The lowest cap, functional where nothing caps."""
    return worst_of(tuple(cap.grade for cap in caps), GRADES) or "functional"


def grade_of(operations: tuple[OperationReview, ...], purpose: str | None) -> Grade:
    """The grade that all operations together leave."""
    caps = tuple(cap for operation in operations for cap in operation.caps)
    value = worst_grade(caps)
    because = tuple(dict.fromkeys(cap.code for cap in caps if cap.grade == value))
    lower = tuple(
        missing.field
        for missing in _ranked(operations)
        if missing.required and GRADES.index(missing.worst) < GRADES.index(value)
    )
    return Grade(value, because, caps, lower, WANTED[purpose] if purpose else None)


def completeness_of(operations: tuple[OperationReview, ...]) -> Completeness:
    """Known and asked fields, the missing ones in the order in which they would change the grade."""
    missing = _ranked(operations)
    asked = sum(operation.asked for operation in operations)
    return Completeness(asked - len(missing), asked, missing)


def _ranked(operations: tuple[OperationReview, ...]) -> tuple[Missing, ...]:
    every = [missing for operation in operations for missing in operation.missing]
    return tuple(sorted(every, key=lambda missing: (not missing.required, GRADES.index(missing.worst))))


def standing_of(severities: tuple[str, ...], missing: tuple[Missing, ...]) -> str:
    """Stop or watch where a finding says so, else open where something required is missing, else clear."""
    worst = worst_of(severities, ("stop", "watch"))
    if worst:
        return worst
    return "open" if any(each.required for each in missing) else "clear"
