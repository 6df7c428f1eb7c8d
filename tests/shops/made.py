"""A shop that is made up: hidden factors of machines, polymers, lots, plates, and what is measured of them.

Written apart from the program: no model, estimate or record of its core is read here.
"""

import math
import random

import attrs


@attrs.frozen(kw_only=True)
class Look:
    """One thing that was looked at: where, and what was read."""

    at: dict[str, str]
    truth: float  # logarithm of the true factor there then
    read: float  # what was read of it
    misread: bool


class Shop:
    """Truths drawn once; looks are taken of them, one in twenty misread."""

    def __init__(self, seed: int, spreads: dict[str, float], scatter: float, *, wider: float = 1.0, shift: float = 0.0):
        self._rng = random.Random(seed)
        self._spreads = {level: wider * spread for level, spread in spreads.items()}
        self._scatter, self._shift = scatter, shift
        self._truths: dict[tuple[str, str], float] = {}

    def truth(self, at: dict[str, str]) -> float:
        """The logarithm of the true factor at a place."""
        return self._shift + sum(self._effect(level, member) for level, member in at.items())

    def _effect(self, level: str, member: str) -> float:
        key = (level, member)
        if key not in self._truths:
            self._truths[key] = self._rng.gauss(0.0, self._spreads[level])
        return self._truths[key]

    def place(self, most: dict[str, int]) -> dict[str, str]:
        """Some place of a shop that has so many members of each level."""
        return {level: f"{level}{self._rng.randrange(most.get(level, 1))}" for level in self._spreads}

    def look(self, at: dict[str, str], error: float) -> Look:
        """What somebody reads at a place."""
        truth, misread = self.truth(at), self._rng.random() < 0.05
        read = truth + self._rng.gauss(0.0, math.hypot(error, self._scatter))
        return Look(
            at=at, truth=truth, read=read + self._rng.choice((-1.0, 1.0)) * 1.2 if misread else read, misread=misread
        )

    def held(self, at: dict[str, str], limit: float) -> bool:
        """Whether what is there was above a limit, as it came out once; one in twenty is told wrongly."""
        came_out = self.truth(at) + self._rng.gauss(0.0, self._scatter) > limit
        return came_out != (self._rng.random() < 0.05)

    def near(self, at: dict[str, str]) -> float:
        """A limit somewhere round what is there."""
        return self.truth(at) + self._rng.uniform(-0.6, 0.6)
