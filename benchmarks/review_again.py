"""A review after one changed setting, against JSON round trips of the same recipe, caches warm."""

import json
import statistics
import time
from datetime import UTC, datetime

import attrs

from kaustos.app.judge import Judge, context_of_records
from kaustos.core.records.fields import with_value
from kaustos.core.review import ladder
from kaustos.demo.scenario import RECORDS
from kaustos.formats.recipe_file import RecipeDocument, recipe_document

RUNS = 600
FRAME_S = 1.0 / 60.0


def _timed(act):
    start = time.perf_counter()
    act()
    return time.perf_counter() - start


def _measure():
    """Seconds of each review and of each round trip, taken in turn."""
    card = RECORDS.card
    judge, context = Judge(), context_of_records(RECORDS)
    judge.to_the_end(card.recipe, context)
    document = recipe_document(RecipeDocument(recipe=card.recipe, chosen=card.chosen))
    reviews, trips = [], []
    for run in range(RUNS):
        recipe = with_value(card.recipe, "heat.chamber_c", 60.0 + run % 100)
        reviews.append(_timed(lambda recipe=recipe: (judge.at_hand(recipe, context), ladder(recipe, context))))
        trips.append(_timed(lambda: json.loads(json.dumps(document))))
    return sorted(reviews[50:]), sorted(trips[50:])


def median_in_round_trips():
    """Median review over median round trip."""
    reviews, trips = _measure()
    return statistics.median(reviews) / statistics.median(trips)


def slow_ones_in_frames():
    """The 95th percentile of the reviews in frames at 60 Hz."""
    reviews, _ = _measure()
    return reviews[int(0.95 * len(reviews))] / FRAME_S


def _drag_dryer():
    """Seconds of each review while the dryer's temperature is dragged over a lot with a long history."""
    records = attrs.evolve(RECORDS, current="winch_bracket")
    judge, context = Judge(), context_of_records(records, datetime(2026, 3, 2, 8, tzinfo=UTC))
    judge.to_the_end(records.card.recipe, context)
    document = recipe_document(RecipeDocument(recipe=records.card.recipe, chosen=records.card.chosen))
    reviews, trips = [], []
    for run in range(RUNS):
        recipe = with_value(records.card.recipe, "stock.dryer_c", 50.0 + 0.05 * run)
        reviews.append(_timed(lambda recipe=recipe: (judge.at_hand(recipe, context), ladder(recipe, context))))
        trips.append(_timed(lambda: json.loads(json.dumps(document))))
    return sorted(reviews[50:]), sorted(trips[50:])


def dryer_median_in_round_trips():
    """Median review while the dryer is dragged over median round trip."""
    reviews, trips = _drag_dryer()
    return statistics.median(reviews) / statistics.median(trips)


def dryer_slow_ones_in_frames():
    """The 95th percentile of the same in frames at 60 Hz."""
    reviews, _ = _drag_dryer()
    return reviews[int(0.95 * len(reviews))] / FRAME_S


COMPARISONS = (
    ("review and ladder again after one changed setting, median", 100.0, "JSON round trips", median_in_round_trips),
    ("review and ladder again, 95th percentile", 1.0, "frames at 60 Hz", slow_ones_in_frames),
    ("the same while the dryer is dragged, median", 100.0, "JSON round trips", dryer_median_in_round_trips),
    ("the same while the dryer is dragged, 95th percentile", 1.0, "frames at 60 Hz", dryer_slow_ones_in_frames),
)
