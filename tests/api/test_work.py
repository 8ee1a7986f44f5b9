"""The work of a job through the API: what a technician is told, and what is kept."""

import datetime
import threading
from dataclasses import replace
from typing import Any
from unittest import mock
from uuid import UUID

from django.db import connection

from dusky_heron.assessment.models import Reading
from dusky_heron.core.errors import InputError
from dusky_heron.jobs.models import Job, Position
from dusky_heron.record.actor import Actor, MemberRole
from dusky_heron.stock.models import Part
from dusky_heron.workshops.actions import add_member, edit_member, found_workshop
from dusky_heron.workshops.models import Member
from dusky_heron.workshops.schemas import MemberEdit, NewMember
from tests.api.base import ApiTest, forget
from tests.databases import EMPTY, Committing


class ReadingBox(ApiTest):
    """A marking before any job exists."""

    def test_four_answers(self) -> None:
        read = self.client.get("/api/reading-box", {"text": "µ68 K X2 305~ 2123"}).json()
        self.assertEqual(read["marking"]["capacitance"][0], {"value": 680e-9, "number": "680", "unit": "nF"})
        self.assertEqual(read["charge"]["voltage"]["number"], "431")
        self.assertEqual(read["may_take_its_place"], ["X2", "X1", "Y2", "Y1"])
        self.assertTrue(read["tool"]["times"][0]["nominal"]["number"])

    def test_what_cannot_be_read_is_said(self) -> None:
        answer = self.client.get("/api/reading-box", {"text": "quayside"})
        self.assertEqual(answer.status_code, 422)
        self.assertEqual(answer.json()["errors"][0]["field"], "marking")


