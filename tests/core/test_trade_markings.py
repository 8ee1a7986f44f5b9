"""Markings as they are found on motor and X parts, each with what a technician reads in it."""

import datetime
import unittest
from dataclasses import dataclass
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Role
from dusky_heron.core.selection.likely import likely_role
from tests import some

TODAY = datetime.date(2026, 6, 1)


@dataclass(frozen=True)
class Expected:
    """What the text says: microfarads, volts, classes, tolerance in per cent, and the rest by name."""

    uf: tuple[float, ...]
    ac: float | None = None
    dc: float | None = None
    classes: tuple[str, ...] = ()
    percent: tuple[float, float] | None = None
    upper_c: float | None = None
    operating: str | None = None
    protection: str | None = None
    unread: str = ""


TRADE = {
    # motor run
    "16 µF ±5 % 450 V~": Expected((16,), ac=450, percent=(-5, 5)),
    "16uF ±5% 450VAC 50/60Hz 25/85/21 P2 CLASS B": Expected(
        (16,), ac=450, percent=(-5, 5), upper_c=85, operating="B", protection="P2"
    ),
    "C=8µF ±5% 400V~": Expected((8,), ac=400, percent=(-5, 5)),
    "12,5 µF ± 5 % 450 V ~ S3": Expected((12.5,), ac=450, percent=(-5, 5), protection="S3"),
    "35/5 MFD 440 VAC 60Hz SH P2 10 000 AFC": Expected((35, 5), ac=440, protection="P2"),
    "45+5 µF ±6% 370/440 VAC": Expected((45, 5), ac=370, percent=(-6, 6)),
    "30 µF + 5 µF 440 VAC": Expected((30, 5), ac=440),
    "25 MFD ±6% 370VAC 60HZ -40°C/+70°C": Expected((25,), ac=370, percent=(-6, 6), upper_c=70),
    "4 µF 400 V cl. B / 450 V cl. C": Expected((4,), ac=400, operating="B"),
    "10 µF 450~ 3000h": Expected((10,), ac=450, operating="C"),
    "1.5uF±5% 450V.AC CBB": Expected((1.5,), ac=450, percent=(-5, 5), unread="CBB"),
    "20µF 425-475V~ P0": Expected((20,), ac=425, protection="P0"),
    "MKP 6.3 µF J 450 V~": Expected((6.3,), ac=450, percent=(-5, 5)),
    "5 uf 250 vac": Expected((5,), ac=250),
    "14 μF ±10 % 500 V~ 40/085/21": Expected((14,), ac=500, percent=(-10, 10), upper_c=85),
    # motor start
    "88-106 MFD 250 VAC": Expected((97,), ac=250),
    "145-174 µF 330VAC 60 Hz": Expected((159.5,), ac=330),
    "64 – 77 µF 220-250 VAC": Expected((70.5,), ac=220),
    # X parts
    "0.1 µF X2 275 V~": Expected((0.1,), ac=275, classes=("X2",)),
    "MKP X2 0.47µF K 310V~ 40/110/56/B": Expected((0.47,), ac=310, classes=("X2",), percent=(-10, 10), upper_c=110),
    "680nK X2 305~": Expected((0.68,), ac=305, classes=("X2",), percent=(-10, 10)),
    "µ22 M X2 275~": Expected((0.22,), ac=275, classes=("X2",), percent=(-20, 20)),
    "154K X2 275V AC": Expected((0.15,), ac=275, classes=("X2",), percent=(-10, 10)),
    "104K275 X2": Expected((0.1,), ac=275, classes=("X2",), percent=(-10, 10)),
    ".33 K X1 440V~": Expected((0.33,), ac=440, classes=("X1",), percent=(-10, 10)),
    "X2 MKP 1.0uF 300VAC 40/100/21/C": Expected((1.0,), ac=300, classes=("X2",), upper_c=100),
    "2µ2 K X2 310 V~": Expected((2.2,), ac=310, classes=("X2",), percent=(-10, 10)),
    "100nF M X1Y2 300V~": Expected((0.1,), ac=300, classes=("X1", "Y2"), percent=(-20, 20)),
    "4n7 M X1 440~ Y2 300~": Expected((0.0047,), ac=300, classes=("X1", "Y2"), percent=(-20, 20)),
    "n47 X1/Y1 400VAC": Expected((0.00047,), ac=400, classes=("X1", "Y1")),
    "0,15 µF X 2 250 V~": Expected((0.15,), ac=250, classes=("X2",)),
    "X3 0.22 µF 250~": Expected((0.22,), ac=250, classes=("X3",)),
    # what looks like them and is not
    "0.68 µF K 630 V=": Expected((0.68,), dc=630, percent=(-10, 10)),
    "1 µF 250V- ±10%": Expected((1,), dc=250, percent=(-10, 10)),
    "100nJ 630VDC": Expected((0.1,), dc=630, percent=(-5, 5)),
    "electrolytic 16 µF 450 V": Expected((16,), dc=450),
    "1200 µF 360 WVDC": Expected((1200,), dc=360),
}


