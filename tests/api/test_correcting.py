"""Order is the order of the record, whatever the clock says and whenever a line arrives; what was wrong is struck."""

import datetime
import random
from typing import Any
from unittest import mock

from django.utils import timezone

from dusky_heron.assessment.models import Reading
from dusky_heron.discharge.models import ChargeNote
from dusky_heron.handback.models import CheckResult
from dusky_heron.record.actor import MemberRole
from dusky_heron.record.clock import watch
from dusky_heron.record.models import Entered, Entry
from dusky_heron.record.queries import rows_of
from dusky_heron.record.verifying import verify
from dusky_heron.workshops.actions import add_member
from dusky_heron.workshops.schemas import NewMember
from tests import drawn_by, loose
from tests.api.base import KNOWN, ApiTest
from tests.databases import PASSWORD

HOUR = 3600.0


class Clocked(ApiTest):
    """A server whose clock is set by hand."""

    def setUp(self) -> None:
        super().setUp()
        self.now = timezone.now()
        patched = mock.patch("django.utils.timezone.now", side_effect=lambda: self.now)
        patched.start()
        self.addCleanup(patched.stop)

    def later(self, seconds: float) -> None:
        self.now += datetime.timedelta(seconds=seconds)

    def note(self, place: str, state: str, **headers: str) -> Any:
        return self.post(f"{place}/charge", {"state": state, "other_way": "lamp", "link_off": True}, **loose(headers))

    def prove(self, place: str, volts: str = "0.2", **headers: str) -> Any:
        pairs = self.get(f"{place}/discharge")["proof"]["pairs"]
        body = {
            "meter_id": self.meter_id(),
            **KNOWN,
            "readings": [{"dc": volts, "ac": "0.1"} for _ in pairs],
        }
        return self.post(f"{place}/proof", body, **loose(headers))

    def state(self, job: int, name: str) -> str:
        line = self.get(f"jobs/{self.job(job).id}/sheet")["charge_line"]
        return str(next(item["state"] for item in line if item["name"] == name))

    def entries(self, job: int) -> int:
        return int(self.get(f"jobs/{self.job(job).id}/beat")["entries"])

    def strike(self, job: int, sequence: int, reason: str = "", status: int = 200) -> Any:
        return self.post(f"jobs/{self.job(job).id}/record/{sequence}/struck", {"reason": reason}, status)

    def waited(self, seconds: float, seen: int) -> Any:
        return {"Waited-Seconds": str(seconds), "Seen-Entries": str(seen)}


