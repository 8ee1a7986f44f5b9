"""Ten thousand markings put together from known parts read back what was put in; garbage never becomes a value."""

import unittest

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from tests import drawn_by

COUNT = 10_000
DIGITS = (10, 12, 15, 18, 22, 27, 33, 39, 47, 56, 68, 82)
TOLERANCES = {
    "": None, "J": (-0.05, 0.05), "K": (-0.1, 0.1), "M": (-0.2, 0.2), "±5%": (-0.05, 0.05), "± 10 %": (-0.1, 0.1),
    "+/-20%": (-0.2, 0.2), "+10/-5%": (-0.05, 0.1), "-10/+50%": (-0.1, 0.5),
}  # fmt: skip
AC = ("{v}V~", "{v} VAC", "AC {v}V", "{v}~", "{v} V ~", "V~ {v}", "{v}V AC", "{v} Vac")
DC = ("{v}VDC", "{v} V-", "{v} V=", "{v}WVDC", "DC {v}V", "{v} V DC", "VDC {v}")
CLASSES = ("X1", "X2", "Y1", "Y2", "X1Y2", "X1/Y1", "X 2")
SPACES = (" ", "  ", ", ", "; ", " / ")


def notations(digits: int, power: int) -> list[str]:
    """One value, digits × 10^power picofarad, in every notation that fits it; comma and point alike."""
    pico = digits * 10**power
    said = [f"{pico} pF", f"{pico}pf", f"{pico} MMF"] if pico < 100_000 else []
    if pico < 1_000_000:
        said += [f"{pico / 1e3:.10g} nF", f"{pico / 1e3:.10g}nF".replace(".", ",")]
    if pico >= 1000:
        said += [f"{pico / 1e6:.10g} {unit}" for unit in ("µF", "uF", "μF", "MFD", "mfd")]
        said.append(f"{pico / 1e6:.10g}µF".replace(".", ","))
    for letter, scale in (("p", 1), ("n", 1e3), ("µ", 1e6), ("u", 1e6)):
        if 0.1 <= pico / scale < 1000:
            whole, _, part = f"{pico / scale:.10g}".partition(".")
            said.append(f"{whole if whole != '0' or letter == 'p' else ''}{letter}{part}" if part else f"{whole}{letter}")
    return said


class Composites(unittest.TestCase):
    """Value notation × tolerance × voltage × class × order × spacing."""

    def test_each_reads_back_what_was_put_in(self) -> None:
        chance = drawn_by(60062)
        for _ in range(COUNT):
            digits, power = chance.choice(DIGITS), chance.randint(0, 6)
            value = chance.choice(notations(digits, power))
            tolerance, volts = chance.choice(list(TOLERANCES)), chance.choice((63, 250, 275, 310, 400, 440, 630, 1000))
            alternating = chance.random() < 0.6
            rated = chance.choice(AC if alternating else DC).format(v=volts)
            name = chance.choice(CLASSES) if alternating and chance.random() < 0.7 else ""
            space = chance.choice(SPACES)
            head = value + (chance.choice(("", " ")) if tolerance.isalpha() and value[-1] != "n" else " ") + tolerance
            parts = [p for p in (head.strip(), rated, name) if p]
            chance.shuffle(parts)
            text = space.join(parts)
            with self.subTest(text):
                read = read_marking(text)
                self.assertAlmostEqual(read.capacitance_f / (digits * 10.0**power * 1e-12), 1, places=9)
                found = read.tolerance and (round(read.tolerance.minus, 6), round(read.tolerance.plus, 6))
                self.assertEqual(found, TOLERANCES[tolerance])
                self.assertEqual(read.rated_ac_v if alternating else read.rated_dc_v, volts)
                self.assertEqual("".join(read.class_names), name.replace("/", "").replace(" ", ""))
                self.assertEqual(({c.rated_ac_v for c in read.classes}), {volts} if name else set())
                self.assertEqual(read.unread, "")

    def test_garbage_is_a_sentence_or_a_value_of_the_trade(self) -> None:
        chance = drawn_by(1)
        letters = "0123456789 .,+-/±%~µunpmFVACDXYKJMRHz=()Ωx\x00é'<&漢"
        for _ in range(4000):
            text = "".join(chance.choice(letters) for _ in range(chance.randint(1, 40)))
            with self.subTest(text):
                try:
                    read = read_marking(text)
                except InputError as error:
                    self.assertTrue(error.sentence.endswith("."))
                    continue
                for section in (s for marking in (read, *read.alternatives) for s in marking.sections):
                    self.assertTrue(0.01e-12 <= section.capacitance_f <= 10)
