"""A proof by interval: whatever voltage could have given its readings is under 5 V; which pairs; which parts are never proved."""

import math
import unittest
from random import Random

from dusky_heron.core.discharge.planning import plan_charge
from dusky_heron.core.discharge.proving import (
    KnownSource,
    PairReading,
    check_first_stage,
    check_proof,
    hides_charge,
    left_on,
    not_settled,
    proof_pairs,
)
from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.metering.accuracy import Accuracy
from dusky_heron.core.metering.volts import VoltRanges, Volts, read_volts
from dusky_heron.core.model import Arrangement, Condition, Evidence, Reading, Role, Surroundings
from tests import drawn_by

SURE = KnownSource(Volts(230, 228, 232), Volts(229, 227, 231))


class Meter:
    """A meter of the tests: ranges with their last digit, per cent and counts, and where in its error it stands."""

    def __init__(self, luck: Random, *, probe: bool) -> None:
        self.counts, self.percent, self.digits = luck.choice((2000, 4000, 6000, 40000)), luck.uniform(0.05, 3), luck.randint(1, 8)
        self.probe = probe
        self.tops = (
            [luck.choice((10e3, 40e3))] if probe else luck.choice(([600.0], [6.0, 60.0, 600.0], [60.0, 1000.0], [2.0, 20.0, 200.0]))
        )
        self.luck = luck

    def digit(self, top: float) -> float:
        """The last digit of a range: the whole of it in so many counts."""
        return 10.0 ** math.ceil(math.log10(top / self.counts) - 1e-9)

    def kept(self) -> VoltRanges:
        """As the workshop keeps it."""
        lines = tuple(Accuracy(self.percent, self.digits, self.counts, 0.0, top) for top in self.tops)
        return VoltRanges(lines, self.counts, self.tops[-1], fixed=self.probe)

    def shows(self, volts: float) -> str:
        """A display at a true voltage: on a range that holds it, wrong by as much as its maker allows, in whole digits."""
        if len(self.tops) == 1 and not self.probe:  # one line is kept, and it ranges by itself
            digit = self.digit(self.tops[0]) / self.luck.choice((1, 10, 100))
        else:
            digit = self.digit(self.luck.choice([top for top in self.tops if top >= abs(volts)] or self.tops[-1:]))
        share, fixed, size = self.percent / 100, self.digits * digit, abs(volts)  # its maker counts the rounding in
        lowest = math.ceil(max(size - fixed, -fixed) / (1 + share) / digit)
        highest = math.floor((size + fixed) / (1 - share) / digit)
        shown = self.luck.choice((lowest, highest, self.luck.randint(lowest, highest))) * digit * math.copysign(1, volts)
        places = max(0, -math.floor(math.log10(digit) + 1e-9))
        if self.luck.random() < 0.2:
            places = max(0, places - 1)  # the last figure left away by hand
        return f"{shown:.{places}f}"