class PutBack(Clocked):
    """A clock put back by an hour in the middle of each stage: what decided before decides still."""

    def setUp(self) -> None:
        super().setUp()
        self.place = f"positions/{self.position(1, 'C1').id}"

    def test_a_running_proof_lapses_and_stays_lapsed(self) -> None:
        self.note(self.place, "emptying")
        self.prove(self.place)
        self.later(60)
        self.assertEqual(self.state(1, "C1"), "proved")
        self.later(-HOUR)
        self.assertEqual(self.state(1, "C1"), "lapsed")
        self.later(HOUR)  # the clock catches up: as much time went by as nobody knows
        self.assertEqual(self.state(1, "C1"), "lapsed")
        self.prove(self.place)
        self.assertEqual(self.state(1, "C1"), "proved")

    def test_a_step_of_a_second_is_no_clock_put_back(self) -> None:
        self.note(self.place, "emptying")
        self.prove(self.place)
        self.later(60)
        self.assertEqual(self.state(1, "C1"), "proved")
        self.later(-1)
        self.assertEqual(self.state(1, "C1"), "proved")

    def test_energised_after_a_proof_stays_energised(self) -> None:
        self.note(self.place, "emptying")
        self.prove(self.place)
        self.later(-HOUR)
        self.note(self.place, "energised")
        self.assertEqual(self.state(1, "C1"), "energised")

    def test_the_last_reading_of_the_record_decides(self) -> None:
        for value in ("16.0u", "11.0u"):
            answer = self.post(f"{self.place}/readings", {"value": value, "meter_id": self.meter_id(), "condition": "lifted"})
            self.later(-HOUR)
        self.assertEqual(answer["verdict"]["word"], "replace")
        board = self.get(f"jobs/{self.job(1).id}/board")["rows"][0]
        self.assertEqual(board["word"], "replace")
        self.assertIn("11", str(board["reading"]))
        sheet = self.get(f"jobs/{self.job(1).id}/sheet")["positions"][0]["standing"]
        self.assertEqual((sheet["word"], round(sheet["reading"]["value"] * 1e6)), ("replace", 11))

    def test_the_last_check_of_the_record_decides(self) -> None:
        job = f"jobs/{self.job(1).id}"
        insulation = {"check_id": "insulation", "meter_id": self.meter_id()}
        self.post(f"{job}/checks", insulation | {"value": ">60M"})
        self.later(-HOUR)
        found = self.post(f"{job}/checks", insulation | {"value": "0.1M"})
        self.assertEqual(next(c["state"] for c in found["checks"] if c["id"] == "insulation"), "fails")

    def test_a_signature_counts_for_what_was_known_when_it_was_given(self) -> None:
        job = f"jobs/{self.job(1).id}"
        insulation = {"check_id": "insulation", "meter_id": self.meter_id()}
        self.post(f"{job}/checks", insulation | {"value": "0.5M"})
        self.post(f"{job}/deviations", {"check_id": "insulation", "reason": "old heater"})
        self.later(-HOUR)
        found = self.post(f"{job}/checks", insulation | {"value": "0.1M"})
        self.assertEqual(next(c["state"] for c in found["checks"] if c["id"] == "insulation"), "fails")

    def test_a_soak_begins_anew(self) -> None:
        job = f"jobs/{self.job(1).id}"
        self.post(f"{job}/soak", {"minutes": 30})
        self.later(25 * 60)
        self.assertAlmostEqual(self.get(f"{job}/handback")["soak"]["left_s"], 5 * 60)
        self.later(-HOUR)
        self.assertAlmostEqual(self.get(f"{job}/handback")["soak"]["left_s"], 30 * 60)
        self.later(HOUR + 1)  # half an hour of it at most was soaked under this clock: 61 minutes by its hands
        self.assertEqual(self.get(f"{job}/handback")["soak"]["left_s"], 0)

    def test_the_last_step_choice_override_and_tick_of_the_record_decide(self) -> None:
        place, job = f"positions/{self.position(3, 'CD1').id}", f"jobs/{self.job(3).id}"
        parts = [row["part"] for row in self.get(f"{place}/candidates")["accepted"]]
        for part in parts[:2]:
            self.post(f"{place}/choice", {"part_id": part["id"]})
            self.later(-HOUR)
        self.assertEqual(self.get(f"{place}/candidates")["choice"]["part_id"], parts[1]["id"])
        for stands in (True, False):
            self.post(f"{place}/override", {"rule_id": "temperature.upper", "reason": "tried", "stands": stands})
            self.later(-HOUR)
        self.assertEqual(self.get(f"{place}/candidates")["overrides"], [])
        self.post(f"{place}/take-out", {})
        line = self.get(f"{place}/fitting")["lines"][2]["id"]
        for done in (True, False):
            self.post(f"{place}/fitting", {"line": line, "done": done})
            self.later(-HOUR)
        self.assertFalse(next(row["done"] for row in self.get(f"{place}/fitting")["lines"] if row["id"] == line))
        for stopped in (False, True):
            step = {"percent": 100, "current": "10 mA", "note": "smoke" if stopped else "", "stopped": stopped}
            found = self.post(f"{job}/powerup/steps", step)
            self.later(-HOUR)
        self.assertTrue(found["stop"])

    def test_handed_back_is_the_last_word_of_the_record(self) -> None:
        job = self.job(1)
        from dusky_heron.handback.models import Return
        from dusky_heron.record.actions import enter, writing

        lead = self.actor_of("orne")
        with writing():
            enter(lead, job.id, "handed back", {}, Return(job_id=job.id))
        self.later(-HOUR)
        with writing():
            enter(lead, job.id, "back on the bench", {}, Return(job_id=job.id, returned=False))
        self.assertIsNone(self.get(f"jobs/{job.id}/handback")["returned_at"])

    def test_the_turn_is_counted_once(self) -> None:
        before = watch().turn
        self.later(-HOUR)
        self.assertEqual([watch().turn, watch().turn], [before + 1, before + 1])


