"""What settles a verdict, meters with the last word, and the rules of the dropper, the two-core lead, D and calibration."""

import datetime
import math
import unittest
from dataclasses import replace
from typing import Any

from hypothesis import assume, given
from hypothesis import strategies as st

from dusky_heron.core.discharge.planning import explain_readings, measured_high
from dusky_heron.core.discharge.proving import hides_charge
from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import (
    SEVERITY,
    Arrangement,
    Condition,
    Dropper,
    Equipment,
    Evidence,
    LoadState,
    Measurement,
    Position,
    Quantity,
    Reading,
    Role,
    Surroundings,
    Topology,
    Verdict,
    Word,
)
from dusky_heron.core.schools import default_schools, find_school, schools
from dusky_heron.core.verdict import judge
from dusky_heron.core.verdict.dropper_balance import available_current
from dusky_heron.core.verdict.registry import DEFAULT_LIMITS, read_limit_value, show_limit_value, verdict_limits
from dusky_heron.core.verdict.two_core import ways
from tests import some

TODAY = datetime.date(2026, 6, 1)
MARKINGS = {
    Role.X: "1 µF K X2 305~", Role.Y: "3n3 M Y2 300~", Role.DROPPER: "680 nF K X2 305~", Role.MOTOR_RUN: "16 µF ±5 % 450 V~",
    Role.MOTOR_START: "189-227 µF 250 VAC", Role.RESERVOIR: "32+32 µF 500 VDC", Role.SMPS_BULK: "82 µF M 400 VDC",
    Role.DC_LINK: "1500 µF M 400 V", Role.ENERGY_STORE: "1200 µF 360 V", Role.MAGNETRON: "1.05 µF ±3 % 2100 V~",
    Role.COUPLING: ".1 MFD 400 WVDC", Role.TIMING: "100n 63 V-", Role.SMOOTHING: "100 µF 25 V", Role.SNUBBER: "47n J 1600 V-",
    Role.POWER_FACTOR: "10 µF 450 V~",
}  # fmt: skip
VALVE = Dropper(Topology.BRIDGE, 24, (LoadState("standby", 8e-3), LoadState("valve on", 34e-3)))


def place(role: Role, text: str = "", **more: Any) -> Position:
    return Position("C1", role, read_marking(text or MARKINGS[role], today=TODAY), 230, 50, **more)


def lifted(value: float, share: float = 0.002, quantity: Quantity = Quantity.CAPACITANCE, **more: Any) -> Reading:
    return Reading(value, value * (1 - share), value * (1 + share), Condition.LIFTED, quantity=quantity, **more)


def verdict(where: Position, *readings: Reading, **more: Any) -> Verdict:
    return judge(where, Evidence(readings), today=TODAY, **more)


def taken(ask: Measurement, value: float) -> Reading:
    """The asked measurement, reading a value with a meter of just the error that was asked for."""
    error = min(ask.error, max(value, 1e-12) * 0.1) if math.isinf(ask.error) else ask.error
    return Reading(value, max(value - error, 0), value + error, ask.condition, ask.section, "asked", ask.quantity, ask.frequency_hz)


def scale(where: Position, ask: Measurement) -> float:
    """About where the limit of the asked quantity lies, so that results fall on both of its sides."""
    if ask.quantity == Quantity.CAPACITANCE:
        return where.marking.sections[ask.section].capacitance_f
    return ask.error / 0.05 if math.isfinite(ask.error) else 1.0


