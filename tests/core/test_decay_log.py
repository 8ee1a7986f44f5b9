"""Logs of time and volts as people type and instruments export them."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.discharge.decay_log import read_log
from dusky_heron.core.errors import InputError

NUMBERS = st.floats(0, 9999).map(lambda x: round(x, 2))


class Lines(unittest.TestCase):
    """One reading a line."""

    def test_one_reading_in_many_shapes(self) -> None:
        for line in (
            "5, 212.4", "5,212.4", "5;212,4", "5\t212.4", "5 212.4", "5 212,4", "5 s, 212.4 V", "5s 212.4V", "0:05, 212.4",
            "00:05;212,4",
            "0:00:05 212.4", "5000 ms, 0.2124 kV", "5 s; 212400 mV", "5.0,212.40", "  5 ,  212.4  ", "5e0, 2.124e2",
        ):  # fmt: skip
            with self.subTest(line):
                ((seconds, volts),) = read_log(line)
                self.assertAlmostEqual(seconds, 5)
                self.assertAlmostEqual(volts, 212.4)

    def test_minutes_hours_and_negative_volts(self) -> None:
        self.assertEqual(read_log("2 min, 40\n1:02:03, -12.5"), [(120, 40), (3723, -12.5)])

    def test_headings_and_blank_lines_are_passed_over(self) -> None:
        self.assertEqual(read_log("time;volts\n\n0;358\n\n1;301,5\n"), [(0, 358), (1, 301.5)])

    def test_what_cannot_be_read_is_named_by_its_line(self) -> None:
        for text, said in (
            ("0, 358\nfive, 2", "Line 2"), ("0, 358\n1", "Line 2"), ("1 2 3", "Line 1"), ("0, 358\n\n1, x", "Line 3"),
            ("", "such as 5, 212"), ("1" * 5000 + " x", "Line 1"),
            ("only words", "such as 5, 212"), ("\x00, 5", "Line 1"), ("1,2,3", "Line 1"), ("5 kg, 212", "Line 1"),
            ("5, 212 A", "Line 1"),
        ):  # fmt: skip
            with self.subTest(text), self.assertRaises(InputError) as caught:
                read_log(text)
            self.assertEqual(caught.exception.field, "rows")
            self.assertIn(said, caught.exception.sentence)

    def test_a_line_of_eighty_characters_is_read_and_a_longer_one_is_not(self) -> None:
        line = f"5{' ' * 75}, 21"
        self.assertEqual((len(line), read_log(line)), (80, [(5, 21)]))
        with self.assertRaises(InputError):
            read_log(f"5{' ' * 76}, 21")

    def test_no_more_lines_than_a_fit_takes(self) -> None:
        self.assertRaises(InputError, read_log, "\n".join(f"{k}, 1" for k in range(5001)))

    @given(st.lists(st.tuples(NUMBERS, NUMBERS), min_size=1, max_size=20), st.sampled_from([", ", ";", "\t", " "]))
    def test_what_was_written_is_read_back(self, samples: list[tuple[float, float]], between: str) -> None:
        self.assertEqual(read_log("\n".join(f"{t:.2f}{between}{v:.2f}" for t, v in samples)), samples)

    @given(st.text(max_size=60))
    def test_any_text_is_readings_or_a_sentence(self, text: str) -> None:
        try:
            read_log(text)
        except InputError as error:
            self.assertTrue(error.sentence.endswith("."))
