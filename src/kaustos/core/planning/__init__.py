"""What to do next: setpoints to start from; later upgrades, schedules and the next run."""

from kaustos.core.planning.setpoints import Proposal, propose_setpoints

__all__ = ["Proposal", "propose_setpoints"]