class Settling(unittest.TestCase):
    """The measurement that is asked for settles its rule, whatever it reads."""

    @given(st.sampled_from(sorted(MARKINGS)), st.floats(0, 3), st.floats(0.7, 1.3), st.floats(0.3, 1.5), st.booleans())
    def test_any_result_of_the_asked_measurement_ends_cannot_tell_for_that_rule(
        self, role: Role, far: float, close: float, first: float, screened: bool
    ) -> None:
        where = place(role, surroundings=Surroundings(dropper=VALVE if role == Role.DROPPER else None))
        marked = where.marking.capacitance_f
        evidence = Evidence((lifted(marked * first, 0.03),) if screened else ())
        for _ in range(12):
            answer = judge(where, evidence, today=TODAY)
            ask = answer.next_measurement
            if ask is None:
                self.assertNotEqual(answer.word, Word.UNKNOWN)
                return
            asking = {reason.rule_id for reason in answer.reasons if reason.settled_by == ask}
            result = taken(ask, scale(where, ask) * (close if far > 1 else far))
            evidence = Evidence((*evidence.readings, result))
            after = judge(where, evidence, today=TODAY)
            left = {r.rule_id for r in after.reasons if r.word == Word.UNKNOWN and r.settled_by and same(r.settled_by, ask)}
            self.assertFalse(asking & left, f"{role} {ask.sentence} {result.value}")
        self.fail("it asks for ever")

    def test_what_settles_most_is_asked_first(self) -> None:
        """Two meters disagree on old paper, and its insulation decides: one insulation reading settles both."""
        blue, yellow = lifted(101e-9, 0.01, meter="blue"), lifted(112e-9, 0.01, meter="yellow")
        answer = verdict(place(Role.COUPLING), blue, yellow)
        self.assertEqual(some(answer.next_measurement).quantity, Quantity.INSULATION)

    def test_a_meter_much_finer_than_the_window_has_the_last_word(self) -> None:
        """16 µF ±5 %: tolerance 0.8 µF, a twentieth of it 40 nF. 15.21 ±0.03 µF straddles 15.2: taken as beyond."""
        for error, word in ((0.1e-6, Word.UNKNOWN), (0.03e-6, Word.REPLACE)):
            reading = Reading(15.21e-6, 15.21e-6 - error, 15.21e-6 + error, Condition.LIFTED)
            self.assertEqual(verdict(place(Role.MOTOR_RUN), reading).word, word)
        asked = verdict(place(Role.MOTOR_RUN), lifted(15.21e-6, 0.02)).next_measurement
        self.assertAlmostEqual(some(asked).error, 0.04e-6)
        self.assertIn("within ±40 nF (0.26 %)", some(asked).sentence)

    @given(st.sampled_from(sorted(MARKINGS)), st.floats(0.3, 2), st.floats(0.0001, 0.2), st.floats(0.01, 1))
    def test_a_finer_meter_never_turns_a_decision_into_its_opposite(
        self, role: Role, share: float, error: float, finer: float
    ) -> None:
        """But in a Y place, where a reading across the limit is doubt and replaces: only there may a finer meter clear it."""
        assume(role != Role.Y)
        where = place(role)
        value = where.marking.capacitance_f * share
        words = {word_of(where, lifted(value, e), f"{role}.capacitance") for e in (error, error * finer)}
        self.assertFalse({Word.KEEP, Word.REPLACE} <= words)

    @given(st.sampled_from([Quantity.ESR, Quantity.LEAKAGE, Quantity.DISSIPATION]), st.floats(0.01, 3), st.floats(1, 3))
    def test_a_worse_reading_never_improves_the_word(self, quantity: Quantity, share: float, worse: float) -> None:
        limit = {Quantity.ESR: 4.04, Quantity.LEAKAGE: 331e-6, Quantity.DISSIPATION: 0.25}[quantity]
        sound = (lifted(82e-6), lifted(0.3, 0.01, Quantity.ESR, frequency_hz=120.0))
        words = [
            verdict(place(Role.SMPS_BULK), *sound, lifted(limit * s, 0.1, quantity, frequency_hz=120.0)).word
            for s in (share, share * worse)
        ]
        self.assertLessEqual(SEVERITY[words[0]], SEVERITY[words[1]])

    @given(st.floats(1e5, 1e11), st.floats(0.01, 1))
    def test_less_insulation_never_improves_the_word(self, ohms: float, less: float) -> None:
        words = [
            verdict(place(Role.COUPLING), lifted(100e-9), lifted(r, 0.05, Quantity.INSULATION)).word for r in (ohms, ohms * less)
        ]
        self.assertLessEqual(SEVERITY[words[0]], SEVERITY[words[1]])


def same(one: Measurement, other: Measurement) -> bool:
    return (one.quantity, one.section, one.condition) == (other.quantity, other.section, other.condition)


def word_of(where: Position, reading: Reading, rule_id: str) -> Word:
    return next(r.word for r in verdict(where, reading).reasons if r.rule_id == rule_id)


