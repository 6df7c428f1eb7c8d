"""Faults of the core that a user can act on; their text is shown as it stands."""


class KaustosError(Exception):
    """Something the user can act on; the text says what and where."""


class FieldError(KaustosError):
    """A value that cannot stand in its field."""

    def __init__(self, field: str, problem: str) -> None:
        super().__init__(field, problem)
        self.field, self.problem = field, problem

    def __str__(self) -> str:
        return f"{self.field}: {self.problem}"


class FaultList(KaustosError):
    """Several faults of one document, reported at once, each with its place."""

    def __init__(self, what: str, faults: tuple[str, ...]) -> None:
        super().__init__(what, faults)
        self.what, self.faults = what, faults

    def __str__(self) -> str:
        shown = "\n".join(f"  {fault}" for fault in self.faults[:50])
        more = f"\n  ... and {len(self.faults) - 50} more" if len(self.faults) > 50 else ""
        return f"{self.what}:\n{shown}{more}"