class Trade(unittest.TestCase):
    """One reading a line."""

    def test_each_marking_reads_as_a_technician_reads_it(self) -> None:
        for text, expected in TRADE.items():
            with self.subTest(text):
                read = read_marking(text, today=TODAY)
                for section, uf in zip(read.sections, expected.uf, strict=True):
                    self.assertAlmostEqual(section.capacitance_f * 1e6, uf)
                self.assertEqual((read.rated_ac_v, read.rated_dc_v), (expected.ac, expected.dc))
                self.assertEqual(read.class_names, expected.classes)
                percent = (read.tolerance.minus * 100, read.tolerance.plus * 100) if read.tolerance else None
                self.assertEqual(percent and tuple(round(p, 6) for p in percent), expected.percent)
                self.assertEqual(read.climate.upper_c if read.climate else None, expected.upper_c)
                self.assertEqual(read.duty.pairs[0][0] if read.duty and read.duty.pairs else None, expected.operating)
                self.assertEqual(read.duty.protection_class if read.duty else None, expected.protection)
                self.assertEqual(read.unread, expected.unread)

    def test_every_piece_of_the_text_is_a_token_or_unread(self) -> None:
        for text in TRADE:
            read = read_marking(text, today=TODAY)
            kept = "".join(token.text for token in read.tokens) + read.unread
            for character in text:
                if character.isalnum():
                    self.assertIn(character, kept, text)

    def test_what_was_taken_for_granted_is_said(self) -> None:
        for text, word in (
            ("16 MFD 440 VAC", "microfarad"),
            ("16 mF 450 VAC", "larger"),
            ("0.15K X2 275~", "microfarad"),
            ("104K275 X2", "volts AC"),
            ("0.1 µF 630V", "not known"),
            ("1200 µF 360 V", "DC"),
            ("104 400VDC", "pF code"),
        ):
            with self.subTest(text):
                self.assertIn(word, " ".join(read_marking(text).assumptions))

    def test_a_bare_code_is_offered_both_ways(self) -> None:
        read = read_marking("104 400VDC")
        self.assertAlmostEqual(read.capacitance_f, 100e-9)
        self.assertAlmostEqual(read.alternatives[0].capacitance_f, 104e-6)


