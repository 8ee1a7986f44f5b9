"""Stock lists in and out: as spreadsheets write them, broken in every way, seen first, taken whole, undone whole."""

import csv
import io
from decimal import Decimal
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from dusky_heron.core.errors import InputError
from dusky_heron.sheets import read_sheet, write_sheet
from dusky_heron.stock.csvfile import COLUMNS
from dusky_heron.stock.csvfile import given as given_fields
from dusky_heron.stock.models import Part
from dusky_heron.stock.queries import as_csv
from dusky_heron.workshops.models import Member
from tests.api.base import ApiTest

HEAD = "marking;kind;quantity;place;price\n"
GOOD = "1 µF K X2 310 V~;safety film;4;Z1;1,34\n"
WHOLE = (  # files that cannot be read at all, and what is said
    (b"", "empty"),
    (b"\n\n  \n", "empty"),
    (b"\x89PNG\r\n\x1a\n\x00\x00\x00", "no text file"),
    (b"PK\x03\x04\x14\x00\x06\x00\x00", "no text file"),
    (b"value;quantity\n1;2\n", "No column is called marking"),
    (b"1 uF X2;5\n", "No column is called marking"),
    (b"marking;quantity\n", "no rows under them"),
    (b"marking;quantity\n;;\n ; \n", "no rows under them"),
    (b"marking;marking\na;b\n", "Two columns are marking"),
    (b"marking;qty;quantity\na;1;2\n", "Two columns are quantity"),
    (b'marking;kind\n"1 uF X2;safety film\n', "quotation mark"),
    (b'marking;kind\n"1 uF" X2;safety film\n', "quotation mark"),
    (b"marking\n" + b"x" * 16_000_001, "larger than 16 MB"),
    (b"marking\n" + b"1 uF X2 310~\n" * 100_001, "More than 100000 rows"),
)
ROWS = (  # rows that are refused, their column and what is said
    ("nothing;safety film;1;A;1", "marking", ""),
    (";safety film;1;A;1", "marking", ""),
    ("1 µF K X2 310 V~;spring;1;A;1", "kind", "no kind known"),
    ("1 µF K X2 310 V~;safety film;many;A;1", "quantity", "not a number"),
    ("1 µF K X2 310 V~;safety film;-1;A;1", "quantity", ""),
    ("1 µF K X2 310 V~;safety film;1.5;A;1", "quantity", ""),
    ("1 µF K X2 310 V~;safety film;99999999999;A;1", "quantity", ""),
    ("1 µF K X2 310 V~;safety film;1;A;free", "price", "not a number"),
    ("1 µF K X2 310 V~;safety film;1;A;-2", "price", ""),
    ("1 µF K X2 310 V~;safety film;1;A;1.2345", "price", ""),
    ("1 µF K X2 310 V~;safety film;1;A;1e400", "price", "not a number"),
    (f"1 µF K X2 310 V~;safety film;1;{'A' * 61};1", "place", ""),
    (f"1 µF K X2 310 V~;safety film;1;{'A' * 501};1", "place", "more than 500"),
    (f"{'1 µF ' * 80};safety film;1;A;1", "marking", ""),
    ("=cmd|' /C calc'!A0;safety film;1;A;1", "marking", ""),
    ("1 µF K X2 310 V~;safety film;∞;A;1", "quantity", "not a number"),
    ("1 µF K X2 310 V~;safety film;NaN;A;1", "quantity", "not a number"),
)


