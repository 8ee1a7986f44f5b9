"""What a place, a circuit and a kind in stock tell about a marking: a doubt they settle is an assumption and no question."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.discharge.planning import plan_charge
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Basis, Part, PartKind, Position, Role, told_by_place
from dusky_heron.core.model.roles import ALTERNATING_ROLES, DIRECT_ROLES

OPEN = (
    "47 µF 63 V", "0.1 µF 630 V", "10,000 µF 63 V", "4R7 250 V", "2.2 mF 63 V", "100 16 V", "16 µF ? V",
    "40/20/20 MFD 450/25 WVDC",
)  # fmt: skip


class Places(unittest.TestCase):
    """Bare volts in a DC place are DC, and values that are not made for a place are not in it."""

    def test_bare_volts_are_of_the_kind_of_the_place(self) -> None:
        self.assertFalse(DIRECT_ROLES & ALTERNATING_ROLES)
        for role in Role:
            told = told_by_place(read_marking("4.7 µF 250 V"), role)
            kind = "dc" if role in DIRECT_ROLES else "ac" if role in ALTERNATING_ROLES - {Role.Y} else ""
            rated = {"dc": (None, 250.0), "ac": (250.0, None)}.get(kind)
            if rated:
                self.assertEqual((told.rated_ac_v, told.rated_dc_v, told.provisional), (*rated, False), role)
                self.assertIn("V without a sign is", " ".join(told.assumptions))
        self.assertTrue(told_by_place(read_marking("4.7 µF 250 V"), Role.SNUBBER).provisional)
        self.assertTrue(told_by_place(read_marking("4.7 µF 250 V"), None).provisional)

    def test_the_circuit_tells_before_the_role(self) -> None:
        for basis, rated in ((Basis.RECTIFIED, (None, 250.0)), (Basis.MAINS, (250.0, None))):
            told = told_by_place(read_marking("0.1 µF 250 V"), Role.SNUBBER, basis)
            self.assertEqual((told.rated_ac_v, told.rated_dc_v), rated)

    def test_a_value_that_is_not_made_for_a_place_is_no_reading_of_it(self) -> None:
        for text, role, farads in (
            ("16 mF 450 VAC", Role.MOTOR_RUN, 16e-6),
            ("4R7 250 V~", Role.MOTOR_RUN, 4.7e-6), ("1,500 µF 275 V~ X2", Role.X, 1.5e-6),
        ):  # fmt: skip
            told = told_by_place(read_marking(text), role)
            self.assertEqual((round(told.capacitance_f, 12), told.provisional), (farads, False), text)

    def test_what_the_place_does_not_tell_stays_open(self) -> None:
        self.assertTrue(told_by_place(read_marking("10,000 µF 63 V"), Role.RESERVOIR).provisional)
        self.assertTrue(told_by_place(read_marking("16 µF 450 V~ 47X9"), Role.MOTOR_RUN).provisional)

    @given(st.sampled_from(OPEN), st.sampled_from(list(Role)))
    def test_knowing_the_place_never_adds_a_reading_nor_a_doubt(self, text: str, role: Role) -> None:
        read = read_marking(text)
        told = told_by_place(read, role)
        self.assertLessEqual(len(told.doubts), len(read.doubts))
        before = {(one.capacitance_f, one.rated_ac_v, one.rated_dc_v) for one in read.plausible}
        self.assertLessEqual({(one.capacitance_f, one.rated_ac_v, one.rated_dc_v) for one in told.plausible}, before)
        self.assertIs(told_by_place(told, role), told)

    @given(st.sampled_from(OPEN), st.sampled_from(list(Role)))
    def test_a_place_is_planned_no_lower_than_any_answer(self, text: str, role: Role) -> None:
        place = Position("C1", role, read_marking(text), 230.0, 50.0)
        charge = plan_charge(place.marking, role=role, supply_v=230.0)
        for doubt in place.marking.doubts:
            for option in doubt.options:
                answered = plan_charge(read_marking(option), role=role, supply_v=230.0)
                if answered:
                    assert charge is not None
                    self.assertGreaterEqual(charge.hazard.energy_j * (1 + 1e-9), answered.hazard.energy_j)


class Kinds(unittest.TestCase):
    """The kind in stock tells too."""

    def test_each_kind_tells_bare_volts(self) -> None:
        for kind in PartKind:
            part = Part("p", kind, read_marking("4.7 µF 250 V"))
            direct = kind.value.endswith(("electrolytic", "_dc", "_pulse", "ceramic", "mica"))
            self.assertEqual((part.marking.rated_dc_v, part.marking.rated_ac_v), (250.0, None) if direct else (None, 250.0), kind)