class Intervals(unittest.TestCase):
    """Over meters, ranges and readings."""

    def test_whatever_could_have_given_the_readings_of_a_proof_is_under_the_target(self) -> None:
        luck, proved, refused = drawn_by(5), 0, 0
        for _ in range(4000):
            meter = Meter(luck, probe=luck.random() < 0.2)
            truth = luck.choice((-1, 1)) * 10 ** luck.uniform(-2, 2)
            kept = meter.kept()
            read = read_volts(meter.shows(truth), kept, field="dc")
            self.assertTrue(read.low - 1e-9 <= abs(truth) <= read.high + 1e-9 or abs(truth) > meter.tops[-1], (truth, read))
            pair = [PairReading("a to b", read, Volts(0, 0, 0.1))]
            try:
                check_proof(["a to b"], pair, SURE, SURE)
            except InputError:
                refused += 1
                continue
            proved += 1
            self.assertLess(abs(truth), 5.0)
        self.assertGreater(min(proved, refused), 500)

    def test_a_probe_whose_last_digit_is_ten_volts_proves_nothing_below_five(self) -> None:
        probe = VoltRanges((Accuracy(1, 2, 4000, 0, 40e3),), 4000, 40e3, fixed=True)
        for typed in ("0", "0.0", "0.2", "<0.1", "3"):
            read = read_volts(typed, probe, field="dc")
            self.assertGreaterEqual(read.high, 20)
            with self.assertRaises(InputError) as caught:
                check_proof(["a to b"], [PairReading("a to b", read, read)], SURE, SURE)
            self.assertEqual(caught.exception.field, "readings.0.dc")
        fine = VoltRanges((Accuracy(1, 2, 40000, 0, 4e3),), 40000, 4e3, fixed=True)
        read = read_volts("0.2", fine, field="dc")
        self.assertLess(check_proof(["a to b"], [PairReading("a to b", read, read)], SURE, SURE), 0.5)

    def test_thresholds_of_a_reading(self) -> None:
        """±(0.5 % + 2) on three ranges: 4.9 V in tenths may be 5.12 V, in hundredths 4.94 V."""
        hand = VoltRanges(tuple(Accuracy(0.5, 2, 6000, 0, top) for top in (6.0, 60.0, 600.0)), 6000, 600)
        for typed, proves in (
            ("4.9", False), ("4.90", True), ("4.7", False), ("4.6", True), ("-4.7", False), ("0", True), ("5.0", False),
            ("<1", True),
            ("<4", False), ("<5", False),
        ):  # fmt: skip
            with self.subTest(typed):
                read = read_volts(typed, hand, field="dc")
                try:
                    check_proof(["a to b"], [PairReading("a to b", read, Volts(0, 0, 0))], SURE, SURE)
                    self.assertTrue(proves)
                except InputError:
                    self.assertFalse(proves)

    def test_what_is_not_kept_of_a_meter_and_digits_it_does_not_have(self) -> None:
        """Nothing kept: ±10 % and three digits. Ranges of 600 and 1000 V in 6000 counts show tenths at best: 2 digits, 0.2 V."""
        unknown = VoltRanges((), 6000, 600)
        coarse = VoltRanges(tuple(Accuracy(0.5, 2, 6000, 0, top) for top in (600.0, 1000.0)), 6000, 1000)
        of_range = VoltRanges((Accuracy(0.5, 2, 6000, 0.1, 600.0),), 6000, 600)
        for ranges, typed, high in (
            (unknown, "1", 4.1), (unknown, "2", 5.2), (unknown, "1.5", 1.95), (coarse, "0.003", 0.203015),
            (of_range, "0.4", 1.202), (unknown, "2e-1", 3.22), (unknown, "0,4 V", 0.74), (unknown, "400 mV", 0.443),
        ):  # fmt: skip
            self.assertAlmostEqual(read_volts(typed, ranges, field="dc").high, high)
        for typed in ("", "<", "<-3", "V", "1e400", "nan", "four", "0.4 A", "--", "\x00", "9" * 40, "1,200", "0.2.3"):
            with self.assertRaises(InputError) as caught:
                read_volts(typed, unknown, field="dc")
            self.assertEqual(caught.exception.field, "dc")

    def test_below_the_last_digit_is_a_figure_of_the_meter(self) -> None:
        hand = VoltRanges(tuple(Accuracy(0.5, 2, 6000, 0, top) for top in (60.0, 600.0)), 6000, 600)
        probe = VoltRanges((Accuracy(1, 2, 4000, 0, 40e3),), 4000, 40e3, fixed=True)
        self.assertEqual([hand.nothing(5), probe.nothing(5)], ["<0.1", "<10"])


