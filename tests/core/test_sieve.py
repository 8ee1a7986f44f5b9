"""The sieve of a database never hides a part the rules would accept."""

import itertools
import unittest
from dataclasses import replace

from hypothesis import given, settings
from hypothesis import strategies as st

from dusky_heron.core.model import LeadForm, Mounting, Need, Origin, Part, Policy, Role
from dusky_heron.core.selection import fit, rank
from dusky_heron.core.selection.rules import HARD_RULES
from dusky_heron.core.selection.sieve import Above, Among, Below, Either, Every, Lacks, Larger, Not, sieve_of, traits_of
from tests.core.test_replacement_cases import DEMANDS, FILTER, OFFERED, PLACES, K, part, place

SIZES = st.none() | st.tuples(st.floats(5, 60), st.floats(5, 60), st.floats(5, 90))
PITCH = st.none() | st.sampled_from([*fit.PITCHES_MM, 6.0, 12.5, 25.0, 50.0])
FORMS = st.none() | st.sampled_from(list(LeadForm))
PARTS = st.builds(
    lambda one, size, pitch, origin, form: replace(one, size_mm=size, pitch_mm=pitch, origin=origin, lead_form=form),
    st.sampled_from(OFFERED), SIZES, PITCH, st.sampled_from(list(Origin)), FORMS,
)  # fmt: skip
NEEDS = st.builds(
    lambda need, space, pitch, form: replace(need, space_mm=space, pitch_mm=pitch, mounting=Mounting(lead_form=form)),
    st.sampled_from(PLACES), SIZES, PITCH, FORMS,
)  # fmt: skip


class Sieves(unittest.TestCase):
    """Looser than the rules, and of use."""

    @settings(max_examples=400, deadline=None)
    @given(NEEDS, st.lists(PARTS, min_size=5, max_size=40), st.sets(st.sampled_from(DEMANDS)), st.sets(st.sampled_from(list(Role))))
    def test_nothing_acceptable_falls_through(
        self, need: Need, parts: list[Part], overridden: set[str], salvaged: set[Role]
    ) -> None:
        policy = Policy(frozenset(salvaged), frozenset(overridden))
        sieve = sieve_of(need, policy)
        for row in rank(need, parts, policy).accepted:
            self.assertIsNone(sieve.refuses(row.part), row.part)

    def test_whatever_falls_through_is_refused_and_by_a_rule_there_is(self) -> None:
        for need, one in itertools.product(PLACES, OFFERED):
            fell = sieve_of(need, Policy()).refuses(one)
            if fell:
                self.assertIn(fell, {rule.id for rule in HARD_RULES})
                self.assertTrue(rank(need, [one]).rejected)

    def test_each_condition_just_below_at_and_above(self) -> None:
        """What is not known is neither below nor above, and no body without a size is larger."""
        body = Larger((10.0, 20.0, 30.0))
        for condition, told in (
            (Below("x", 5.0), ((4.9, True), (5.0, False), (5.1, False), (None, False))),
            (Above("x", 5.0), ((4.9, False), (5.0, False), (5.1, True), (None, False))),
            (Among("x", ("a", "b")), (("a", True), ("c", False), ("", False))),
            (Lacks("x", ("X1", "Y2")), ((" X1  X2 ", False), (" X2 ", True), ("", True), (" X12 ", True))),
            (Not(Below("x", 5.0)), ((4.9, False), (5.0, True))),
            (Every((Above("x", 1.0), Below("x", 5.0))), ((0.5, False), (3.0, True), (6.0, False))),
            (Either((Below("x", 1.0), Above("x", 5.0))), ((0.5, True), (3.0, False), (6.0, True))), (Every(), ((None, True),)),
        ):  # fmt: skip
            for value, holds in told:
                self.assertEqual(condition.holds({"x": value}), holds, (condition, value))
        for length, width, height, larger in (
            (10, 20, 30, False), (20, 10, 30, False), (10.1, 20, 30, True), (20.1, 10, 30, True), (9, 20.1, 1, True),
            (10, 20, 30.1, True), (None, 20, 99, False), (10, None, 99, False), (10, 20, None, False), (1, 1, 1, False),
        ):  # fmt: skip
            self.assertEqual(body.holds({"length_mm": length, "width_mm": width, "height_mm": height}), larger)

    def test_few_refused_parts_stay(self) -> None:
        """Of all pairs of the table most that are refused fall through already."""
        left = fallen = 0
        for need, one in itertools.product(PLACES, OFFERED):
            if rank(need, [one]).rejected:
                fell = sieve_of(need, Policy()).refuses(one) is not None
                left, fallen = left + (not fell), fallen + fell
        self.assertLess(left, 0.03 * fallen)

    @given(st.sampled_from([*fit.PITCHES_MM, 6.0, 12.5, 40.0]), st.floats(1, 60))
    def test_pitches_within_one_step(self, wanted: float, offered: float) -> None:
        need, one = place(Role.X, FILTER, pitch_mm=wanted), replace(OFFERED[0], pitch_mm=offered)
        low, high = fit.pitches_within(wanted)
        self.assertEqual(low <= offered <= high, fit.pitch_too_far(need, one) is None, (low, high))

    def test_traits_of_markings(self) -> None:
        traits = traits_of(part(K.FILM_SAFETY, "100n K X1 440~ Y2 300~ 40/110/56/B").marking)
        self.assertEqual((traits.ac_high_v, traits.upper_c, traits.sections), (440, 110, 1))
        self.assertEqual(traits.classes.split(), ["X1", "Y2"])
        self.assertEqual(traits_of(part(K.ELECTROLYTIC, "82 µF 400 VDC").marking).dc_v, 400)