class Queued(Clocked):
    """What was taken without a server says when, and what its writer had seen."""

    def setUp(self) -> None:
        super().setUp()
        self.place = f"positions/{self.position(1, 'C1').id}"

    def test_a_proof_lapses_from_when_it_was_taken(self) -> None:
        seen = self.entries(1)
        self.note(self.place, "emptying", **self.waited(25 * 60, seen))
        self.prove(self.place, **self.waited(20 * 60, seen))
        self.assertEqual(self.state(1, "C1"), "proved")
        self.later(9 * 60)
        self.assertEqual(self.state(1, "C1"), "proved")
        self.later(2 * 60)
        self.assertEqual(self.state(1, "C1"), "lapsed")

    def test_one_that_waited_longer_than_it_holds_is_lapsed_when_it_comes(self) -> None:
        for waited in (31 * 60, float("inf"), float("nan"), -5):
            seen = self.entries(1)
            self.note(self.place, "emptying")
            self.prove(self.place, **self.waited(waited, seen + 1))
            self.assertEqual(self.state(1, "C1"), "lapsed", waited)

    def test_a_late_proof_is_kept_and_shown_and_never_decides(self) -> None:
        self.note(self.place, "emptying")
        seen = self.entries(1)
        self.note(self.place, "energised")
        sequence = self.entries(1)
        self.note(self.place, "emptying", **self.waited(120, seen))  # allows the proof that follows
        self.assertEqual(self.state(1, "C1"), "energised")
        body = {"meter_id": self.meter_id(), **KNOWN, "readings": [{"dc": "0.1", "ac": "0.1"}]}
        answer = self.post(f"{self.place}/proof", body, 422)
        self.assertIn("energised", answer["errors"][0]["sentence"])
        self.strike(1, sequence, "the other pump")
        self.assertEqual(self.state(1, "C1"), "emptying")

    def test_a_late_kept_shorted_never_decides_whatever_is_struck(self) -> None:
        seen = self.entries(1)
        self.note(self.place, "energised")
        sequence = self.entries(1)
        self.note(self.place, "kept_shorted", **self.waited(600, seen))
        self.assertEqual(self.state(1, "C1"), "energised")
        kinds = [entry["kind"] for entry in self.get(f"jobs/{self.job(1).id}/record")]
        self.assertEqual(kinds[-1], "charge noted")  # it is there
        self.assertIsNotNone(self.get(f"jobs/{self.job(1).id}/record")[-1]["taken_at"])
        self.strike(1, sequence, "wrong place")
        self.assertEqual(self.state(1, "C1"), "unknown")  # it had not seen that a voltage was noted

    def test_a_late_proof_does_not_come_back_when_the_voltage_it_had_not_seen_is_struck(self) -> None:
        self.note(self.place, "emptying")
        seen = self.entries(1)
        self.note(self.place, "energised")
        sequence = self.entries(1)
        self.strike(1, sequence, "the other pump")
        self.prove(self.place, **self.waited(1, seen))
        self.assertEqual(self.state(1, "C1"), "lapsed")

    def test_a_voltage_that_comes_late_ends_a_proof_nevertheless(self) -> None:
        seen = self.entries(1)
        self.note(self.place, "emptying")
        self.prove(self.place)
        self.note(self.place, "energised", **self.waited(5, seen))
        self.assertEqual(self.state(1, "C1"), "lapsed")

    def test_a_late_check_reading_or_choice_does_not_decide_over_a_newer(self) -> None:
        job = f"jobs/{self.job(1).id}"
        seen = self.entries(1)
        insulation = {"check_id": "insulation", "meter_id": self.meter_id()}
        self.post(f"{job}/checks", insulation | {"value": "0.1M"})
        found = self.post(f"{job}/checks", insulation | {"value": ">60M"}, **self.waited(900, seen))
        self.assertEqual(next(c["state"] for c in found["checks"] if c["id"] == "insulation"), "fails")
        reading = {"meter_id": self.meter_id(), "condition": "lifted"}
        self.post(f"{self.place}/readings", reading | {"value": "11u"})
        late = self.post(f"{self.place}/readings", reading | {"value": "16u"}, **self.waited(900, seen))
        self.assertEqual(late["verdict"]["word"], "replace")
        self.assertEqual(self.get(f"{job}/sheet")["positions"][0]["standing"]["word"], "replace")

    def test_what_was_seen_is_never_more_than_there_is(self) -> None:
        self.note(self.place, "emptying", **self.waited(1, 10_000))
        note = ChargeNote.objects.last()
        assert note is not None
        self.assertEqual(note.stands_at, note.sequence)