class Droppers(unittest.TestCase):
    """Charge moved through the capacitor each cycle, at the lowest mains."""

    def test_worked_examples(self) -> None:
        """680 nF on 230 V 50 Hz, rail 24 V: 4fC(V̂ − 25.4) = 40.8 mA in a bridge, fC(2V̂ − 25.4) = 21.3 mA in a half wave."""
        for topology, milliamps in ((Topology.BRIDGE, 40.78), (Topology.HALF_WAVE, 21.25), (Topology.HALF_WAVE_SHUNT, 21.28)):
            self.assertAlmostEqual(available_current(topology, 680e-9, 230, 50, 24) * 1000, milliamps, places=1)
        self.assertEqual(available_current(Topology.BRIDGE, 680e-9, 10, 50, 24), 0)

    def test_enough_for_each_load_at_the_lowest_mains(self) -> None:
        """At 207 V, 34 mA through the bridge need 635 nF; 8 mA need 149 nF."""
        around = Surroundings(dropper=VALVE)
        for value, word in ((680e-9, Word.KEEP), (645e-9, Word.WATCH), (620e-9, Word.REPLACE), (300e-9, Word.REPLACE)):
            answer = verdict(place(Role.DROPPER, surroundings=around), lifted(value))
            self.assertEqual(answer.word, word, value)
        worst = verdict(place(Role.DROPPER, surroundings=around), lifted(625e-9)).reasons[0]
        self.assertIn("For valve on at 207 V it gives 33.4 mA of 34 mA", worst.sentence)
        straddling = verdict(place(Role.DROPPER, surroundings=around), lifted(635e-9, 0.01))
        self.assertEqual(straddling.word, Word.UNKNOWN)

    def test_a_clamp_above_the_mains_gives_nothing(self) -> None:
        around = Surroundings(dropper=replace(VALVE, clamp_v=400))
        self.assertEqual(verdict(place(Role.DROPPER, surroundings=around), lifted(680e-9)).word, Word.REPLACE)

    def test_without_its_load_the_tolerance_decides(self) -> None:
        self.assertEqual(verdict(place(Role.DROPPER), lifted(680e-9)).word, Word.KEEP)


class TwoCore(unittest.TestCase):
    """From line to a chassis that nothing earths."""

    def word(self, text: str, **equipment: Any) -> Word:
        return verdict(place(Role.Y, text, equipment=Equipment(**equipment)), lifted(10e-9)).word

    def test_by_class_and_construction(self) -> None:
        for text, equipment, word in (
            ("10n M 1000 VDC", {"two_core": True}, Word.CONDEMN),
            ("10n M Y2 300~", {"two_core": True}, Word.REPLACE),
            ("10n M Y2 300~", {"two_core": True, "protection": "II"}, Word.REPLACE),
            ("10n M Y1 400~", {"two_core": True, "protection": "II"}, Word.KEEP),
            ("10n M Y1 400~", {"live_chassis": True, "protection": "II"}, Word.REPLACE),
            ("10n M Y2 300~", {}, Word.KEEP),
        ):
            self.assertEqual(self.word(text, **equipment), word, (text, equipment))

    def test_a_live_chassis_is_never_earthed(self) -> None:
        for equipment in (Equipment(live_chassis=True), Equipment(two_core=True, live_chassis=True)):
            found = ways(equipment)
            self.assertTrue(found[0].never)
            self.assertFalse(any("earthed chassis" in way.sentence for way in found))
        self.assertTrue(any("earthed chassis" in way.sentence for way in ways(Equipment(two_core=True))))
        self.assertEqual(ways(Equipment()), ())


class Losses(unittest.TestCase):
    """D of film, of start parts and of electrolytics."""

    def test_by_role(self) -> None:
        for role, value, hertz, word in (
            (Role.X, 0.005, 1000, Word.KEEP), (Role.X, 0.02, 1000, Word.WATCH), (Role.MOTOR_START, 0.06, 50, Word.KEEP),
            (Role.MOTOR_START, 0.2, 50, Word.REPLACE), (Role.SMPS_BULK, 0.6, 120, Word.REPLACE),
            (Role.SMPS_BULK, 0.6, 1000, Word.KEEP),
        ):  # fmt: skip
            sound = (lifted(place(role).marking.capacitance_f), lifted(0.3, 0.01, Quantity.ESR, frequency_hz=120.0))
            answer = verdict(place(role), *sound, lifted(value, 0.05, Quantity.DISSIPATION, frequency_hz=float(hertz)))
            self.assertEqual(answer.word, word, (role, value))


class Calibration(unittest.TestCase):
    """A reading on an overdue meter is flagged."""

    def test_only_where_it_decides(self) -> None:
        late, fresh = lifted(16e-6, meter="Old meter", overdue=True), lifted(16e-6, meter="Blue")
        flagged = verdict(place(Role.MOTOR_RUN), late)
        self.assertEqual((flagged.word, flagged.reasons[0].rule_id), (Word.WATCH, "meters.overdue"))
        self.assertIn("Old meter", flagged.reasons[0].sentence)
        self.assertEqual(verdict(place(Role.MOTOR_RUN), late, fresh).word, Word.KEEP)


