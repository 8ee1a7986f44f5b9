"""Lines of the map as technicians write them."""

import re
import unittest
from collections.abc import Sequence

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.errors import InputError
from dusky_heron.core.wiring import COLOURS, FoundKind, read_found, to_put_back
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
    ("red J3 pin 4 -> C1 pin 2", "red", "J3 pin 4", "C1 pin 2", "C1", "2"),
)
OTHERS = (
    ("connector J3 red black white", FoundKind.CONNECTOR, "J3", "J3 red black white"),
    ("screws tray 2, 4 × M4 cover", FoundKind.SCREWS, "tray", "tray 2, 4 × M4 cover"),
    ("polarity C4 + up", FoundKind.POLARITY, "C4", "C4 + up"),
    ("turned C7: print to the heatsink", FoundKind.ORIENTATION, "C7", "C7: print to the heatsink"),
    ("repair C2 was changed, hand-soldered", FoundKind.REPAIR, "C2", "C2 was changed, hand-soldered"),
)

TABLES = (  # typed, name, pins with their colours
    ("J3: red black white -", "J3", (("1", ("red",)), ("2", ("black",)), ("3", ("white",)), ("4", ()))),
    ("connector J3 red black white", "J3", (("1", ("red",)), ("2", ("black",)), ("3", ("white",)))),
    ("plug CN12: bn, bu, gn/ye", "CN12", (("1", ("brown",)), ("2", ("blue",)), ("3", ("green/yellow",)))),
    ("TB1: L=brown N=blue PE=gnye", "TB1", (("L", ("brown",)), ("N", ("blue",)), ("PE", ("green/yellow",)))),
    ("C1: C=red+brown FAN=- HERM=yellow", "C1", (("C", ("red", "brown")), ("FAN", ()), ("HERM", ("yellow",)))),
    ("socket X: - – —", "X", (("1", ()), ("2", ()), ("3", ()))),
    ("J3:rd bk", "J3", (("1", ("red",)), ("2", ("black",)))),
    ("j3 : white-red orange", "j3", (("1", ("white/red",)), ("2", ("orange",)))),
)
NO_TABLES = (  # typed, what the sentence names
    ("J3: red blakc white", "blakc"),
    ("connector J3 red tab white", "tab"),
    ("J3: red black=1 white", "red"),
    ("TB1: L=brown L=blue", "L"),
    ("TB1: L=brown l=blue", "l"),
    ("J3: red -> C1.2", "J3: red"),  # a table, or a wire from there: one or the other
    ("J3: red black to C1", "J3: red"),
    ("TB1: L= N=blue", "L="),
    ("J3: red+ black", "red+"),
    ("J3:", "J3"),
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

    def test_a_connector_is_a_table_of_its_pins(self) -> None:
        for typed, name, pins in TABLES:
            with self.subTest(typed):
                line = read_found(typed)
                self.assertEqual((line.kind, some(line.about).name), (FoundKind.CONNECTOR, name))
                self.assertEqual(tuple((pin.name, pin.colours) for pin in line.pins), pins)

    def test_a_table_with_a_word_that_is_no_colour_is_asked_for_it(self) -> None:
        for typed, word in NO_TABLES:
            with self.subTest(typed), self.assertRaisesRegex(InputError, re.escape(word)) as caught:
                read_found(typed)
            self.assertEqual(caught.exception.field, "text")

    def test_words_on_a_connector_are_no_table(self) -> None:
        self.assertEqual(read_found("connector J3 lock to the left, red tab").pins, ())

    @given(st.text(max_size=60))
    def test_anything_typed_is_read_or_refused(self, typed: str) -> None:
        try:
            line = read_found(typed)
        except InputError as error:
            self.assertEqual(error.field, "text")
        else:
            self.assertTrue(line.note or line.end)


MAP = (  # typed, and on which lists it stands: of C1, of C2
    ("red J3.1 -> C1.2", True, True),  # of a connector that was opened: on both
    ("J3: red black white -", True, True),
    ("grey pump-run -> C1.1", True, False),
    ("brown C1.3 -> C2.1", True, True),
    ("white fan -> C2 pin 3", False, True),
    ("polarity C2 + up", False, True),
    ("bu inlet -> CY1.e", True, True),  # of what is no place of this job: nobody knows, so it is never left out
    ("connector LK2 lock to the left", True, True),
    ("screws tray 2, 4 × M4", False, False),
    ("repair C1 was changed", False, False),
)


class PutBack(unittest.TestCase):
    """What goes back while a part is fitted, by the map."""

    def of(self, typed: Sequence[str], place: str, places: Sequence[str] = ("C1", "C2")) -> list[str]:
        return [one.says for one in to_put_back([(str(k), text) for k, text in enumerate(typed)], place, places)]

    def test_each_line_stands_where_it_belongs(self) -> None:
        for number, place in enumerate(("C1", "C2"), 1):
            found = to_put_back([(typed, typed) for typed, *_ in MAP], place, ("c1", "c2"))
            keys = {key for one in found for key in one.keys}
            self.assertEqual(keys, {row[0] for row in MAP if row[number]}, place)

    def test_a_wire_of_a_table_and_of_a_line_is_one_wire(self) -> None:
        typed = ["J3: red black white -", "red J3.1 -> C1.2"]
        self.assertEqual(self.of(typed, "C1"), ["J3.2 black", "J3.3 white", "red J3.1 -> C1.2"])

    def test_another_colour_at_the_same_pin_is_another_wire(self) -> None:
        self.assertEqual(self.of(["J3: red", "black J3.1 -> C1.2"], "C1"), ["J3.1 red", "black J3.1 -> C1.2"])
        self.assertEqual(self.of(["J3: red", "J3.1 -> C1.2"], "C1"), ["J3.1 -> C1.2"])  # no colour contradicts none

    def test_two_wires_of_one_line_are_two_and_a_table_said_twice_is_one(self) -> None:
        self.assertEqual(self.of(["red fan -> C1.1"] * 2, "C1"), ["red fan -> C1.1", "red fan -> C1.1 (2 of these)"])
        self.assertEqual(self.of(["J3: red", "J3: red"], "C1"), ["J3.1 red"])

    def test_two_wires_in_one_pin_are_two(self) -> None:
        self.assertEqual(self.of(["TB1: L=red+brown"], "C1"), ["TB1.L red", "TB1.L brown"])
        self.assertEqual(self.of(["J3: red+red", "J3: red+red"], "C1"), ["J3.1 red", "J3.1 red (2 of these)"])
        self.assertEqual(self.of(["J3: red", "J3: red+red"], "C1"), ["J3.1 red", "J3.1 red (2 of these)"])
        self.assertEqual(self.of(["J3: red+red", "red J3.1 -> C1.2"], "C1"), ["J3.1 red", "red J3.1 -> C1.2"])

    def test_a_table_of_the_terminals_of_a_place_is_its_own(self) -> None:
        self.assertEqual(self.of(["C1: C=red HERM=yellow"], "C1"), ["C1.C red", "C1.HERM yellow"])
        self.assertEqual(self.of(["C1: C=red HERM=yellow"], "C2"), [])

    def test_whoever_is_shared_is_said(self) -> None:
        found = to_put_back([("a", "J3: red"), ("b", "grey x -> C1.1")], "C1", ("C1",))
        self.assertEqual([one.shared for one in found], [True, False])

    def test_an_empty_connector_is_one_line(self) -> None:
        self.assertEqual(self.of(["J3: - -"], "C1"), ["J3, every pin empty"])

    def test_what_was_kept_and_cannot_be_read_is_never_left_out(self) -> None:
        self.assertEqual(self.of(["connector J3 red tab up", "~"], "C1"), ["connector J3 red tab up", "~"])