class Histories(Clocked):
    """Drawn histories of one part's charge: a proof is shown only where one stands."""

    HOLDS = 1800.0

    def test_drawn(self) -> None:
        for seed in range(12):
            with self.subTest(seed=seed):
                self.play(drawn_by(seed), f"C{seed + 10}")

    def play(self, chance: random.Random, name: str) -> None:
        job = f"jobs/{self.job(1).id}"
        self.sign_in("orne")
        added = self.post(f"{job}/positions", {"name": name, "role": "motor_run", "marking": "16 µF ±5 % 450 V~"})
        place = f"positions/{added['id']}"
        said: list[dict[str, Any]] = []
        self.later(HOUR * 2)
        self.sign_in("orne")
        turn, highest = watch().turn, self.now
        for _ in range(14):
            self.later(chance.choice([1, 60, 700, -HOUR, 5]) if chance.random() < 0.8 else 1900)
            if self.now < highest - datetime.timedelta(seconds=2):
                turn, highest = turn + 1, self.now
            highest = max(highest, self.now)
            self.get(f"{job}/beat")
            there = self.entries(1)
            waits = chance.random() < 0.3
            seen = chance.randint(max(there - 4, 0), there) if waits else there + 1
            gone = chance.choice([1.0, 400.0, 3000.0]) if waits else 0.0
            headers: Any = self.waited(gone, seen) if waits else {}
            state = chance.choice(["energised", "emptying", "proved", "proved", "kept_shorted", "found"])
            if chance.random() < 0.25 and said and not waits:
                struck = chance.choice(said)
                if struck["struck"]:
                    continue
                self.strike(1, struck["sequence"], "drawn")
                struck["struck"] = True
            elif state in ("proved", "found"):
                pairs = self.get(f"{place}/discharge")["proof"]["pairs"]
                readings = [{"dc": "12" if state == "found" else "0.1", "ac": "0.1"} for _ in pairs]
                body = {"meter_id": self.meter_id(), **KNOWN, "readings": readings}
                answer = self.client.post(f"/api/{place}/proof", body, content_type="application/json", headers=headers)
                if answer.status_code == 422:  # it is energised
                    continue
                said.append(self.line(there + 1, min(seen, there + 1), state, turn, gone))
            else:
                self.note(place, state, **headers)
                said.append(self.line(there + 1, min(seen, there + 1), state, turn, gone))
            self.held(name, said, turn)

    def line(self, sequence: int, stands: int, state: str, turn: int, gone: float) -> dict[str, Any]:
        taken = self.now - datetime.timedelta(seconds=gone)
        return {"sequence": sequence, "stands": stands, "state": state, "turn": turn, "taken": taken, "struck": False}

    def held(self, name: str, said: list[dict[str, Any]], turn: int) -> None:
        standing = [line for line in said if not line["struck"]]
        last = max(standing, key=lambda line: (line["stands"], line["sequence"]), default=None)
        shown = self.state(1, name)
        if last is None:
            self.assertEqual(shown, "unknown")
            return
        doubted = any(line["state"] in ("energised", "found") and line["sequence"] > last["sequence"] for line in said)
        old = last["turn"] != turn or not 0 <= (self.now - last["taken"]).total_seconds() < self.HOLDS
        expected = {"found": "unknown", "proved": "lapsed" if doubted or old else "proved"}.get(last["state"], last["state"])
        if last["state"] == "kept_shorted" and doubted:
            expected = "unknown"
        self.assertEqual(shown, expected, said)


