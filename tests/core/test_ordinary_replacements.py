"""Ten ordinary replacements of the week, written down before the rules: the right part is offered first, and nothing is asked."""

import unittest
from dataclasses import dataclass, field

from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Basis, Equipment, OldPart, Part, PartKind, Position, Role, Surroundings
from dusky_heron.core.selection import need_of, rank
from dusky_heron.core.selection.volts import unknown

K = PartKind


@dataclass(frozen=True)
class Job:
    """A place, the part that is right for it, and what else lies in the drawer."""

    what: str
    role: Role
    old: str
    right: tuple[PartKind, str]
    others: tuple[tuple[PartKind, str], ...]
    around: Surroundings = field(default_factory=Surroundings)
    equipment: Equipment = field(default_factory=lambda: Equipment("I"))
    known: OldPart = field(default_factory=OldPart)


JOBS = (
    Job("pump", Role.MOTOR_RUN, "16 µF ±5 % 450 V~ cl. B P2", (K.MOTOR_RUN, "16 µF ±5 % 450 V~ cl. B P2 25/085/21"),
        ((K.MOTOR_RUN, "16 µF ±5 % 450 V~ cl. C P2"), (K.MOTOR_START, "16-20 µF 330 VAC"),
         (K.MOTOR_RUN, "15 µF ±5 % 500 V~ cl. A P2"))),
    Job("air conditioner", Role.MOTOR_RUN, "45+5 µF ±6 % 440 VAC", (K.MOTOR_RUN, "45+5 µF ±6 % 370/440 VAC"),
        ((K.MOTOR_RUN, "45 µF ±6 % 440 VAC"), (K.MOTOR_RUN, "40+5 µF ±6 % 440 VAC"), (K.MOTOR_RUN, "45+5 µF ±6 % 370 VAC"))),
    Job("compressor", Role.MOTOR_START, "189-227 µF 250 VAC", (K.MOTOR_START, "189-227 µF 330 VAC"),
        ((K.MOTOR_START, "270-324 µF 250 VAC"), (K.ELECTROLYTIC, "220 µF 400 VDC"), (K.MOTOR_START, "189-227 µF 165 VAC"))),
    Job("hand dryer", Role.X, "1 µF K X2 275 V~", (K.FILM_SAFETY, "1 µF K X2 310 V~ 40/110/56/B"),
        ((K.FILM_SAFETY, "1 µF K X2 275 V~"), (K.FILM_DC, "1 µF K 630 VDC"), (K.FILM_SAFETY, "1.2 µF K X2 310 V~"))),
    Job("drill", Role.Y, "2n2 M Y2 250 V~", (K.CERAMIC_SAFETY, "2n2 M Y2 300 V~"),
        ((K.FILM_SAFETY, "2n2 M X1 440 V~"), (K.CERAMIC, "2n2 M 2000 VDC"), (K.CERAMIC_SAFETY, "1n5 M Y2 300 V~")),
        equipment=Equipment("II")),
    Job("thermostat", Role.DROPPER, "330 nF K X2 305 V~", (K.FILM_SAFETY, "330 nF K X2 310 V~ 40/110/56/B"),
        ((K.FILM_DC, "330 nF K 630 VDC"), (K.FILM_SAFETY, "390 nF K X2 310 V~"), (K.FILM_SAFETY, "330 nF M X2 275 V~"))),
    Job("gate lamp", Role.SMPS_BULK, "82 µF M 400 VDC 105 °C", (K.ELECTROLYTIC, "82 µF M 450 VDC 105 °C"),
        ((K.ELECTROLYTIC, "82 µF M 400 VDC 85 °C"), (K.ELECTROLYTIC, "100 µF M 450 VDC 105 °C"),
         (K.ELECTROLYTIC, "82 µF M 200 VDC 105 °C")),
        Surroundings(Basis.RECTIFIED), known=OldPart(ripple_a=0.4)),
    Job("amplifier", Role.RESERVOIR, "4700 µF 50 V", (K.ELECTROLYTIC, "4700 µF M 63 V 105 °C"),
        ((K.ELECTROLYTIC, "4700 µF M 25 V"), (K.ELECTROLYTIC, "10000 µF M 63 V"), (K.PULSE_ELECTROLYTIC, "4700 µF 63 V")),
        Surroundings(Basis.TRANSFORMER, 27.0), known=OldPart(ripple_a=2.0)),
    Job("organ coupling", Role.COUPLING, ".1 MFD 400 WVDC paper", (K.FILM_DC, "100 nF K MKT 630 VDC"),
        ((K.FILM_DC, "100 nF K 250 VDC"), (K.CERAMIC, "100 nF M X7R 500 VDC"), (K.FILM_DC, "150 nF K 630 VDC"))),
    Job("timer", Role.TIMING, "470 nF J MKT 63 VDC", (K.FILM_DC, "470 nF J MKT 100 VDC"),
        ((K.FILM_DC, "470 nF K MKT 100 VDC"), (K.ELECTROLYTIC, "470 nF 63 V"), (K.CERAMIC, "470 nF M X7R 100 VDC"))),
)  # fmt: skip


class Ordinary(unittest.TestCase):
    """Offered first, nothing asked, nothing to sign; and the first is not the only one that is looked at."""

    def test_the_right_part_is_first_and_nothing_is_asked(self) -> None:
        self.assertGreaterEqual(len(JOBS), 10)
        for job in JOBS:
            with self.subTest(job.what):
                place = Position("C1", job.role, read_marking(job.old), 230, 50, surroundings=job.around,
                                 equipment=job.equipment, old=job.known)  # fmt: skip
                need = need_of(place)
                self.assertEqual((need.open_question, need.asks_class, unknown(need)), ("", "", ""))
                drawer = [Part(text, kind, read_marking(text), ripple_a=3.0) for kind, text in (*job.others, job.right)]
                first = rank(need, drawer).accepted[0]
                self.assertEqual(first.part.part_id, job.right[1])
                self.assertEqual(first.to_sign, ())
