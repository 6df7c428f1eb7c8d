"""Grade, standing and completeness by truth tables; the joints that every review package is made with."""

import itertools
import unittest

import attrs

from kaustos.core.records.recipe import PURPOSES
from kaustos.core.review.contract import (
    GRADES,
    PENDING,
    Advice,
    Cap,
    Code,
    Finding,
    Grade,
    Missing,
    OperationReview,
    Saying,
    Set,
)
from kaustos.core.review.grading import WANTED, completeness_of, grade_of, standing_of, worst_grade
from kaustos.core.review.making import MOST_OFFERS, Question, conclude, offered

LAME = Code("x.y.lame", "stop", "t", "w", "s", "{cost:money}", title="lame", cap="no_go", cap_mild="reduced")
MILD = Code("x.y.mild", "watch", "t", "w", "s", "{cost:money}", title="mild", cap="reduced")
BARE = Code("x.y.bare", "watch", "t", "w", "s", "{cost:money}", title="bare")
CODES = {code.code: code for code in (LAME, MILD, BARE)}


def finding(code, severity="", field="a"):
    return Finding(code.code, severity or code.severity, {}, field, None, (Advice("do", "it"),))


def operation(caps=(), missing=(), asked=0):
    return OperationReview(10, "clear", "", (), (), (), missing, tuple(Cap(*each) for each in caps), asked)


class TestStanding(unittest.TestCase):
    def test_every_combination(self):
        required, optional = Missing("a", "no_go"), Missing("b", "no_go", False)
        for severities, missing, expected in (
            ((), (), "clear"),
            ((), (optional,), "clear"),
            ((), (required,), "open"),
            ((), (optional, required), "open"),
            (("watch",), (), "watch"),
            (("watch",), (required,), "watch"),
            (("watch", "stop"), (), "stop"),
            (("stop",), (required,), "stop"),
        ):
            with self.subTest(severities, missing=missing):
                self.assertEqual(standing_of(severities, missing), expected)


class TestStandingOfGrade(unittest.TestCase):
    def test_every_combination(self):
        for value, wanted, until_known, expected in (
            ("no_go", None, (), "stop"),
            ("no_go", "decorative", ("a",), "stop"),
            ("reduced", "functional", (), "watch"),
            ("reduced", "functional", ("a",), "watch"),
            ("reduced", "reduced", (), "clear"),
            ("functional", "reduced", (), "clear"),
            ("functional", "functional", ("a",), "open"),
            ("functional", None, (), "open"),
        ):
            with self.subTest(value, wanted=wanted, until_known=until_known):
                self.assertEqual(Grade(value, (), (), until_known, wanted).standing, expected)


class TestGrade(unittest.TestCase):
    def test_the_lowest_cap_rules_whatever_their_order(self):
        for caps in itertools.product((None, *GRADES), repeat=2):
            given = tuple((f"c{place}", cap) for place, cap in enumerate(caps) if cap)
            expected = min((cap for cap in caps if cap), key=GRADES.index, default="functional")
            for order in (given, given[::-1]):
                with self.subTest(order):
                    self.assertEqual(worst_grade(tuple(Cap(*each) for each in order)), expected)
                    found = grade_of((operation(order[:1]), operation(order[1:])), "loaded")
                    self.assertEqual(found.value, expected)
                    self.assertEqual(len(found.caps), len(order), "all caps are listed")
                    lowest = {code for code, cap in order if cap == expected}
                    self.assertEqual(set(found.because), lowest)

    def test_until_known_names_what_could_bring_less_and_is_required(self):
        for cap, worst, required in itertools.product((None, *GRADES), GRADES, (True, False)):
            given = (("c", cap),) if cap else ()
            found = grade_of((operation(given, (Missing("field", worst, required),)),), None)
            lower = GRADES.index(worst) < GRADES.index(cap or "functional")
            with self.subTest(cap=cap, worst=worst, required=required):
                self.assertEqual(found.until_known, ("field",) if lower and required else ())
                self.assertIsNone(found.wanted)

    def test_every_purpose_wants_a_grade(self):
        self.assertEqual(set(WANTED), set(PURPOSES))
        for purpose, grade in WANTED.items():
            self.assertEqual(grade_of((operation(),), purpose).wanted, grade)
        self.assertEqual([WANTED[each] for each in ("ornament", "prototype", "safety")],
                         ["decorative", "reduced", "functional"])  # fmt: skip