class HistoriesOfChecks(Clocked):
    """Drawn histories of one check: the last of the record decides, a late one never over one that it had not seen."""

    def test_drawn(self) -> None:
        job = f"jobs/{self.job(1).id}"
        body = {"check_id": "insulation", "meter_id": self.meter_id()}
        for seed in range(6):
            luck = drawn_by(seed)
            self.later(HOUR * 2)
            self.sign_in("orne")
            said: list[tuple[int, int, str]] = []
            begun = self.entries(1)
            for _ in range(9):
                self.later(luck.choice([1, 60, -HOUR, 3]))
                there, value = self.entries(1), luck.choice([">60M", "0.1M"])
                late = luck.random() < 0.4
                seen = luck.randint(begun, there) if late else there + 1
                found = self.post(f"{job}/checks", body | {"value": value}, **(self.waited(30, seen) if late else {}))
                said.append((seen, there + 1, "passes" if value == ">60M" else "fails"))
                state = next(check["state"] for check in found["checks"] if check["id"] == "insulation")
                self.assertEqual(state, max(said)[2], (seed, said))


class Struck(Clocked):
    """Each kind of line: struck by its writer or a lead, with a reason, or at once; and what follows."""

    def setUp(self) -> None:
        super().setUp()
        lead = self.actor_of("orne")
        add_member(lead, NewMember(username="tarn", name="K. Tarn", role=MemberRole.TECHNICIAN, password=PASSWORD))
        self.place = f"positions/{self.position(1, 'C1').id}"

    def test_every_row_that_decides_is_known_by_its_kind(self) -> None:
        from django.apps import apps

        entered = [model for model in apps.get_models() if issubclass(model, Entered)]
        self.assertEqual({m.__name__ for m in entered if not m.KINDS}, {"RecordedVerdict", "Fitted", "Return"})
        self.assertEqual(len(rows_of()), sum(len(model.KINDS) for model in entered))

    def test_nothing_that_decides_is_sorted_by_a_clock(self) -> None:
        for model in {*rows_of().values()}:
            self.assertFalse(
                [name for name in model._meta.ordering or () if str(name).strip("-") in ("at", "taken_at", "added_at")], model
            )

    def test_a_sign_mis_tapped_condemns_no_more(self) -> None:
        found = self.post(f"{self.place}/signs", {"sign": "burnt"})
        self.assertEqual(found["verdict"]["word"], "condemn")
        self.later(60)
        self.strike(1, found["signs"][-1]["sequence"], "it was the neighbour")
        now = self.get(f"{self.place}/assessment")
        self.assertNotEqual(now["verdict"]["word"], "condemn")
        self.assertEqual(now["recorded"]["word"], now["verdict"]["word"])  # judged again, and recorded
        self.assertEqual([sign["struck"] for sign in now["signs"]], [True])  # readable still

    def test_a_reading_struck_decides_nothing_and_the_one_before_does(self) -> None:
        reading = {"meter_id": self.meter_id(), "condition": "lifted"}
        self.post(f"{self.place}/readings", reading | {"value": "16u"})
        low = self.post(f"{self.place}/readings", reading | {"value": "1.6u"})
        self.assertEqual(low["verdict"]["word"], "replace")
        self.strike(1, low["readings"][-1]["sequence"], "wrong range")
        self.assertEqual(self.get(f"{self.place}/assessment")["verdict"]["word"], "keep")
        self.assertEqual(self.get(f"jobs/{self.job(1).id}/sheet")["positions"][0]["standing"]["word"], "keep")

    def test_a_proof_struck_proves_nothing(self) -> None:
        self.note(self.place, "emptying")
        self.strike(1, self.prove(self.place)["item"]["sequence"], "on the wrong terminals")
        self.assertEqual(self.state(1, "C1"), "emptying")

    def test_what_ended_a_proof_does_not_bring_it_back_when_struck(self) -> None:
        for ends in ("energised", "found"):
            self.note(self.place, "emptying")
            self.prove(self.place)
            answer = self.note(self.place, "energised") if ends == "energised" else self.prove(self.place, "24")["item"]
            self.strike(1, answer["sequence"], "mis-tapped")
            self.assertEqual(self.state(1, "C1"), "lapsed")

    def test_an_emptying_tapped_by_mistake_leaves_the_proof(self) -> None:
        self.note(self.place, "emptying")
        self.prove(self.place)
        self.strike(1, self.note(self.place, "emptying")["sequence"])
        self.assertEqual(self.state(1, "C1"), "proved")

    def test_a_volt_typed_wrong_in_a_fall_can_be_typed_again(self) -> None:
        best = self.get(f"{self.place}/discharge")["best"]
        self.post(f"{self.place}/charge", {"state": "emptying", "shape": best["shape"], "resistor_ids": best["resistor_ids"]})
        first = self.post(f"{self.place}/fall", {"rows": "1 30", "meter_id": self.meter_id()})
        self.strike(1, first["samples"][0]["sequence"])
        again = self.post(f"{self.place}/fall", {"rows": "1 300", "meter_id": self.meter_id()})
        self.assertEqual([sample["volts"] for sample in again["samples"]], [300])

    def test_a_check_struck_is_missing_again(self) -> None:
        job = f"jobs/{self.job(1).id}"
        check = {"check_id": "insulation", "meter_id": self.meter_id(), "value": ">60M"}
        found = self.post(f"{job}/checks", check)
        row = next(c for c in found["checks"] if c["id"] == "insulation")
        self.strike(1, row["sequence"], "the lead was off")
        row = next(c for c in self.get(f"{job}/handback")["checks"] if c["id"] == "insulation")
        self.assertEqual(row["state"], "missing")
        self.assertEqual(CheckResult.objects.count(), 1)  # appended, never erased

    def test_a_step_struck_is_to_be_taken_again(self) -> None:
        job = f"jobs/{self.job(3).id}"
        first = self.get(f"{job}/powerup")["next"]["percent"]
        found = self.post(f"{job}/powerup/steps", {"percent": first, "current": "900 mA"})
        self.assertTrue(found["stop"])
        self.strike(3, found["log"][-1]["sequence"], "900 µA it was")
        found = self.get(f"{job}/powerup")
        self.assertEqual((found["stop"], found["log"], found["next"]["percent"]), (False, [], first))
        self.assertEqual(self.state(3, "CD1"), "energised")  # for it was

    def test_a_choice_struck_goes_back_in_the_drawer(self) -> None:
        place = f"positions/{self.position(3, 'CD1').id}"
        part = self.get(f"{place}/candidates")["accepted"][0]["part"]
        self.post(f"{place}/choice", {"part_id": part["id"]})
        chosen = self.post(f"{place}/take-out", {})["choice"]
        self.strike(3, chosen["sequence"], "the other size")
        found = self.get(f"{place}/candidates")
        self.assertIsNone(found["choice"])
        again = next(row["part"] for row in found["accepted"] if row["part"]["id"] == part["id"])
        self.assertEqual(again["quantity"], part["quantity"])

    def test_a_tick_struck_is_open_and_the_part_not_fitted(self) -> None:
        place = f"positions/{self.position(3, 'CD1').id}"
        part = self.get(f"{place}/candidates")["accepted"][0]["part"]
        self.post(f"{place}/choice", {"part_id": part["id"]})
        self.post(f"{place}/take-out", {})
        self.note(place, "kept_shorted")
        for line in self.get(f"{place}/fitting")["lines"]:
            found = self.post(f"{place}/fitting", {"line": line["id"]})
        self.assertIsNotNone(found["fitted_at"])
        self.strike(3, found["lines"][3]["sequence"])
        found = self.get(f"{place}/fitting")
        self.assertEqual([line["done"] for line in found["lines"]].count(False), 1)
        self.assertIsNone(found["fitted_at"])
        self.assertIn("CD1", " ".join(self.get(f"jobs/{self.job(3).id}/handback")["missing"]))

    def test_overrides_batches_soaks_and_signatures_too(self) -> None:
        place, job = f"positions/{self.position(3, 'CD1').id}", f"jobs/{self.job(3).id}"
        found = self.post(f"{place}/override", {"rule_id": "temperature.upper", "reason": "tried"})
        self.strike(3, found["overrides"][0]["sequence"])
        self.assertEqual(self.get(f"{place}/candidates")["overrides"], [])
        found = self.post(f"{job}/soak", {"minutes": 30})
        self.strike(3, found["soak"]["sequence"])
        self.assertIsNone(self.get(f"{job}/handback")["soak"])
        found = self.post(f"{job}/deviations", {"check_id": "insulation", "reason": "old heater"})
        row = next(c for c in found["checks"] if c["id"] == "insulation")
        self.assertEqual(row["state"], "signed")
        self.strike(3, row["sequence"])
        row = next(c for c in self.get(f"{job}/handback")["checks"] if c["id"] == "insulation")
        self.assertEqual(row["state"], "missing")

    def test_a_reason_is_asked_for_after_ten_seconds(self) -> None:
        for seconds, status in ((9, 200), (11, 422), (-30, 422)):
            sequence = self.post(f"{self.place}/signs", {"sign": "cracked"})["signs"][-1]["sequence"]
            self.later(seconds)
            answer = self.strike(1, sequence, "", status)
            if status == 422:
                self.assertEqual(answer["errors"][0]["field"], "reason")
                self.strike(1, sequence, "seen again")

    def test_a_reason_is_asked_for_where_nobody_can_tell_how_long_ago_it_was(self) -> None:
        sequence = self.post(f"{self.place}/signs", {"sign": "cracked"})["signs"][-1]["sequence"]
        self.later(HOUR)
        watch()
        self.later(5 - HOUR)  # an hour after it was written, the clock says five seconds
        self.assertIsNone(self.get(f"jobs/{self.job(1).id}/beat")["fresh"])
        self.assertEqual(self.strike(1, sequence, "", 422)["errors"][0]["field"], "reason")

    def test_what_may_be_taken_back_is_said_for_ten_seconds(self) -> None:
        beat = f"jobs/{self.job(1).id}/beat"
        self.later(60)
        self.assertIsNone(self.get(beat)["fresh"])
        self.post(f"{self.place}/signs", {"sign": "vent_open"})  # a verdict follows it in the record
        fresh = self.get(beat)["fresh"]
        self.assertEqual((fresh["kind"], fresh["about"]), ("sign seen", "C1, vent open"))
        self.later(4)
        self.assertAlmostEqual(self.get(beat)["fresh"]["left_s"], 6, places=2)
        self.sign_in("vell")
        self.assertIsNone(self.get(beat)["fresh"])
        self.sign_in("orne")
        self.strike(1, fresh["sequence"])
        self.assertIsNone(self.get(beat)["fresh"])

    def test_only_its_writer_or_a_lead(self) -> None:
        self.sign_in("tarn")
        own = self.post(f"{self.place}/signs", {"sign": "cracked"})["signs"][-1]["sequence"]
        self.sign_in("vell")
        self.strike(1, own, "an apprentice", 403)
        self.sign_in("stranger")
        self.strike(1, own, "a stranger", 404)
        self.sign_in("tarn")
        self.strike(1, own, "my own")
        other = self.post(f"{self.place}/signs", {"sign": "corroded"})["signs"][-1]["sequence"]
        self.sign_in("orne")
        self.strike(1, other, "", 422)  # a lead says why, at once too
        self.strike(1, other, "looked at it again")

    def test_what_decides_nothing_is_not_struck_nor_anything_twice(self) -> None:
        self.assertEqual(self.strike(1, 1, "the intake", 422)["errors"][0]["field"], "sequence")
        self.strike(1, 4000, "not there", 404)
        self.strike(1, 0, "none", 422)
        sequence = self.post(f"{self.place}/signs", {"sign": "cracked"})["signs"][-1]["sequence"]
        self.strike(1, sequence)
        self.strike(1, sequence, "again", 422)

    def test_both_lines_stay_in_the_record_and_the_chain_holds(self) -> None:
        job = self.job(1)
        sequence = self.post(f"{self.place}/signs", {"sign": "burnt"})["signs"][-1]["sequence"]
        self.later(60)
        self.strike(1, sequence, "soot of the lamp")
        record = {entry["sequence"]: entry for entry in self.get(f"jobs/{job.id}/record")}
        struck = record[sequence]
        self.assertEqual((struck["kind"], struck["may_strike"]), ("sign seen", False))
        by = record[struck["struck_by"]]
        self.assertEqual((by["kind"], by["body"]["entry"], by["body"]["reason"]), ("struck", sequence, "soot of the lamp"))
        self.assertTrue(verify(self.actor_of("orne"), job.id).whole)
        self.assertEqual(Entry.objects.filter(chain__subject_id=job.id).count(), self.entries(1))


