"""What a machine can do and what to do next: reach, setpoints to start from; later upgrades and schedules."""

from kaustos.core.planning.habits import propose_habits, waits_for_proof
from kaustos.core.planning.setpoints import Proposal, propose_setpoints

__all__ = ["Proposal", "propose_habits", "propose_setpoints", "waits_for_proof"]