class Choices(unittest.TestCase):
    """Limits and schools a workshop changes."""

    def test_a_changed_limit_decides_and_names_who_changed_it(self) -> None:
        kept = verdict(place(Role.X), lifted(0.84e-6))
        stricter = verdict_limits({"x.loss": (0.10, "always-on equipment")})
        changed = verdict(place(Role.X), lifted(0.84e-6), limits=stricter)
        self.assertEqual((kept.word, changed.word), (Word.WATCH, Word.REPLACE))
        self.assertIn("changed by the workshop: always-on equipment", changed.reasons[0].source)

    @given(st.sampled_from(sorted(DEFAULT_LIMITS)), st.floats(-1, 120))
    def test_limits_are_typed_as_they_are_shown(self, key: str, shown: float) -> None:
        limit = DEFAULT_LIMITS[key]
        self.assertAlmostEqual(read_limit_value(limit, show_limit_value(limit)), limit.value)
        try:
            value = read_limit_value(limit, shown)
        except InputError as error:
            self.assertEqual(error.field, "value")
        else:
            self.assertAlmostEqual(show_limit_value(replace(limit, value=value)), shown, places=5)

    def test_the_school_of_esr(self) -> None:
        """1.2 Ω at 120 Hz: within tan δ (4.04 Ω), but 2.4 times a new part's 0.5 Ω."""
        new = Reading(0.5, 0.45, 0.55, Condition.NEW_PART, quantity=Quantity.ESR, frequency_hz=120.0)
        readings = (lifted(82e-6), lifted(1.2, 0.05, Quantity.ESR, frequency_hz=120.0), new)
        for option, word in (
            ("both", Word.REPLACE), ("new_part", Word.REPLACE), ("tan_delta", Word.KEEP), ("ignore", Word.KEEP)
        ):  # fmt: skip
            answer = verdict(place(Role.SMPS_BULK), *readings, schools=default_schools() | {"esr": option})
            self.assertEqual(answer.word, word, option)
        asked = verdict(place(Role.SMPS_BULK), *readings[:2], schools=default_schools() | {"esr": "new_part"})
        self.assertEqual(some(asked.next_measurement).condition, Condition.NEW_PART)

    def test_every_school_has_its_default_and_reason(self) -> None:
        self.assertEqual(len(schools()), 14)
        for school in schools():
            self.assertIn(school.default, school.options)
            self.assertTrue(school.why)
            self.assertTrue(school.effect)
        for bad in (("colour", "both"), ("esr", "colour")):
            with self.assertRaises(InputError):
                find_school(*bad)


class Banks(unittest.TestCase):
    """Every part of a bank or a string is read and judged by itself."""

    def test_one_weak_part_of_three_replaces_and_each_is_asked_for(self) -> None:
        bank = place(Role.ENERGY_STORE, surroundings=Surroundings(arrangement=Arrangement.PARALLEL, count=3))
        read = [lifted(1200e-6), lifted(900e-6, section=1), lifted(1190e-6, section=2)]
        asked = verdict(bank, read[0]).next_measurement
        self.assertEqual((some(asked).section, some(asked).sentence), (1, "Lift one lead and measure part 2."))
        worst = verdict(bank, *read).reasons[0]
        self.assertEqual((worst.word, worst.sentence[:14]), (Word.REPLACE, "Part 2: reads "))
        self.assertEqual(verdict(bank, read[0], lifted(1195e-6, section=1), read[2]).word, Word.KEEP)

    def test_a_part_of_a_bank_that_reads_nothing_hides_a_charge_and_a_large_one_is_planned(self) -> None:
        """The worst of three: 1 µF of 1200 cannot be proved empty; 1500 µF is more than 1200 allows."""
        marking = read_marking("1200 µF ±10 % 360 V")
        self.assertIn("cannot be proved empty", hides_charge(marking, Evidence((lifted(1200e-6), lifted(1e-6, section=2)))))
        self.assertAlmostEqual(some(measured_high(marking, Evidence((lifted(1200e-6), lifted(1500e-6, section=2))))), 1503e-6)
        beyond = Reading(0, 0, math.inf, Condition.LIFTED)
        self.assertIsNone(measured_high(marking, Evidence((beyond,))))  # a short or a leak is no capacitance to plan with
        self.assertEqual(explain_readings(marking, Evidence((beyond,))), "")


class Series(unittest.TestCase):
    """Readings shown over their range, and what was assumed away."""

    @given(st.sampled_from(sorted(MARKINGS)))
    def test_a_reading_beyond_its_range_never_keeps_a_part(self, role: Role) -> None:
        beyond = Reading(0, 0, math.inf, Condition.LIFTED)
        assume(role != Role.Y)
        self.assertEqual(word_of(place(role), beyond, f"{role}.capacitance"), Word.UNKNOWN)
        self.assertEqual(word_of(place(Role.Y), beyond, "y.capacitance"), Word.REPLACE)