class TypedFasterThanAnswered(Clocked):
    """On a slow network the second is typed before the first is answered: it says how long it waited, and what it came after."""

    def setUp(self) -> None:
        super().setUp()
        self.place = f"positions/{self.position(1, 'C1').id}"

    def read(self, value: str, key: str, **headers: str) -> str:
        """A reading sent under a key, and where the board stands with it."""
        body = {"value": value, "meter_id": self.meter_id(), "condition": "lifted"}
        self.post(f"{self.place}/readings", body, **loose(headers | {"Idempotency-Key": key}))
        return str(self.get(f"jobs/{self.job(1).id}/board")["rows"][0]["word"])

    def test_it_stands_after_what_its_writer_wrote_before(self) -> None:
        seen = self.entries(1)
        self.assertEqual(self.read("16.0u", "a"), "keep")
        self.assertEqual(self.read("11.0u", "b", **self.waited(3, seen)), "keep")  # of what it came after nothing is said
        self.assertEqual(self.read("11.0u", "c", **self.waited(3, seen), **{"After-Writes": "other,a"}), "replace")

    def test_a_third_stands_after_the_second(self) -> None:
        seen = self.entries(1)
        for value, key, before in (("11.0u", "a", ""), ("12.0u", "b", "a"), ("16.0u", "c", "a,b")):
            word = self.read(value, key, **self.waited(3, seen), **{"After-Writes": before})
        self.assertEqual(word, "keep")

    def test_what_somebody_else_wrote_meanwhile_is_not_seen_by_it(self) -> None:
        seen = self.entries(1)
        self.read("16.1u", "a", **self.waited(60, seen))
        self.sign_in("vell")
        self.assertEqual(self.read("11.0u", "a"), "replace")
        self.sign_in("orne")
        self.assertEqual(self.read("16.0u", "b", **self.waited(60, seen), **{"After-Writes": "a"}), "replace")

    def test_what_was_written_to_another_job_says_nothing(self) -> None:
        seen = self.entries(1)
        self.read("11.0u", "b")
        other = {"text": "red -> TB1-1"}
        for line in range(9):
            self.post(f"jobs/{self.job(2).id}/found", other, **loose({"Idempotency-Key": f"a{line}"}))
        named = ",".join(["x" * 300, *(f"a{line}" for line in range(9)), "é,,"])
        self.assertEqual(self.read("16.0u", "c", **self.waited(60, seen), **{"After-Writes": named}), "replace")