class TestCompleteness(unittest.TestCase):
    def test_known_is_asked_less_missing_and_the_order_is_required_then_worst(self):
        first = operation(missing=(Missing("d", "functional", False), Missing("b", "reduced")), asked=5)
        second = operation(missing=(Missing("a", "no_go"), Missing("c", "no_go", False)), asked=7)
        found = completeness_of((first, second))
        self.assertEqual((found.known, found.asked), (8, 12))
        self.assertEqual([each.field for each in found.missing], ["a", "b", "c", "d"])

    def test_nothing_asked_is_nothing_missing(self):
        self.assertEqual(attrs.astuple(completeness_of(())), (0, 0, ()))


class TestConclusion(unittest.TestCase):
    def conclude(self, findings, questions=(), more=()):
        return conclude(10, "x.y", (), findings, (), questions, CODES, more, (Saying("t"),))

    def test_a_code_caps_by_its_severity(self):
        for code, severity, cap in (
            (LAME, "stop", "no_go"), (LAME, "watch", "reduced"), (MILD, "watch", "reduced"), (MILD, "stop", "reduced"),
            (BARE, "watch", None), (BARE, "stop", None),
        ):  # fmt: skip
            with self.subTest(code.code, severity=severity):
                found = self.conclude((finding(code, severity),))
                self.assertEqual([each.grade for each in found.caps], [cap] if cap else [])

    def test_worst_first_and_further_caps_behind(self):
        found = self.conclude((finding(BARE), finding(MILD), finding(LAME)), more=(Cap("z", "decorative"),))
        self.assertEqual([each.severity for each in found.findings], ["stop", "watch", "watch"])
        self.assertEqual([(each.code, each.grade) for each in found.caps],
                         [("x.y.lame", "no_go"), ("x.y.mild", "reduced"), ("z", "decorative")])  # fmt: skip
        self.assertEqual((found.standing, found.tile), ("stop", (Saying("t"),)))

    def test_asked_and_missing_come_from_one_list(self):
        questions = (
            Question("a", True, "no_go"),
            Question("b", False, "reduced"),
            Question("c", False, "no_go", False),
        )
        found = self.conclude((), questions)
        self.assertEqual((found.asked, [each.field for each in found.missing]), (3, ["b", "c"]))
        self.assertEqual([(each.worst, each.required) for each in found.missing], [("reduced", True), ("no_go", False)])
        self.assertEqual(found.standing, "open")


class TestOffers(unittest.TestCase):
    def test_a_place_is_kept_for_those_that_wait_and_for_no_other(self):
        found = offered((finding(LAME), finding(BARE)), None, frozenset({"x.y.lame"}))
        self.assertEqual([each.remedies[1:] for each in found], [(PENDING,), ()])

    def test_what_a_key_does_is_never_another_thing_when_answers_come_late(self):
        acts, says = Set("acts", {"melt.nozzle_c": 1.0}), Advice("says", "x")
        late = tuple(Set(f"late {n}", {"melt.nozzle_c": 2.0 + n}) for n in range(3))
        for own in ((acts, says), (says,), (says, acts), (acts, says, says), ()):
            code = attrs.evolve(finding(LAME), remedies=own)
            (before,) = offered((code,), None, frozenset({LAME.code}))
            for come in range(4):
                (after,) = offered((code,), {(code.code, code.field): late[:come]}, frozenset())
                with self.subTest(own=own, come=come):
                    keyed = [each for each in before.remedies if each is not PENDING]
                    self.assertEqual(list(after.remedies[: len(keyed)]), keyed)
                    self.assertCountEqual(after.remedies, (*own, *late[:come]), "nothing is lost")

    def test_what_comes_stands_behind_what_was_there_and_is_never_too_much(self):
        many = tuple(Advice(f"{place}", "x") for place in range(9))
        found = offered((finding(LAME), finding(LAME, field="b")), {("x.y.lame", "a"): many}, frozenset({"x.y.lame"}))
        self.assertEqual(found[0].remedies, (Advice("do", "it"), *many[:MOST_OFFERS]))
        self.assertEqual(found[1].remedies, (Advice("do", "it"),), "the same code at another field has its own")
