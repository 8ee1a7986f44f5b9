"""An apprentice proposes, whoever may decides: by all the rules of the moment it is signed."""

from typing import Any

from django_otp.plugins.otp_totp.models import TOTPDevice

from dusky_heron.handback.models import Deviation, Return
from dusky_heron.jobs.models import Job
from dusky_heron.proposals.models import Proposal
from dusky_heron.record.actor import MemberRole
from dusky_heron.record.models import Chain, Entry
from dusky_heron.replacement.models import Choice
from dusky_heron.stock.models import Part
from dusky_heron.workshops.actions import add_member
from dusky_heron.workshops.models import Member
from dusky_heron.workshops.schemas import NewMember
from tests.api.base import ApiTest, forget
from tests.databases import PASSWORD


class Proposing(ApiTest):
    """In the chlorine dosing controller, whose dropper is worn."""

    def setUp(self) -> None:
        super().setUp()
        hired = NewMember(username="marl", name="K. Marl", role=MemberRole.TECHNICIAN, password=PASSWORD)
        add_member(self.actor_of("orne"), hired)
        self.place, self.path = self.position(3, "CD1").id, f"jobs/{self.job(3).id}"
        self.choice = f"positions/{self.place}/choice"
        self.sign_in("vell")
        reading = {"value": "402n", "meter_id": self.meter_id(), "condition": "lifted"}
        self.post(f"positions/{self.place}/readings", reading)
        found = self.get(f"positions/{self.place}/candidates")
        self.best = found["accepted"][0]
        self.never = found["rejected"][0]["part"]["id"]

    def proposed(self, **more: Any) -> Any:
        body = {"part_id": self.best["part"]["id"], "signed": self.best["to_sign"]} | more
        return self.post(f"{self.choice}/proposed", body)

    def answer_of(self, proposed: Any) -> str:
        return f"{self.path}/proposals/{proposed['id']}/answer"

    def as_who(self, username: str, path: str, body: object, status: int = 200) -> Any:
        self.sign_in(username)
        return self.post(path, body, status)

    def kinds(self) -> list[str]:
        texts = Entry.objects.filter(chain__subject_id=self.job(3).id).values_list("text", flat=True)
        return [text.split('"kind":"')[1].split('"')[0] for text in texts]