class LongOnItsWay(Clocked):
    """A network that holds a write up: it was taken when it left, by our clock as the page knows it."""

    def taken(self, sent_s: float | str | None, waited: str | None = None) -> float | None:
        """How long before now a reading counts as taken that left at a time; None for now."""
        sent = sent_s if isinstance(sent_s, str) else None if sent_s is None else str((self.now.timestamp() + sent_s) * 1000)
        headers = {name: text for name, text in (("Sent-At", sent), ("Waited-Seconds", waited)) if text is not None}
        body = {"value": "16u", "meter_id": self.meter_id(), "condition": "lifted"}
        place = self.position(1, "C1")
        self.post(f"positions/{place.id}/readings", body, **loose(headers))
        taken_at = Reading.objects.filter(position=place).latest("sequence").taken_at
        return None if taken_at is None else round((self.now - taken_at).total_seconds(), 1)

    def test_when_it_was_taken(self) -> None:
        cases = ((None, None, None), (-1.9, None, None), (-2.1, None, 2.1), (-30, None, 30), (5, None, None))
        both = ((-30, "60", 90), (-1, "60", 60), (3600, "60", 60), (None, "60", 60))
        for sent, waited, seconds in cases + both:
            with self.subTest(sent=sent, waited=waited):
                self.assertEqual(self.taken(sent, waited), seconds)

    def test_a_time_nobody_can_read_is_long_ago(self) -> None:
        for sent in ("abc", "", "nan", "-5", "inf"):
            with self.subTest(sent):
                self.assertGreater(self.taken(sent) or 0, 50 * 365 * 86400)
