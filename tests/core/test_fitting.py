"""Fit and consequences: holes, leads, distances, and what a part of another value does to what is around it."""

import math
import unittest
from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.discharge.limits import limits_table
from dusky_heron.core.discharge.pins import behind_plug, on_the_pins
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import (
    Basis,
    Bleeder,
    Dropper,
    Equipment,
    LeadForm,
    LoadState,
    Mounting,
    Part,
    PartKind,
    Policy,
    Position,
    Role,
    Surroundings,
    Topology,
)
from dusky_heron.core.selection import fit, need_of, rank
from dusky_heron.core.selection.consequences import consequences, limits_beyond, touch_of
from dusky_heron.core.selection.sieve import sieve_of
from dusky_heron.core.tables import toml_table

LIMITS = limits_table()
FILTER = "1 µF K X2 305 V~ 40/100/21/C"


def place(marking: str = FILTER, role: Role = Role.X, **known: object) -> Position:
    return Position("C1", role, read_marking(marking), **({"supply_v": 230.0, "supply_hz": 50.0} | known))  # type: ignore[arg-type]


def film(marking: str = FILTER, **known: object) -> Part:
    return Part("p", PartKind.FILM_SAFETY, read_marking(marking), **known)  # type: ignore[arg-type]


class Holes(unittest.TestCase):
    """The board's other holes spare the bending."""

    def test_a_part_in_other_holes_is_not_bent(self) -> None:
        need = need_of(place(pitch_mm=22.5, mounting=Mounting(other_pitches_mm=(37.5, 10.0))))
        for pitch, says in (
            (22.5, ""),
            (37.5, "other holes, 37.5"),
            (15.0, "Bend leads from 15 to 10"),
            (27.5, "Bend leads from 27.5 to 22.5"),
        ):
            with self.subTest(pitch=pitch):
                chosen = rank(need, [film(pitch_mm=pitch, humidity_grade=True)]).accepted[0]
                self.assertIn(says, " ".join(chosen.adaptations))
                self.assertEqual(bool(says), bool(chosen.adaptations))

    @given(st.sampled_from(fit.PITCHES_MM), st.lists(st.sampled_from(fit.PITCHES_MM), max_size=3), st.sampled_from(fit.PITCHES_MM))
    def test_more_holes_never_refuse_what_fewer_took_and_the_sieve_agrees(
        self, own: float, others: list[float], offered: float
    ) -> None:
        few, many = place(pitch_mm=own), place(pitch_mm=own, mounting=Mounting(other_pitches_mm=tuple(others)))
        part = film(pitch_mm=offered)
        if rank(need_of(few), [part]).accepted:
            self.assertTrue(rank(need_of(many), [part]).accepted)
        if rank(need_of(many), [part]).accepted:
            self.assertIsNone(sieve_of(need_of(many), Policy()).refuses(part))

    def test_overhang_and_longer_leads_are_choices_with_their_demands(self) -> None:
        need = need_of(place(pitch_mm=10.0, space_mm=(18.0, 8.0, 14.0)))
        large = film(pitch_mm=37.5, size_mm=(41.0, 20.0, 32.0))
        self.assertEqual({r.rule_id for r in rank(need, [large]).rejected[0].reasons}, {"fit.space", "fit.pitch"})
        chosen = rank(need, [large], Policy(overridden=frozenset({"fit.space", "fit.pitch"}))).accepted[0]
        said = " ".join(chosen.adaptations)
        for asked in ("sleeved", "joined mechanically", "23 mm too large", "support the body", "Keep 3 mm"):
            self.assertIn(asked, said)
        self.assertEqual(fit.choice("fit.space")[0], "Let it overhang")  # type: ignore[index]
        self.assertIsNone(fit.choice("temperature.upper"))

    def test_distances_of_basic_and_reinforced_insulation_dry_and_wet(self) -> None:
        """Planning figures at 250 V: 3 and 6 mm, 4 and 8 mm where it is wet, dusty or medical."""
        for role, marking, wet, millimetres in (
            (Role.X, FILTER, False, 3), (Role.Y, "3n3 M Y2 300 V~", False, 6),
            (Role.X, FILTER, True, 4), (Role.Y, "3n3 M Y2 300 V~", True, 8),
        ):  # fmt: skip
            said = fit.clearance(need_of(place(marking, role, mounting=Mounting(wet=wet))))
            self.assertIn(f"Keep {millimetres} mm", said)
            self.assertIn("planning figure", said)

    def test_what_goes_into_holes_or_onto_bars_has_to_reach_them(self) -> None:
        """Leads bend by a step, pins by half a millimetre, screws stand a millimetre off; tabs and wires reach anywhere."""
        form = LeadForm
        for there, pitch, offered, distance, fits in (
            (None, 10.0, form.RADIAL, 15.0, True), (None, 10.0, form.RADIAL, 22.5, False), (None, 10.0, None, 22.5, False),
            (form.SNAP_IN, 10.0, form.SNAP_IN, 10.4, True), (form.SNAP_IN, 10.0, form.SNAP_IN, 10.6, False),
            (form.SNAP_IN, 10.0, None, 10.6, False), (form.RADIAL, 10.0, form.SNAP_IN, 7.5, False),
            (form.SCREW, 28.6, form.SCREW, 29.5, True), (form.SCREW, 28.6, form.SCREW, 29.7, False),
            (form.SCREW, 28.6, form.RADIAL, 7.5, True), (form.SCREW, 28.6, form.TABS, 7.5, True),
            (form.RADIAL, 10.0, form.TABS, 52.5, True), (form.RADIAL, 10.0, form.WIRES, 52.5, True),
            (form.TABS, 10.0, form.SNAP_IN, 37.5, True), (form.WIRES, 10.0, form.RADIAL, 37.5, True),
            (None, 37.5, form.RADIAL, 52.5, True), (None, 27.5, form.RADIAL, 52.5, False),
        ):  # fmt: skip
            with self.subTest(there=there, pitch=pitch, offered=offered, distance=distance):
                need = need_of(place(pitch_mm=pitch, mounting=Mounting(lead_form=there)))
                one = film(pitch_mm=distance, lead_form=offered)
                self.assertEqual(bool(rank(need, [one]).accepted), fits)
                if fits:
                    self.assertIsNone(sieve_of(need, Policy()).refuses(one))

    def test_every_pair_of_connections_has_its_sentence(self) -> None:
        pairs = toml_table("fitting")["leads"]
        for wanted in LeadForm:
            for offered in LeadForm:
                with self.subTest(wanted=wanted, offered=offered):
                    need = need_of(place(mounting=Mounting(lead_form=wanted)))
                    said = fit.adaptations(need, film(lead_form=offered))
                    self.assertEqual(said[:1], () if wanted is offered else (pairs[wanted][offered],))

    def test_a_hot_neighbour_and_a_loose_can(self) -> None:
        hot = Mounting(hot_neighbour=True)
        tight = need_of(place(space_mm=(30.0, 18.0, 30.0), mounting=hot))
        self.assertIn("no room beside it", fit.adaptations(tight, film(size_mm=(29.0, 17.0, 28.0)))[0])
        self.assertNotIn("no room", fit.adaptations(tight, film(size_mm=(20.0, 10.0, 20.0)))[0])
        can = need_of(place("16 µF ±5 % 450 V~ cl. B", Role.MOTOR_RUN, space_mm=(45.0, 45.0, 90.0)))
        slim = Part("p", PartKind.MOTOR_RUN, read_marking("16 µF 450 V~"), size_mm=(36.0, 36.0, 66.0))
        self.assertIn("strap it", fit.adaptations(can, slim)[0])


