"""What was seen moves what is foretold: one belief for each prediction, from the whole shop down to one lot."""

from kaustos.core.belief.observation import Seen, seen_factor
from kaustos.core.belief.prediction import Level, Prediction
from kaustos.core.belief.predictions import PREDICTIONS
from kaustos.core.belief.solving import Belief, believe

__all__ = ["PREDICTIONS", "Belief", "Level", "Prediction", "Seen", "believe", "seen_factor"]