class Sources(unittest.TestCase):
    """The meter is proved on DC for DC and on AC for AC."""

    def refused(self, dc: KnownSource, ac: KnownSource) -> str:
        """The field at which a proof is refused, or nothing."""
        try:
            check_proof(["a to b"], [PairReading("a to b", Volts(0, 0, 0.1), Volts(0, 0, 0.1))], dc, ac)
        except InputError as error:
            return error.field
        return ""

    def test_ten_times_the_target_and_the_same_again(self) -> None:
        def known(before: float, after: float, error: float = 0.01) -> KnownSource:
            return KnownSource(*(Volts(v, abs(v) * (1 - error), abs(v) * (1 + error)) for v in (before, after)))

        for source, end in (
            (known(230, 229), ""), (known(50, 50), ""), (known(49.6, 49.6), ""), (known(49.4, 49.4), "known_before"),
            (known(0.3, 230), "known_before"), (known(60, 4), "known_after"), (known(230, 234.5), ""),
            (known(230, 235), "known_after"),
            (known(230, 208, 0.2), ""), (known(230, 206, 0.2), "known_after"), (known(-230, -229), ""),
        ):  # fmt: skip
            with self.subTest(source):
                self.assertEqual(self.refused(source, SURE), end)
                self.assertEqual(self.refused(SURE, source), f"{end}_ac" if end else "")

    def test_a_few_volts_of_ac_may_be_coupled_in_and_a_low_impedance_reading_decides(self) -> None:
        ghost, none = Volts(12, 11.5, 12.5), Volts(0.1, 0, 0.3)
        alone, decided = PairReading("a to b", none, ghost), PairReading("a to b", none, ghost, none)
        real = PairReading("a to b", none, ghost, ghost)
        self.assertIn("low-impedance", left_on([alone])[0].sentence)
        self.assertNotIn("low-impedance", left_on([alone], input_ohm=400e3)[0].sentence)
        self.assertEqual(left_on([decided]), ())
        self.assertEqual(len(left_on([real])), 1)
        self.assertAlmostEqual(check_proof(["a to b"], [decided], SURE, SURE), 0.3)
        dc = PairReading("a to b", ghost, none, none)
        self.assertEqual(len(left_on([dc])), 1)  # DC is no ghost


class Sequence(unittest.TestCase):
    """Every pair, on both kinds; above 1 kV with a probe first."""

    def test_nothing_is_left_out(self) -> None:
        none, live = Volts(0.1, 0, 0.3), Volts(229, 226, 232)
        dead = [PairReading(pair, none, none) for pair in ("a", "b", "c")]
        for readings, field in (
            (dead[:2], "readings"), ([PairReading("a", none, None), *dead[1:]], "readings.0.ac"),
            ([*dead[:2], PairReading("c", None, none)], "readings.2.dc"),
            ([PairReading("a", none, live), *dead[1:]], "readings.0.ac"),
            (dead[::-1], "readings"),
        ):  # fmt: skip
            with self.assertRaises(InputError) as caught:
                check_proof(["a", "b", "c"], readings, SURE, SURE)
            self.assertEqual(caught.exception.field, field)
        self.assertAlmostEqual(check_proof(["a", "b", "c"], dead, SURE, SURE), 0.3)

    def test_a_probe_comes_first_above_one_kilovolt(self) -> None:
        def stage(*read: Volts | None) -> float:
            return check_first_stage(["a", "b"], read)

        self.assertEqual(stage(Volts(0, 0, 300), Volts(600, 300, 900)), 900)
        for read, field in (
            ((Volts(0, 0, 300),), "probe_readings"), ((Volts(0, 0, 300), None), "probe_readings.1"),
            ((Volts(0, 0, 1000), Volts(0, 0, 300)), "probe_readings.0"),
            ((Volts(0, 0, 300), Volts(900, 700, 1100)), "probe_readings.1"),
        ):  # fmt: skip
            with self.assertRaises(InputError) as caught:
                stage(*read)
            self.assertEqual(caught.exception.field, field)
        self.assertEqual(stage(Volts(0, 0, 999.9), Volts(0, 0, 300)), 999.9)

    def test_the_pairs_of_banks_duals_and_banks_of_duals(self) -> None:
        def pairs(text: str, count: int = 1, arrangement: Arrangement = Arrangement.PARALLEL) -> tuple[str, ...]:
            around = Surroundings(arrangement=arrangement if count > 1 else Arrangement.SINGLE, count=count)
            return proof_pairs(read_marking(text), around)

        self.assertEqual(len(pairs("16 µF 450 V~")), 3)
        self.assertEqual(len(pairs("30+5 µF 440 V~")), 6)
        self.assertEqual(len(pairs("1500 µF 400 V", 3)), 5)
        self.assertEqual(len(pairs("1500 µF 400 V", 3, Arrangement.SERIES)), 10)  # four ends: six pairs, four to chassis
        self.assertEqual(len(pairs("32+32 µF 500 VDC", 2)), 12)
        self.assertEqual(len(pairs("32+32 µF 500 VDC", 2, Arrangement.SERIES)), 12)
        self.assertEqual(pairs("0.1 + 2 x 0.0027 µF X1 Y2"), ("line to neutral", "line to chassis", "neutral to chassis"))
        self.assertEqual(len(pairs("0.1 + 2 x 0.0027 µF X1 Y2", 2)), 4)
        for text, count in (("16 µF 450 V~", 1), ("32+32 µF 500 VDC", 3), ("1500 µF 400 V", 12)):
            self.assertEqual(len(set(pairs(text, count))), len(pairs(text, count)))