class Pump(ApiTest):
    """Demo job 1, from charge to choice."""

    def setUp(self) -> None:
        super().setUp()
        self.c1 = f"positions/{self.position(1, 'C1').id}"

    def test_energy_and_times_by_hand(self) -> None:
        plan = self.get(f"{self.c1}/discharge")
        self.assertAlmostEqual(plan["charge"]["energy"]["value"], 0.5 * 16.8e-6 * 2 * 450**2)
        tool = next(t for t in plan["tools"] if t["name"].startswith("4.7 kΩ"))
        self.assertAlmostEqual(tool["times"][0]["nominal"]["value"], 0.1913, places=4)
        self.assertAlmostEqual(tool["times"][0]["worst"]["value"], 0.1913 * 1.05 * 1.05, places=4)

    def test_a_refused_resistor_cannot_be_used(self) -> None:
        plan = self.get(f"{self.c1}/discharge")
        refused = next(t for t in plan["tools"] if t["refusals"])
        answer = self.post(f"{self.c1}/charge", {"state": "emptying", "resistor_ids": refused["resistor_ids"]}, 422)
        self.assertEqual(answer["detail"], refused["refusals"][0])

    def test_reading_verdict_choice_and_record(self) -> None:
        plan = self.get(f"{self.c1}/discharge")
        self.post(f"{self.c1}/charge", {"state": "emptying", **{key: plan["best"][key] for key in ("shape", "resistor_ids")}})
        judged = self.post(f"{self.c1}/readings", {"value": "12.9u", "meter_id": self.meter_id()})
        self.assertEqual(judged["verdict"]["word"], "replace")
        self.assertEqual(judged["readings"][0]["interval"], "12.6 to 13.2 µF")
        found = self.get(f"{self.c1}/candidates")
        refused = {reason["rule_id"] for row in found["rejected"] for reason in row["reasons"]}
        self.assertLessEqual({"role.start_for_run", "voltage.ac"}, refused)
        chosen = self.post(f"{self.c1}/choice", {"part_id": found["accepted"][0]["part"]["id"]})
        self.assertEqual(chosen["choice"]["marking"], "16 µF ±5 % 450 V~ cl. B P2 25/085/21")
        entries = self.get(f"jobs/{self.job(1).id}/record")
        kinds = [entry["kind"] for entry in entries]
        self.assertEqual(kinds[2:], ["charge noted", "reading", "verdict", "replacement chosen"])
        self.assertEqual({entry["by_name"] for entry in entries}, {"M. Orne"})
        self.assertTrue(self.get(f"jobs/{self.job(1).id}/record/verified")["whole"])

    def test_what_the_page_shows_in_red_or_as_next_step_is_decided_here(self) -> None:
        self.assertTrue(self.get(f"{self.c1}/discharge")["charge"]["grave"])
        dryer = self.position(2, "CX1").id
        self.assertFalse(self.get(f"positions/{dryer}/discharge")["charge"]["grave"])
        self.assertTrue(self.get(f"positions/{dryer}/assessment")["verdict"]["asks_for_another_part"])
        self.assertFalse(self.get(f"{self.c1}/assessment")["verdict"]["asks_for_another_part"])
        self.assertEqual([m["name"] for m in self.get("meters") if m["overdue"]], self.overdue())

    def overdue(self) -> list[str]:
        """By the dates alone."""
        today = datetime.date.today().isoformat()
        return [m["name"] for m in self.get("meters") if m["calibration_due"] < today]

    def test_the_bench_shows_the_position_that_may_hold_most_harm(self) -> None:
        cx1, cy2 = self.position(2, "CX1").id, self.position(2, "CY2").id
        path = f"jobs/{self.job(2).id}/sheet"
        self.assertEqual(self.get(path)["gravest"]["name"], "CX1")  # both Y are unknown, and below the touch limit when full
        self.post(f"positions/{cy2}/charge", {"state": "energised"})
        self.assertEqual(self.get(path)["gravest"]["name"], "CY2")
        for name in ("CY1", "CY2"):
            self.post(f"positions/{self.position(2, name).id}/charge", {"state": "kept_shorted"})
        self.assertEqual(self.get(path)["gravest"]["position_id"], str(cx1))

    def test_the_bench_has_the_worst_charge_first(self) -> None:
        """By what may hurt and whether anything stands against it; what no proof and no link speaks for is counted as full."""
        rows = self.get("bench")
        self.assertEqual(len(rows), 8)
        holds = [row["gravest"]["energy"]["value"] for row in rows if row["gravest"]["state"] == "unknown" and row["may_hurt"]]
        self.assertEqual(holds, sorted(holds, reverse=True))
        small = self.position(3, "CD1").id
        self.post(f"positions/{small}/charge", {"state": "energised"})
        self.assertEqual(self.get("bench")[0]["job"]["number"], 3)
        self.post(f"positions/{small}/charge", {"state": "kept_shorted"})
        last = self.get("bench")[-1]
        self.assertEqual((last["job"]["number"], last["may_hurt"]), (3, False))
        self.post("jobs", {"title": "Nothing named yet", "supply_voltage": "230 V", "supply_frequency": "50 Hz"})
        (unnamed,) = [row for row in self.get("bench") if not row["gravest"]]
        self.assertEqual((unnamed["may_hurt"], unnamed["may_kill"]), (True, False))  # nothing is known of it
        kills = {row["job"]["number"]: row["may_kill"] for row in self.get("bench")}
        self.assertEqual([kills[number] for number in (4, 6)], [True, True])  # 280 J and 576 J: lethal from 10 J
        self.assertEqual([kills[number] for number in (7, 1, 2, 3)], [False] * 4)  # 9.6 J, 3.4 J, 70 mJ, kept shorted
        self.post(f"positions/{small}/charge", {"state": "energised", "link_off": True})
        self.assertTrue(next(row for row in self.get("bench") if row["job"]["number"] == 3)["may_kill"])

    def test_what_nobody_can_work_out_may_kill(self) -> None:
        small = self.position(3, "CD1").id
        with mock.patch("dusky_heron.discharge.queries.line._kept_hazard", return_value=None):
            for state, kills in (("emptying", True), ("kept_shorted", False)):
                way = {"other_way": "lamp"} if state == "emptying" else {}
                self.post(f"positions/{small}/charge", {"state": state} | way)
                row = next(one for one in self.get("bench") if one["job"]["number"] == 3)
                self.assertEqual((row["gravest"]["energy"], row["may_hurt"], row["may_kill"]), (None, kills, kills))

    def test_a_refused_part_cannot_be_chosen(self) -> None:
        start = Part.objects.get(marking="16-20 µF 330 VAC")
        answer = self.post(f"{self.c1}/choice", {"part_id": str(start.id)}, 422)
        self.assertIn("start capacitor", answer["detail"])

    def test_typed_garbage_is_refused_at_its_field_and_nothing_is_kept(self) -> None:
        for value in ("", "12.9", "-3u", "11 F", "1e999u"):
            with self.subTest(value):
                answer = self.post(f"{self.c1}/readings", {"value": value, "meter_id": self.meter_id()}, 422)
                self.assertEqual(answer["errors"][0]["field"], "value")
        self.assertFalse(Reading.objects.filter(position__job__number=1).exists())

    def test_a_changed_marking_offers_a_new_verdict_and_keeps_the_old_one(self) -> None:
        self.post(f"{self.c1}/readings", {"value": "12.9u", "meter_id": self.meter_id()})
        self.put(self.c1, {"version": 1, "name": "C1", "role": "motor_run", "marking": "13 µF ±5 % 450 V~"})
        known = self.get(f"{self.c1}/assessment")
        self.assertEqual((known["verdict"]["word"], known["recorded"]["word"], known["differs"]), ("keep", "replace", True))
        again = self.post(f"{self.c1}/verdict", {})
        self.assertEqual((again["recorded"]["word"], again["differs"]), ("keep", False))