class Consequences(unittest.TestCase):
    """By first-order formulas, worked by hand."""

    def test_plug_pins_by_the_bleeder(self) -> None:
        """1.1 µF · 315 kΩ · ln(325.3/34) = 0.78 s; 1.65 µF takes half as long again."""
        bled = place(surroundings=Surroundings(bleeder=Bleeder(150e3, 2)))
        said = consequences(bled, [], 1.5e-6, 1.65e-6)[0]
        self.assertIn("after 1.2 s", said)
        self.assertIn("the old one 780 ms", said)

    def test_a_larger_x_that_breaks_the_plug_pins_ranks_behind_and_says_so(self) -> None:
        standard = "IEC 60335-1 (22.5)"
        bled = place(surroundings=Surroundings(bleeder=Bleeder(150e3, 2)))
        beyond = limits_beyond(bled, [], standard, LIMITS)
        self.assertEqual(len(beyond), 1)
        edge = beyond[0].farads
        self.assertGreater(edge, 1.1e-6)
        # the pins count the resistors at +5 % once for their mark and once for what they drift
        left = 230 * 2**0.5 * math.exp(-1 / (300e3 * 1.05**2 * edge))
        self.assertAlmostEqual(left, 34, delta=0.05)
        need = need_of(bled, beyond)
        same, more = film("1 µF K X2 310 V~ 40/110/56/B"), replace(film("1.5 µF K X2 310 V~ 40/110/56/B"), part_id="q")
        ranked = rank(need, [more, same]).accepted
        self.assertEqual([c.part.part_id for c in ranked], ["p", "q"])
        self.assertIn("plug pins hold more than", " ".join(ranked[1].conditions))
        self.assertNotIn("plug pins hold", " ".join(ranked[0].conditions))

    def test_an_x_part_said_to_stand_behind_a_rectifier_is_on_the_pins_all_the_same(self) -> None:
        """Its role says so: another word about its surroundings neither frees it from the limit nor divides by nothing."""
        standard, bleeder = "IEC 60335-1 (22.5)", Bleeder(150e3, 2)
        plain = limits_beyond(place(surroundings=Surroundings(bleeder=bleeder)), [], standard, LIMITS)
        for basis in Basis:
            around = Surroundings(basis=basis, volts=325.0, bleeder=bleeder)
            self.assertEqual(limits_beyond(place(surroundings=around), [], standard, LIMITS), plain)
        self.assertTrue(plain)

    def test_touch_current_of_all_y_parts(self) -> None:
        """2π · 50 Hz · 253 V · 2 · 3.96 nF = 0.63 mA."""
        one, other = place("3n3 M Y2 300 V~", Role.Y), place("3n3 M Y2 300 V~", Role.Y)
        self.assertIn("629 µA", consequences(one, [other], 3.3e-9, 3.96e-9)[0])

    def test_what_breaks_a_limit_already_is_not_blamed_on_the_new_part(self) -> None:
        self.assertEqual(limits_beyond(place(), [], None, LIMITS), ())
        metal = place("100n M Y2 300 V~", Role.Y, equipment=Equipment("II"))
        self.assertEqual(limits_beyond(metal, [], None, LIMITS), ())

    def test_dropper_reservoir_and_bulk(self) -> None:
        around = Dropper(Topology.BRIDGE, 24.0, (LoadState("valve on", 0.034, needed_f=600e-9),), largest_f=800e-9)
        said = consequences(
            place("680 nF K X2 305 V~", Role.DROPPER, surroundings=Surroundings(dropper=around)), [], 720e-9, 756e-9
        )
        self.assertEqual(said, ("+20 % on what its loads need at lowest mains; the zener stands 11 % more.",))
        self.assertEqual(consequences(place("32 µF 500 VDC", Role.RESERVOIR), [], 40e-6, 48e-6), ("Ripple about -20 %.",))
        self.assertEqual(consequences(place("82 µF 400 VDC", Role.SMPS_BULK), [], 100e-6, 120e-6), ("Hold-up about +22 %.",))
        self.assertEqual(consequences(place("82 µF 400 VDC", Role.SMPS_BULK), [], 82e-6, 98e-6), ())


