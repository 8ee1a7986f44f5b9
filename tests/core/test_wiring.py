"""Lines of the map as technicians write them."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.errors import InputError
from dusky_heron.core.wiring import COLOURS, FoundKind, read_found
from tests import some

WIRES = (  # typed, colour, from, to, position and terminal of the end
    ("grey pump-run -> C1.2", "grey", "pump-run", "C1.2", "C1", "2"),
    ("gy pump-run->C1.2", "grey", "pump-run", "C1.2", "C1", "2"),
    ("green/yellow chassis -> TB1.3", "green/yellow", "chassis", "TB1.3", "TB1", "3"),
    ("GNYE inlet → CY1:e", "green/yellow", "inlet", "CY1:e", "CY1", "e"),
    ("wire bn L1 => F1/1", "brown", "L1", "F1/1", "F1", "1"),
    ("red white fan motor lead to C12.HERM", "red/white", "fan motor lead", "C12.HERM", "C12", "HERM"),
    ("bk-wh 4 -> common strap", "black/white", "4", "common strap", "", ""),
    ("pump-run -> C1", "", "pump-run", "C1", "C1", ""),
    ("bu -> C1.1", "blue", None, "C1.1", "C1", "1"),
)
OTHERS = (
    ("connector J3 red black white", FoundKind.CONNECTOR, "J3", "J3 red black white"),
    ("screws tray 2, 4 × M4 cover", FoundKind.SCREWS, "tray", "tray 2, 4 × M4 cover"),
    ("polarity C4 + up", FoundKind.POLARITY, "C4", "C4 + up"),
    ("turned C7: print to the heatsink", FoundKind.ORIENTATION, "C7", "C7: print to the heatsink"),
    ("repair C2 was changed, hand-soldered", FoundKind.REPAIR, "C2", "C2 was changed, hand-soldered"),
)


class Lines(unittest.TestCase):
    """One line each."""

    def test_wires(self) -> None:
        for typed, colour, start, end, name, terminal in WIRES:
            with self.subTest(typed):
                line = read_found(typed)
                self.assertEqual(line.kind, FoundKind.WIRE)
                self.assertEqual((line.colour, line.start.text if line.start else None, some(line.end).text), (colour, start, end))
                self.assertEqual((some(line.end).name, some(line.end).terminal), (name, terminal))

    def test_others(self) -> None:
        for typed, kind, about, note in OTHERS:
            with self.subTest(typed):
                line = read_found(typed)
                self.assertEqual((line.kind, line.note), (kind, note))
                self.assertTrue(line.about is None or line.about.name == about)

    def test_every_code_of_the_standard_is_its_colour(self) -> None:
        for code, colour in COLOURS.items():
            self.assertEqual(read_found(f"{code.upper()} a1 -> C1.1").colour, colour)

    def test_what_is_no_line_says_what_to_type(self) -> None:
        for typed in ("", "  ", "grey pump-run C1.2", "a -> b -> c", "-> C1", "grey ->", "screws", "connector  "):
            with self.subTest(typed), self.assertRaises(InputError) as caught:
                read_found(typed)
            self.assertEqual(caught.exception.field, "text")

    @given(st.text(max_size=60))
    def test_anything_typed_is_read_or_refused(self, typed: str) -> None:
        try:
            line = read_found(typed)
        except InputError as error:
            self.assertEqual(error.field, "text")
        else:
            self.assertTrue(line.note or line.end)