class APart(Proposing):
    """For a place."""

    def test_a_signature_does_it_as_if_its_signer_had(self) -> None:
        length = Chain.objects.get(subject_id=self.job(3).id).length
        proposed = self.proposed(reason="the other has no climate grade")
        self.assertEqual((proposed["stands"], proposed["asks"], proposed["mine"]), ("open", "decide", True))
        self.assertTrue(proposed["says"].startswith("CD1: ") and self.best["part"]["marking"] in proposed["says"])
        self.assertFalse(Choice.objects.filter(position_id=self.place).exists())
        self.assertEqual(Chain.objects.get(subject_id=self.job(3).id).length, length + 1)  # nothing but that it is proposed
        for who in ("orne", "marl"):
            self.sign_in(who)
            (shown,) = self.get("proposals")
            self.assertEqual((shown["id"], shown["mine"], shown["by_name"]), (proposed["id"], False, "T. Vell"))
        row = next(one for one in self.get("bench") if one["job"]["number"] == 3)
        self.assertEqual((row["proposed"], row["waits_on"]), ([proposed["says"]], "signature"))
        answer = self.post(self.answer_of(proposed), {"signed": True})
        self.assertEqual((answer["stands"], answer["answered_by"]), ("signed", "K. Marl"))
        self.assertEqual(self.get(f"positions/{self.place}/candidates")["choice"]["part_id"], self.best["part"]["id"])
        self.assertEqual(Choice.standing(position_id=self.place).get().by_name, "K. Marl")
        self.assertEqual(self.kinds()[-3:], ["proposed", "replacement chosen", "proposal signed"])
        self.assertEqual((self.get("proposals"), self.get(f"{self.path}/proposals")), ([], []))

    def test_what_the_rules_refuse_is_refused_when_it_is_proposed(self) -> None:
        before = self.kinds()
        direct = self.as_who("orne", self.choice, {"part_id": self.never}, 422)
        asked = self.as_who("vell", f"{self.choice}/proposed", {"part_id": self.never}, 422)
        self.assertEqual(asked["errors"], direct["errors"])
        self.post(f"{self.choice}/proposed", {"way": "left", "reason": ""}, 422)
        self.assertEqual((self.kinds(), Proposal.objects.count()), (before, 0))

    def test_what_it_rests_on_may_have_changed_until_it_is_signed(self) -> None:
        proposed = self.proposed()
        self.sign_in("orne")
        place = next(p for p in self.get(f"{self.path}/sheet")["positions"] if p["name"] == "CD1")
        edit = {key: place[key] for key in ("version", "name", "role")} | {"marking": "100 nF K X2 305 V~"}
        self.put(f"positions/{self.place}", edit)
        refused = self.post(self.answer_of(proposed), {"signed": True}, 422)
        self.assertTrue(refused["errors"][0]["sentence"])
        (still,) = self.get("proposals")
        self.assertEqual(still["stands"], "open")
        self.assertFalse(Choice.objects.filter(position_id=self.place).exists())

    def test_what_is_signed_is_what_was_shown(self) -> None:
        """The part was taken for another meanwhile, or what was asked cannot be read: nothing is done."""
        self.FORGES = True
        proposed = self.proposed()
        Part.objects.filter(id=self.best["part"]["id"]).update(marking=f"{self.best['part']['marking']} 2401")
        refused = self.as_who("orne", self.answer_of(proposed), {"signed": True}, 422)
        self.assertIn("something else now", refused["errors"][0]["sentence"])
        for asked in ({}, {"way": "nowhere"}, {"part_id": 5}):
            Proposal.objects.update(asked=asked)
            self.post(self.answer_of(proposed), {"signed": True}, 422)
        Proposal.objects.update(position=None)
        self.post(self.answer_of(proposed), {"signed": True}, 422)
        self.assertFalse(Choice.objects.filter(position_id=self.place).exists())

    def test_what_came_in_a_file_waits_for_nobody(self) -> None:
        self.FORGES = True
        proposed = self.proposed()
        Proposal.objects.update(turn=None)  # as a job's file brings it
        self.sign_in("orne")
        forget()
        self.assertEqual((self.get("proposals"), self.get(f"{self.path}/proposals")), ([], []))
        self.assertEqual([row["proposed"] for row in self.get("bench") if row["proposed"]], [])
        self.post(self.answer_of(proposed), {"signed": True}, 404)

    def test_returned_with_a_word_it_may_be_proposed_again(self) -> None:
        proposed = self.proposed()
        twice = self.post(f"{self.choice}/proposed", {"part_id": self.best["part"]["id"]}, 422)
        self.assertIn("already", twice["errors"][0]["sentence"])
        answer = self.answer_of(proposed)
        self.assertEqual(self.as_who("orne", answer, {"signed": False, "word": " "}, 422)["errors"][0]["field"], "word")
        self.post(answer, {"signed": False, "word": "measure its body first"})
        self.assertEqual(self.get("proposals"), [])
        self.post(answer, {"signed": True}, 422)  # it has been answered
        self.sign_in("vell")
        (back,) = self.get("proposals")
        self.assertEqual((back["stands"], back["word"], back["answered_by"]), ("returned", "measure its body first", "M. Orne"))
        again = self.proposed()
        self.assertEqual([one["id"] for one in self.get("proposals")], [again["id"]])

    def test_its_writer_takes_it_back(self) -> None:
        proposed = self.proposed()
        self.post(f"{self.path}/record/{proposed['sequence']}/struck", {"reason": ""})
        self.assertEqual(self.get("proposals"), [])
        self.as_who("orne", self.answer_of(proposed), {"signed": True}, 404)
        self.assertFalse(Choice.objects.filter(position_id=self.place).exists())

    def test_who_may_not_decide_does_not_sign(self) -> None:
        proposed = self.proposed()
        for body in ({"signed": True}, {"signed": False, "word": "not so"}):
            self.post(self.answer_of(proposed), body, 403)
        self.as_who("stranger", self.answer_of(proposed), {"signed": True}, 404)
        self.assertEqual(self.get("proposals"), [])
        self.assertFalse(Choice.objects.filter(position_id=self.place).exists())
        self.as_who("orne", f"{self.choice}/proposed", {"part_id": self.best["part"]["id"]}, 422)  # who may do it does it


