"""A review after one changed setting, against JSON round trips of the same recipe, caches warm."""

import json
import statistics
import time

from kaustos.app.judge import context_of_records, with_ranking
from kaustos.core.records.fields import with_value
from kaustos.core.review import ladder, review
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
    context = with_ranking(card.recipe, context_of_records(RECORDS))
    document = recipe_document(RecipeDocument(recipe=card.recipe, machine=card.machine, lot=card.lot))
    reviews, trips = [], []
    for run in range(RUNS):
        recipe = with_value(card.recipe, "heat.chamber_c", 60.0 + run % 100)
        reviews.append(_timed(lambda recipe=recipe: (review(recipe, context), ladder(recipe, context))))
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


COMPARISONS = (
    ("review and ladder again after one changed setting, median", 100.0, "JSON round trips", median_in_round_trips),
    ("review and ladder again, 95th percentile", 1.0, "frames at 60 Hz", slow_ones_in_frames),
)