class Promised(ApiTest):
    """By when it was promised: kept, shown on the Bench, taken away again, and never a day that nobody means."""

    def test_a_day_is_promised_and_taken_back(self) -> None:
        job = self.get(f"jobs/{self.job(1).id}/sheet")["job"]
        for version, day in ((1, "2026-12-03"), (2, "2027-01-04"), (3, None)):
            self.put(f"jobs/{job['id']}", job | {"version": version, "promised_by": day})
            row = next(row for row in self.get("bench") if row["job"]["id"] == job["id"])
            self.assertEqual(row["job"]["promised_by"], day)
        for typed in ("1926-12-03", "2926-12-03", "soon", "2027-02-30", 7.5):
            answer = self.put(f"jobs/{job['id']}", job | {"version": 4, "promised_by": typed}, 422)
            self.assertEqual([one["field"] for one in answer["errors"]], ["promised_by"], typed)


class TwoPeople(ApiTest):
    """One thing changed by two: the second is told, with what it is now."""

    def test_every_editable_thing_refuses_a_stale_write(self) -> None:
        sheet = self.get(f"jobs/{self.job(2).id}/sheet")
        meter, part, resistor = self.get("meters")[0], self.get("parts")[0], self.get("resistors")[0]
        member = next(m for m in self.get("members") if m["username"] == "vell")
        made = {"resistance": "4k7", "power": "25 W", "working_voltage": "700 V", "pulse_energy": ""}
        things = {
            f"jobs/{sheet['job']['id']}": sheet["job"],
            f"positions/{sheet['positions'][0]['id']}": sheet["positions"][0],
            f"meters/{meter['id']}": meter,
            f"parts/{part['id']}": part,
            f"resistors/{resistor['id']}": resistor | made,
            f"members/{member['id']}": member,
        }
        for path, thing in things.items():
            with self.subTest(path):
                self.put(path, thing)
                answer = self.put(path, thing, 409)
                self.assertEqual(answer["current"]["version"], thing["version"] + 1)
                self.put(path, thing | {"version": answer["current"]["version"]})


class Statements(ApiTest):
    """Reads cost the same however much there is to read."""

    def test_bench_and_sheet_take_a_constant_number_of_statements(self) -> None:
        def takes(number: int, path: str) -> None:
            with self.assertNumQueries(number):
                self.get(path)

        # session, member, clock, heads before and after, jobs, positions, charge notes, readings that charged it since, falls,
        # runs, verdicts, choices, wants, power-ups, checks, proposals, words left, newest entries; where a position has no
        # verdict yet also limits, schools, its readings and signs
        forget()
        takes(23, "bench")
        workshop = self.job(1).workshop
        for number in range(100, 120):
            job = Job.objects.create(workshop=workshop, number=number, title="x", supply_v=230, supply_hz=50)
            Position.objects.create(job=job, name="C1", role="x", marking="1 µF X2 310~")
        forget()
        takes(23, "bench")
        forget()
        takes(20, f"jobs/{self.job(2).id}/sheet")