class Hidden(unittest.TestCase):
    """A part that reads open or far low cannot be proved from outside, and a reading in circuit takes nothing back."""

    def hidden(self, text: str, *read: tuple[float, Condition], role: Role | None = None, volts: float | None = None) -> bool:
        marking = read_marking(text)
        around = Surroundings() if volts is None else Surroundings(volts=volts, confirmed=True)
        charge = plan_charge(marking, role=role, supply_v=230, surroundings=around)
        readings = tuple(Reading(f, f * 0.97, f * 1.03, condition) for f, condition in read)
        return bool(hides_charge(marking, Evidence(readings), role=role, charge=charge))

    def test_open_and_far_low(self) -> None:
        for farads, hidden in ((0.0, True), (3e-6, True), (7.7e-6, True), (7.8e-6, False), (12.9e-6, False), (16e-6, False)):
            self.assertEqual(self.hidden("16 µF 450 V~", (farads, Condition.LIFTED)), hidden, farads)
            self.assertEqual(self.hidden("16 µF 450 V~", (farads, Condition.IN_CIRCUIT)), hidden, farads)
        self.assertFalse(self.hidden("16 µF 450 V~"))

    def test_only_a_reading_out_of_circuit_takes_it_back(self) -> None:
        low, good = 0.1e-6, 16e-6
        text = "16 µF 450 V~"
        self.assertTrue(self.hidden(text, (low, Condition.LIFTED), (good, Condition.IN_CIRCUIT)))
        self.assertTrue(self.hidden(text, (low, Condition.IN_CIRCUIT), (good, Condition.NEW_PART)))
        self.assertFalse(self.hidden(text, (low, Condition.LIFTED), (good, Condition.LIFTED)))
        self.assertTrue(self.hidden(text, (good, Condition.LIFTED), (low, Condition.IN_CIRCUIT)))
        self.assertFalse(self.hidden(text, (good, Condition.LIFTED), (low, Condition.NEW_PART)))  # of another part

    def test_metallised_film_wears_down_whole(self) -> None:
        for text, role, left, hidden in (
            ("470 nF X2 310 V~", Role.DROPPER, 0.3, False), ("470 nF X2 310 V~", Role.DROPPER, 0.04, True),
            ("470 nF X2 310 V~", Role.DROPPER, 0.06, False), ("16 µF 450V~ class B", Role.MOTOR_RUN, 0.4, False),
            ("16 µF 450 V~", Role.MOTOR_RUN, 0.4, True), ("1 µF 630 V MKP", Role.SNUBBER, 0.3, False),
            ("1500 µF 400 V", Role.SMPS_BULK, 0.4, True),
        ):  # fmt: skip
            nominal = read_marking(text).capacitance_f
            self.assertEqual(self.hidden(text, (nominal * left, Condition.LIFTED), role=role), hidden, (text, left))

    def test_below_what_startles_it_does_not_matter(self) -> None:
        """4.7 nF may be touched up to 912 V (IEC 62368-1 table 5); 100 nF above 95 V may not."""
        self.assertFalse(self.hidden("4.7 nF Y2 300 V~", (0.0, Condition.LIFTED), role=Role.Y))
        self.assertTrue(self.hidden("100 nF X2 310 V~", (0.0, Condition.LIFTED), role=Role.X))

    def test_what_may_be_there_has_to_be_settled_first(self) -> None:
        self.assertIn("not settled", not_settled(read_marking("0.1 µF 630 V"), Surroundings()))
        self.assertEqual(not_settled(read_marking("0.1 µF 630 V"), Surroundings(confirmed=True)), "")
