"""What is kept in memory of records: it is what stands, whatever was written, by whom, and however late it has become."""

import datetime
from collections.abc import Mapping, Sequence
from unittest import mock
from uuid import UUID, uuid4

from django.test import SimpleTestCase
from django.utils import timezone

from dusky_heron.assessment.queries.board import BOARDS
from dusky_heron.jobs.models import Position
from dusky_heron.record.heads import Heads, Kept
from tests.api.base import ApiTest, forget
from tests.api.test_discharge import Discharging

DAY = datetime.date(2026, 6, 1)


class Memory(SimpleTestCase):
    """By itself, with heads that the test gives."""

    def setUp(self) -> None:
        self.worked: list[list[UUID]] = []
        self.memory = Kept[str](3)
        self.one, self.other = uuid4(), uuid4()

    def of(self, *heads: Mapping[UUID, Heads], says: str = "first", day: datetime.date = DAY) -> dict[UUID, str]:
        reads = iter(heads)

        def work_out(missing: Sequence[UUID]) -> dict[UUID, str]:
            self.worked.append(list(missing))
            return dict.fromkeys(missing, says)

        with mock.patch.object(timezone, "localdate", return_value=day):
            return self.memory.of(lambda: next(reads), work_out)

    def test_under_the_same_heads_it_is_worked_out_once(self) -> None:
        heads = {self.one: Heads("a", "w"), self.other: Heads("a", "w")}
        self.of(heads, heads)
        self.assertEqual(self.of(heads, says="second"), {self.one: "first", self.other: "first"})
        self.assertEqual(self.worked, [[self.one, self.other]])

    def test_either_head_or_another_day_makes_it_new_and_only_that_job(self) -> None:
        for changed, day in ((Heads("b", "w"), DAY), (Heads("a", "v"), DAY), (Heads("a", "w"), DAY + datetime.timedelta(1))):
            with self.subTest(changed, day=day):
                self.setUp()
                before = {self.one: Heads("a", "w"), self.other: Heads("a", "w")}
                self.of(before, before)
                after = before | {self.one: changed}
                self.assertEqual(self.of(after, after, says="second", day=day)[self.one], "second")
                self.assertEqual(self.worked[1:], [[self.one]] if day == DAY else [[self.one, self.other]])

    def test_what_was_written_meanwhile_is_kept_under_neither_head(self) -> None:
        before, after = {self.one: Heads("a", "w")}, {self.one: Heads("b", "w")}
        self.assertEqual(self.of(before, after)[self.one], "first")
        self.assertEqual(self.of(before, before, says="second")[self.one], "second")
        self.assertEqual(self.of(after, after, says="third")[self.one], "third")

    def test_what_has_no_record_is_never_kept(self) -> None:
        for heads in (Heads(None, "w"), Heads("a", None)):
            with self.subTest(heads):
                self.of({self.one: heads}, {self.one: heads})
                self.assertEqual(self.of({self.one: heads}, {self.one: heads}, says="second")[self.one], "second")

    def test_at_most_so_many_those_looked_at_last(self) -> None:
        ids = [uuid4() for _ in range(4)]
        for key in (*ids[:3], ids[0], ids[3]):  # the first is looked at once more before the fourth comes
            heads = {key: Heads("a", "w")}
            self.of(heads, heads)
        self.worked.clear()
        for key in (ids[0], ids[2], ids[3], ids[1]):
            heads = {key: Heads("a", "w")}
            self.of(heads, heads)
        self.assertEqual(self.worked, [[ids[1]]])


class WhatStands(Discharging):
    """In the application: fewer statements, the same answers."""

    def takes(self, number: int, path: str) -> None:
        with self.assertNumQueries(number):
            self.get(path)

    def test_what_nobody_wrote_to_takes_two_statements_beside_session_and_member(self) -> None:
        sheet, board = f"jobs/{self.job(2).id}/sheet", f"jobs/{self.job(2).id}/board"
        for path in ("bench", sheet, board):
            self.get(path)
        self.takes(4, "bench")  # heads, clock
        self.takes(4, sheet)
        self.takes(3, board)  # heads

    def test_a_proof_lapses_while_nobody_writes(self) -> None:
        path = self.path(2, "CX1")
        self.empty(path)
        self.post(f"{path}/proof", self.proof(path))
        states, now = [], timezone.now()
        for hours in (0, 0, 30):
            dryer = next(row for row in self.bench(now + datetime.timedelta(hours=hours)) if row.job.number == 2)
            states.append(dryer.gravest and dryer.gravest.state)
        self.assertEqual(states, ["proved", "proved", "lapsed"])

    def test_a_limit_a_meter_and_a_school_change_every_job_at_once(self) -> None:
        position = self.position(1, "C1")
        self.post(f"positions/{position.id}/readings", {"value": "15.7u", "meter_id": self.meter_id()})
        path = f"jobs/{self.job(1).id}/board"
        before = next(row for row in self.get(path)["rows"] if row["name"] == "C1")
        row = next(row for row in self.get("limits") if row["id"] == "near_edge")
        self.put("limits", {"id": row["id"], "version": row["version"], "value": 90, "reason": "house rule"})
        after = next(row for row in self.get(path)["rows"] if row["name"] == "C1")
        self.assertNotEqual(before["sentence"], after["sentence"])

    def test_another_workshop_is_given_nothing_of_it(self) -> None:
        path = f"jobs/{self.job(2).id}/board"
        self.get(path)
        self.sign_in("stranger")
        self.get(path, 404)
        self.get(f"jobs/{self.job(2).id}/sheet", 404)
        self.assertEqual(self.get("bench"), [])


class Beside(ApiTest):
    """A row that was changed past every action: memory does not show it, and a server that starts does."""

    FORGES = True

    def test_a_forged_row_is_seen_once_memory_is_empty(self) -> None:
        path = f"jobs/{self.job(2).id}/board"
        self.get(path)
        Position.objects.filter(job__number=2, name="CX1").update(name="CX9")
        self.assertEqual(len(BOARDS._kept), 1)
        forget()
        self.assertIn("CX9", [row["name"] for row in self.get(path)["rows"]])