class HandedOver(ApiTest):
    """A word for whoever goes on, and who worked on it last."""

    def row(self) -> Any:
        return next(row for row in self.get("bench") if row["job"]["number"] == 1)

    def test_the_last_word_stands_on_the_bench_and_the_sheet_until_it_is_struck(self) -> None:
        job = f"jobs/{self.job(1).id}"
        self.assertIsNone(self.row()["handed_over"])
        self.post(f"{job}/hand-over", {"says": "the glue sets until four"})
        self.sign_in("vell")
        self.assertEqual(self.row()["handed_over"]["says"], "the glue sets until four")
        second = self.post(f"{job}/hand-over", {"says": "lid is in the oven room"})
        for told in (self.row(), self.get(f"{job}/sheet")):
            self.assertEqual((told["handed_over"]["says"], told["handed_over"]["by_name"]), ("lid is in the oven room", "T. Vell"))
            self.assertEqual(told["last_by"], "T. Vell")
        self.post(f"{job}/record/{second['sequence']}/struck", {"reason": "found"})
        self.assertEqual(self.row()["handed_over"]["says"], "the glue sets until four")
        self.sign_in("orne")
        self.post(f"{job}/found", {"text": "red -> C1"})
        self.assertEqual(self.row()["last_by"], "M. Orne")

    def test_what_says_nothing_is_asked_again(self) -> None:
        for says in ("", "   ", "x" * 501):
            answer = self.post(f"jobs/{self.job(1).id}/hand-over", {"says": says}, 422)
            self.assertEqual(answer["errors"][0]["field"], "says")


class Roles(ApiTest):
    """What an apprentice may not do; a workshop keeps a lead."""

    def test_an_apprentice_works_but_does_not_decide(self) -> None:
        meter_id = self.meter_id()
        self.sign_in("vell")
        c1 = f"positions/{self.position(1, 'C1').id}"
        self.post(f"{c1}/readings", {"value": "16u", "meter_id": meter_id})
        part = self.get(f"{c1}/candidates")["accepted"][0]["part"]
        self.assertIn("apprentice", self.post(f"{c1}/choice", {"part_id": part["id"]}, 403)["detail"])
        new = {"username": "new", "name": "N", "role": "lead", "password": "long-enough-words"}
        self.post("members", new, 403)

    def test_the_last_lead_stays_one(self) -> None:
        me = next(m for m in self.get("members") if m["username"] == "orne")
        answer = self.put(f"members/{me['id']}", me | {"role": "apprentice"}, 422)
        self.assertEqual(answer["errors"][0]["field"], "role")


class NumbersOfJobs(Committing):
    """What two do at the same moment: jobs are numbered by workshop, one after the other; the last lead stays."""

    begins_with = EMPTY

    def test_two_leads_cannot_demote_each_other(self) -> None:
        first = found_workshop("W", "lead", "L", "long-enough-words")
        new = NewMember(username="other", name="O", role=MemberRole.LEAD, password="long-enough-words")
        second = replace(first, id=add_member(first, new).id, name="O")
        refused, start = list[str](), threading.Barrier(2)

        def demotes(actor: Actor, whom: UUID) -> None:
            member = Member.objects.get(id=whom)
            edit = MemberEdit(version=member.version, name=member.name, role=MemberRole.APPRENTICE, is_active=True)
            start.wait()
            try:
                edit_member(actor, whom, edit)
            except InputError as error:
                refused.append(error.field)
            finally:
                connection.close()

        both = [threading.Thread(target=demotes, args=pair) for pair in ((first, second.id), (second, first.id))]
        for one in both:
            one.start()
        for one in both:
            one.join()
        self.assertEqual((refused, Member.objects.filter(role="lead", is_active=True).count()), (["role"], 1))

    def test_next_number(self) -> None:
        from dusky_heron.jobs.actions import open_job
        from dusky_heron.jobs.schemas import JobIn

        lead = found_workshop("W", "lead", "L", "long-enough-words")
        data = JobIn(title="Pump", supply_voltage="230", supply_frequency="50")
        self.assertEqual([open_job(lead, data).number for _ in range(3)], [1, 2, 3])