class OtherNotations(unittest.TestCase):
    """Networks, resistors in series, voltage codes, old climate letters and date codes."""

    def test_in_a_network_the_large_section_is_the_x_and_the_pair_the_y(self) -> None:
        for text in ("0.1 + 2 x 0.0027 µF X1 Y2", "0.1 µF X1 + 2 x 2.7 nF Y2 250~", "2 x 2700 pF Y2 + 0.1 µF X1"):
            with self.subTest(text):
                found = sorted((round(s.capacitance_f * 1e9, 6), s.classes[0].name) for s in read_marking(text).sections)
                self.assertEqual(found, [(2.7, "Y2"), (2.7, "Y2"), (100, "X1")])

    def test_a_resistor_in_series_is_no_section(self) -> None:
        for text in ("0.1 µF + 100 Ω X2 275~", "0.1µF+100R X2 275~", "0.1 µF 100 ohm X2 275~"):
            with self.subTest(text):
                read = read_marking(text)
                self.assertEqual((len(read.sections), read.series_ohm, read.unread), (1, 100, ""))

    def test_voltage_codes(self) -> None:
        for code, volts in (("2A", 100), ("2E", 250), ("2W", 450), ("2J", 630), ("3A", 1000), ("1H", 50), ("0J", 6.3)):
            for text in (f"{code}104J", f"{code} 104 J", f"104J{code}", f"104 J {code}"):
                with self.subTest(text):
                    read = read_marking(text)
                    self.assertAlmostEqual(read.capacitance_f, 100e-9)
                    self.assertEqual((read.rated_dc_v, some(read.tolerance).plus, read.alternatives), (volts, 0.05, ()))

    def test_watts_are_not_a_voltage_code(self) -> None:
        read = read_marking("16-20 µF 330 VAC with 15 kΩ 2W")
        self.assertEqual((read.rated_dc_v, read.series_ohm, read.bleeder_ohm), (None, None, 15_000))

    def test_old_climate_letters(self) -> None:
        for text, lower, upper in (("HPF", -25, 85), ("GMF", -40, 100), ("FKC", -55, 125), ("JSG", -10, 70)):
            climate = read_marking(f"0.47 µF 400~ {text}").climate
            self.assertEqual((some(climate).lower_c, some(climate).upper_c, some(climate).damp_heat_days), (lower, upper, None))

    def test_year_letter_and_month(self) -> None:
        def months(code: str) -> list[tuple[int, int | None]]:
            return [(d.year, d.month) for d in read_marking(f"0.1 µF X2 275~ {code}", today=TODAY).dates]

        self.assertEqual(months("L9"), [(2019, 9), (1999, 9), (1979, 9)])
        self.assertEqual(months("M3"), [(2020, 3), (2000, 3), (1980, 3)])
        self.assertEqual(months("XD"), [(2009, 12), (1989, 12)])  # December 2029 is not past yet
        self.assertEqual(months("U7"), [(2006, 7), (1986, 7)])  # neither is July 2026 on the first of June
        self.assertEqual(read_marking("0.1 µF X2 275~ L9", today=TODAY).dates[0].said, "September 2019")


class Roles(unittest.TestCase):
    """What a marking points to, offered and not taken for granted."""

    def test_likely_roles(self) -> None:
        for text, role in (
            ("4n7 X1 440~ Y2 300~", Role.Y),
            ("0.1 µF X2 275~", Role.X),
            ("189-227 µF 250 VAC", Role.MOTOR_START),
            ("16 µF 450 V~", Role.MOTOR_RUN),
            ("8 µF P2", Role.MOTOR_RUN),
            ("0.1 µF 250 VAC", None),
            ("1200 µF 360 V", None),
        ):
            self.assertEqual(likely_role(read_marking(text)), role, text)


class XComposites(unittest.TestCase):
    """Value notation × tolerance × class × voltage × order reads back what was put in."""

    @given(
        st.sampled_from(
            [("0.1 µF", 100e-9), ("100n", 100e-9), ("µ1", 100e-9), ("0,22uF", 220e-9), ("2µ2", 2.2e-6), ("n47", 470e-12)]
        ),
        st.sampled_from([("K", 0.1), ("±20%", 0.2), ("J", 0.05), ("", None)]),
        st.sampled_from(["X1", "X2", "Y2", "X1Y2", "X1/Y1"]),
        st.sampled_from([(275, "275V~"), (305, "305~"), (310, "310 VAC"), (440, "AC 440V")]),
        st.booleans(),
        st.sampled_from([" ", "  ", ", "]),
    )
    def test_reads_back(self, value: Any, tolerance: Any, name: Any, volts: Any, class_first: Any, space: Any) -> None:
        head = space.join(part for part in (value[0], tolerance[0]) if part)
        tail = [name, volts[1]] if class_first else [volts[1], name]
        read = read_marking(space.join([head, *tail]))
        self.assertAlmostEqual(read.capacitance_f / value[1], 1)
        self.assertEqual(read.tolerance and read.tolerance.plus, tolerance[1])
        self.assertEqual("".join(read.class_names), name.replace("/", ""))
        self.assertEqual({c.rated_ac_v for c in read.classes}, {volts[0]})
        self.assertEqual(read.unread, "")