class ADeviation(Proposing):
    """And handing back."""

    def setUp(self) -> None:
        super().setUp()
        self.sign_in("orne")
        self.post(self.choice, {"way": "removed", "reason": "left empty for a trial"})
        self.sign_in("vell")
        self.check = next(check["id"] for check in self.get(f"{self.path}/handback")["checks"] if check["required"])

    def test_a_lead_signs_and_nobody_else(self) -> None:
        body = {"check_id": self.check, "reason": "its maker replaces it"}
        proposed = self.post(f"{self.path}/deviations/proposed", body)
        self.assertEqual((proposed["asks"], proposed["reason"]), ("lead", "its maker replaces it"))
        self.assertFalse(Deviation.objects.filter(job_id=self.job(3).id).exists())
        answer = self.answer_of(proposed)
        self.as_who("marl", answer, {"signed": True}, 403)
        self.as_who("orne", answer, {"signed": True})
        signed = Deviation.standing(job_id=self.job(3).id).get()
        self.assertEqual((signed.by_name, signed.check_id), ("M. Orne", self.check))
        self.sign_in("vell")
        self.post(f"{self.path}/deviations/proposed", {"check_id": "no such", "reason": "its maker replaces it"}, 422)

    def test_handing_back_waits_until_nothing_keeps_it_here(self) -> None:
        refused = self.post(f"{self.path}/return/proposed", {"note": "fetched", "links_off": True}, 422)
        self.assertIn("stays here", refused["errors"][0]["sentence"])
        self.sign_in("orne")
        for check in self.get(f"{self.path}/handback")["checks"]:
            if check["required"]:
                self.post(f"{self.path}/deviations", {"check_id": check["id"], "reason": "its maker replaces it"})
        proposed = self.as_who("vell", f"{self.path}/return/proposed", {"note": "fetched", "links_off": True})
        self.assertFalse(Return.objects.exists())
        self.assertIsNone(Job.objects.get(number=3).returned_at)
        self.as_who("marl", self.answer_of(proposed), {"signed": True})
        self.assertEqual(Return.objects.get().by_name, "K. Marl")
        self.assertIsNotNone(Job.objects.get(number=3).returned_at)

    def test_a_check_that_was_made_meanwhile_is_not_signed_as_it_was(self) -> None:
        check = next(c for c in self.get(f"{self.path}/handback")["checks"] if c["id"] == "insulation")
        self.assertEqual(check["state"], "missing")
        proposed = self.post(f"{self.path}/deviations/proposed", {"check_id": "insulation", "reason": "no tester here"})
        self.assertTrue(proposed["says"].endswith(": missing"))
        self.post(f"{self.path}/checks", {"check_id": "insulation", "value": "0.1M", "meter_id": self.meter_id()})
        refused = self.as_who("orne", self.answer_of(proposed), {"signed": True}, 422)
        self.assertIn("fails", refused["errors"][0]["sentence"])
        self.assertFalse(Deviation.objects.filter(job_id=self.job(3).id).exists())

    def test_links_put_on_since_are_not_off_by_an_older_word(self) -> None:
        self.sign_in("orne")
        for check in self.get(f"{self.path}/handback")["checks"]:
            if check["required"]:
                self.post(f"{self.path}/deviations", {"check_id": check["id"], "reason": "its maker replaces it"})
        proposed = self.as_who("vell", f"{self.path}/return/proposed", {"links_off": True})
        self.post(f"positions/{self.place}/charge", {"state": "kept_shorted"})
        refused = self.as_who("orne", self.answer_of(proposed), {"signed": True}, 422)
        self.assertEqual(refused["errors"][0]["field"], "links_off")
        self.assertFalse(Return.objects.exists())

    def test_a_signature_of_whoever_has_a_second_factor_takes_a_code(self) -> None:
        body = {"check_id": self.check, "reason": "its maker replaces it"}
        proposed = self.post(f"{self.path}/deviations/proposed", body)
        TOTPDevice.objects.create(user=Member.objects.get(username="orne"), name="phone", confirmed=True)
        asked = self.as_who("orne", self.answer_of(proposed), {"signed": True}, 403)
        self.assertIn("code", asked["detail"])
        self.post(self.answer_of(proposed), {"signed": False, "word": "not so"})  # returning takes none