class Lists(ApiTest):
    """A file seen first, then taken, then undone."""

    def send(self, content: bytes | str, path: str = "preview", status: int = 200) -> Any:
        file = SimpleUploadedFile("list.csv", content.encode() if isinstance(content, str) else content, "text/csv")
        address = "/api/part-lists/preview" if path == "preview" else "/api/part-lists"
        asked = self.answer(self.client.post(address, {"file": file}), 202 if status in (200, 409) else status)
        if status not in (200, 409):
            return asked
        work = self.done(asked)
        self.assertEqual(work["state"], "done" if status == 200 else "refused", work)
        return work["answer"] if status == 200 else work

    def test_a_row_refused_early_in_a_long_list_refuses_the_whole(self) -> None:
        """Rows are looked at five hundred at a time: what an early one said is not forgotten by a later one."""
        for bad in (2, 499, 501, 700):
            rows = [f"{k} pF K X2 310 V~;safety film;2" for k in range(1, 1200)]
            rows[bad] = "no marking at all;safety film;2"
            content = ("marking;kind;quantity\n" + "\n".join(rows)).encode()
            before = Part.objects.count()
            with self.subTest(bad):
                seen = self.send(content, "preview")
                self.assertEqual((seen["refused"], seen["rows"][0]["line"]), (1, bad + 2))
                self.assertIn("1 rows are refused", self.send(content, "take", 409)["sentence"])
                self.assertEqual(Part.objects.count(), before)

    def test_files_that_cannot_be_read_say_why_and_change_nothing(self) -> None:
        before = Part.objects.count()
        for content, says in WHOLE:
            for path in ("preview", "take"):
                with self.subTest(says=says, start=content[:20]):
                    refused = self.send(content, path, 422)
                    self.assertEqual(refused["errors"][0]["field"], "file")
                    self.assertIn(says, refused["errors"][0]["sentence"])
        self.assertEqual(Part.objects.count(), before)

    def test_broken_rows_are_named_by_line_and_column_and_nothing_is_taken(self) -> None:
        self.assertGreaterEqual(len(WHOLE) + len(ROWS), 30)
        before = Part.objects.count()
        for row, column, says in ROWS:
            with self.subTest(row=row[:60]):
                found = self.send(HEAD + GOOD + row + "\n")
                self.assertEqual((found["adds"], found["refused"]), (1, 1), found)
                self.assertEqual((found["rows"][0]["line"], found["rows"][0]["column"]), (3, column))
                self.assertIn(says, found["rows"][0]["sentence"])
                self.assertTrue(found["rows"][0]["sentence"].endswith("."))
                refused = self.send(HEAD + GOOD + row + "\n", "take", 409)
                self.assertEqual((refused["field"], refused["answer"]), ("file", None))
                self.assertIn("1 rows are refused", refused["sentence"])
        self.assertEqual(Part.objects.count(), before)

    def test_quirks_of_spreadsheets_are_read(self) -> None:
        """A mark, semicolons, tabs, decimal commas, other names of columns, blanks, old letters, no kind."""
        for content in (
            "\ufeff" + HEAD + GOOD,
            "Marking, Kind ,Qty,Drawer,Price\n 1 µF  K X2 310 V~ , Safety Film ,4,Z1,1.34\n",
            "printed\tkind\thow many\tbin\tcost\n1 µF K X2 310 V~\tfilm_safety\t4.0\tZ1\t1,34 €\n",
            ("marking;qty;place;price;note\n1 µF K X2 310 V~;4;Z1;1,34;hello\n").encode("cp1252"),
            (HEAD + GOOD).encode("utf-16"),
        ):
            found = self.send(content)
            self.assertEqual((found["adds"], found["refused"]), (1, 0), found)
            self.assertEqual(found["added"], ["1 µF K X2 310 V~"])
        self.assertEqual(self.send("marking;note\n1 µF K X2 310 V~;x\n")["unknown"], ["note"])

    def test_a_list_is_taken_and_undone_whole(self) -> None:
        before = {str(part.id): (part.quantity, part.price) for part in Part.objects.all()}
        one = Part.objects.get(marking="100 nF M X1Y2 300 V~")
        sheet = f"id;marking;quantity\n{one.id};{one.marking};9\n;820 nF J X2 310 V~;3\n"
        seen = self.send(sheet)
        self.assertEqual((seen["adds"], seen["changes"]), (1, 1))
        self.assertIn("quantity 2 to 9", seen["changed"][0])
        taken = self.send(sheet, "take")
        self.assertEqual(Part.objects.get(id=one.id).quantity, 9)
        self.assertEqual(Part.objects.get(marking="820 nF J X2 310 V~").dc_v, 0)
        again = self.send(sheet)
        self.assertEqual((again["adds"], again["changes"], again["same"]), (0, 0, 2))
        self.done(self.post(f"part-lists/{taken['id']}/undo", {}, 202))
        self.assertEqual({str(part.id): (part.quantity, part.price) for part in Part.objects.all()}, before)
        self.post(f"part-lists/{taken['id']}/undo", {}, 404)

    def test_the_same_part_twice_is_refused(self) -> None:
        found = self.send(HEAD + GOOD + GOOD)
        self.assertIn("The same part as in line 2.", found["rows"][0]["sentence"])

    def test_two_of_one_name_are_told_apart_by_their_id_only(self) -> None:
        """Two X2 of 1 µF lie in B2, of different pitch."""
        found = self.send("marking;kind;place;quantity\n1 µF K X2 310 V~ 40/110/56/B;safety film;B2;7\n")
        self.assertIn("2 parts of the drawer are called so", found["rows"][0]["sentence"])

    def test_out_and_in_again_changes_nothing_and_formulas_are_neutralised(self) -> None:
        self.post("parts", {"marking": "1 µF X2 310 V~", "kind": "film_safety", "quantity": 1, "place": "=1+1", "ripple": "0.4 A"})
        text = as_csv(Member.objects.get(username="orne").actor)
        served = self.client.get("/api/part-lists/drawer.csv")
        self.assertEqual(served.content.decode(), text)
        rows = list(csv.DictReader(io.StringIO(text.removeprefix("\ufeff"))))
        self.assertEqual(len(rows), Part.objects.count())
        self.assertFalse([cell for row in rows for cell in row.values() if cell.startswith(("=", "+", "-", "@"))])
        found = self.send(text)
        self.assertEqual((found["adds"], found["changes"], found["refused"], found["same"]), (0, 0, 0, len(rows)), found)

    def test_others_may_not(self) -> None:
        self.sign_in("vell")
        self.send(HEAD + GOOD, "take", 403)
        self.client.logout()
        self.send(HEAD + GOOD, "preview", 401)