class OnThePins(unittest.TestCase):
    """What is said of a place's surroundings takes it from the pins only where it says that it is elsewhere."""

    SAYS_ELSEWHERE = (Basis.RECTIFIED, Basis.DOUBLER, Basis.TRANSFORMER, Basis.DRIVE_LINK, Basis.MAGNETRON)

    def counted(self, role: Role, basis: Basis | None) -> tuple[bool, bool]:
        where = place(role=role, surroundings=Surroundings(basis=basis, volts=325.0))
        return behind_plug([where]).across_f > 0, bool(on_the_pins([where]))

    def test_across_the_line_by_its_role_whatever_is_said(self) -> None:
        for role in (Role.X, Role.DROPPER):
            for basis in (None, *Basis):
                with self.subTest(f"{role} {basis}"):
                    self.assertEqual(self.counted(role, basis), (True, True))

    def test_not_known_is_as_usual_and_elsewhere_is_elsewhere(self) -> None:
        for basis in (None, Basis.UNKNOWN, Basis.BY_HAND, Basis.MAINS):
            self.assertEqual(self.counted(Role.POWER_FACTOR, basis), (True, True), basis)
            self.assertTrue(self.counted(Role.MOTOR_RUN, basis)[0], basis)
        for basis in self.SAYS_ELSEWHERE:
            self.assertEqual(self.counted(Role.POWER_FACTOR, basis), (False, False), basis)


class Limits(unittest.TestCase):
    """Where a limit begins moves as physics says."""

    STANDARD = "IEC 60335-1 (22.5)"

    def edge(self, place_: Position, *others: Position) -> float:
        found = limits_beyond(place_, others, self.STANDARD, LIMITS)
        return found[0].farads if found else math.inf

    @given(st.floats(100e3, 250e3), st.floats(1.01, 1.3))
    def test_a_larger_bleeder_leaves_room_for_less(self, ohm: float, more: float) -> None:
        small, large = (
            place("330 nF K X2 305 V~", surroundings=Surroundings(bleeder=Bleeder(each, 1, measured_ohm=each)))
            for each in (ohm, ohm * more)
        )
        self.assertGreaterEqual(self.edge(small), self.edge(large))

    @given(st.sampled_from(["100 nF", "220 nF", "330 nF"]))
    def test_another_x_part_on_the_same_pins_leaves_room_for_less(self, value: str) -> None:
        bled = place("470 nF K X2 305 V~", surroundings=Surroundings(bleeder=Bleeder(200e3, 1, measured_ohm=200e3)))
        self.assertLessEqual(self.edge(bled, place(f"{value} K X2 305 V~")), self.edge(bled))

    def test_a_y_part_beside_others_of_class_one_equipment(self) -> None:
        """0.75 mA at 2π · 50 Hz · 253 V are 9.44 nF in all; 3.96 nF lie there already."""
        one = place("3n3 M Y2 300 V~", Role.Y, equipment=Equipment("I"))
        other = place("3n3 M Y2 300 V~", Role.Y)
        (found,) = touch_of(one, [other], self.STANDARD, LIMITS).asks
        amperes = 2 * math.pi * 50 * 253 * (found.farads + 3.96e-9)
        self.assertAlmostEqual(amperes * 1000, 0.75, delta=0.001)
        self.assertIn("touch current", found.beyond)