class Bills(ApiTest):
    """A job's bill of materials: out and in again, and rows that cannot be."""

    def send(self, job: str, content: str, take: bool = False, status: int = 200) -> Any:
        file = SimpleUploadedFile("bill.csv", content.encode(), "text/csv")
        return self.answer(self.client.post(f"/api/jobs/{job}/bill{'' if take else '/preview'}", {"file": file}), status)

    def test_out_and_in_again_changes_nothing_and_into_an_empty_job_makes_the_same_places(self) -> None:
        for number in range(1, 9):
            job = str(self.job(number).id)
            text = self.client.get(f"/api/jobs/{job}/bill.csv").content.decode()
            again = self.send(job, text)
            self.assertEqual((again["adds"], again["changes"], again["refused"]), ([], [], []), again)
            copy = self.post("jobs", {"title": "Copy", "supply_voltage": "230 V", "supply_frequency": "50 Hz"})["id"]
            self.send(copy, text, take=True)
            columns = [row[:9] for row in csv.reader(io.StringIO(self.client.get(f"/api/jobs/{copy}/bill.csv").content.decode()))]
            self.assertEqual(columns, [row[:9] for row in csv.reader(io.StringIO(text))])

    def test_rows_that_cannot_be_are_named_and_nothing_is_taken(self) -> None:
        job = str(self.job(2).id)
        before = self.get(f"jobs/{job}/record")
        for row, column in (
            ("C9;smoothing;;", "marking"), (";smoothing;82 µF 400 V;", "name"), ("C9;ornament;82 µF 400 V;", "role"),
            ("C9;smoothing;nothing;", "marking"), ("C9;smoothing;82 µF 400 V;far", "pitch_mm"),
            ("C9;smoothing;82 µF 400 V;-3", "pitch_mm"),
            ("cx1;x;1 µF X2 310 V~;\nCX1;x;1 µF X2 310 V~;", "name"), (f"{'C' * 60};x;1 µF X2 310 V~;", "name"),
        ):  # fmt: skip
            with self.subTest(row=row[:40]):
                sheet = f"ref;role;value;pitch\n{row}\n"
                self.assertEqual([r["column"] for r in self.send(job, sheet)["refused"]], [column])
                self.send(job, sheet, take=True, status=422)
        self.assertEqual(self.get(f"jobs/{job}/record"), before)
        seen = self.send(job, "ref;value\nC9;1 µF K X2 310 V~\nCX1;1 µF K X2 310 V~\n")
        self.assertEqual((seen["adds"], seen["changes"]), (["C9: 1 µF K X2 310 V~"], ["CX1: 1 µF K X2 310 V~"]))
        self.send(job, "ref;note\nC9;x\n", status=422)


CELLS = st.text(st.characters(codec="utf-8", exclude_categories=("Cc", "Cs", "Zl", "Zp", "Zs")), max_size=30).map(str.strip)


class Sheets(SimpleTestCase):
    """Cells there and back."""

    @settings(max_examples=150, deadline=None)
    @given(st.lists(st.tuples(CELLS.filter(lambda cell: bool(cell) and not cell.startswith("'")), CELLS), min_size=1, max_size=20))
    def test_what_is_written_is_read_back_and_never_a_formula(self, rows: list[tuple[str, str]]) -> None:
        text = write_sheet(("marking", "place"), iter(rows))
        for row in list(csv.reader(io.StringIO(text)))[1:]:
            self.assertFalse(any(cell.startswith(("=", "+", "-", "@", "\t", "\r")) for cell in row))
        read = [(row["marking"], row["place"]) for _, row in read_sheet(("\ufeff" + text).encode(), COLUMNS).rows]
        tidy = [
            (marking, place[1:] if place.startswith("'") and place[1:2] in "=+-@" and place[1:] else place)
            for marking, place in rows
        ]
        self.assertEqual(read, tidy)

    @settings(max_examples=80, deadline=None)
    @given(st.decimals(0, 99999, places=2), st.integers(0, 10**6), st.sampled_from([",", "."]), st.sampled_from(["", " €", " mm"]))
    def test_numbers_of_either_comma_are_one_number(self, price: Decimal, quantity: int, comma: str, unit: str) -> None:
        typed = given_fields({"price": f"{price:.2f}".replace(".", comma) + unit, "quantity": str(quantity)})
        self.assertEqual((Decimal(typed["price"]), int(typed["quantity"])), (price, quantity))

    @given(st.binary(max_size=300))
    def test_any_bytes_give_a_sheet_or_a_sentence(self, content: bytes) -> None:
        try:
            sheet = read_sheet(b"marking;place\n" + content, COLUMNS)
        except InputError as error:
            self.assertTrue(error.field == "file" and error.sentence.endswith("."))
        else:
            self.assertTrue(sheet.rows)
