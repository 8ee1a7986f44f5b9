"""The same model seen before, what failed at what age, and words found in everything that was written."""

import datetime
from typing import Any

from django.db import connection

from dusky_heron.jobs.models import Job
from dusky_heron.memory.queries import Beginnings
from dusky_heron.record.actions.append import append, writing
from dusky_heron.record.models import Entry, WordsOf
from dusky_heron.workshops.models import Member
from tests.api.base import ApiTest

LAMP = {"title": "Gate lamp", "supply_voltage": "230 V", "supply_frequency": "50 Hz", "maker": "Glarehouse", "model": "LS 60"}


class Remembered(ApiTest):
    """On top of the demo's eight jobs."""

    FORGES = True  # the days they were opened

    def opened(self, **more: Any) -> str:
        return str(self.post("jobs", LAMP | more)["id"])

    def judged(self, job_id: str, marking: str, value: str, name: str = "C1") -> None:
        place = self.post(f"jobs/{job_id}/positions", {"name": name, "role": "smps_bulk", "marking": marking})
        self.post(
            f"positions/{place['id']}/readings",
            {"value": value, "meter_id": self.meter_id("Bench LCR bridge"), "condition": "lifted"},
        )

    def test_the_same_model_however_it_is_spelt(self) -> None:
        first = self.opened(model="ls-60", symptom="dark")
        self.judged(first, "82 µF M 400 V 1423", "31u")
        found = self.get(f"jobs/{self.job(8).id}/seen-before")
        self.assertEqual([(one["number"], one["same"]) for one in found], [(9, True)])
        failed = found[0]["failed"][0]
        self.assertEqual((failed["name"], failed["word"]), ("C1", "replace"))
        self.assertIn("31", failed["reading"])
        self.assertIn("years", failed["age"])
        near = self.opened(model="LS-60 mk2")
        self.assertFalse(next(one for one in self.get(f"jobs/{near}/seen-before") if one["number"] == 9)["same"])
        self.assertEqual(self.get(f"jobs/{self.opened(model='')}/seen-before"), [])
        self.assertEqual(self.get(f"jobs/{self.opened(maker='Tidewell', model='QX')}/seen-before"), [])
        self.sign_in("stranger")
        mine = self.opened()
        self.assertEqual(self.get(f"jobs/{mine}/seen-before"), [])

    def test_statements_stay_the_same_with_more_jobs(self) -> None:
        for _ in range(3):
            self.judged(self.opened(), "82 µF M 400 V 1423", "31u")
        with self.assertNumQueries(8):
            self.assertEqual(len(self.get(f"jobs/{self.job(8).id}/seen-before")), 3)

    def test_failures_by_age_with_those_that_still_worked(self) -> None:
        """Made at the start of 2010, seen failed in 2015, 2016, 2018 and twice in 2020; two more still good in 2016."""
        for year, value in (
            (2015, "31u"),
            (2016, "30u"),
            (2016, "81u"),
            (2016, "82u"),
            (2018, "20u"),
            (2020, "25u"),
            (2020, "22u"),
        ):
            job = self.opened()
            self.judged(job, "82 µF M 400 V 1001", value)
            Job.objects.filter(id=job).update(opened_at=datetime.datetime(year, 1, 4, tzinfo=datetime.UTC))
        group = next(one for one in self.get("failures?by=role") if one["title"] == "SMPS bulk")
        self.assertEqual((group["failed"], group["dated"] >= 7), (5, True))
        shares = {round(step["years"]): round(step["share"], 1) for step in group["steps"]}
        self.assertEqual({k: shares[k] for k in (5, 6, 8, 10)}, {5: shares[5], 6: shares[6], 8: shares[8], 10: shares[10]})
        self.assertLess(shares[10], shares[8])
        self.assertLess(shares[6], shares[5])
        self.assertIn("still worked", group["says"])
        few = next(one for one in self.get("failures?by=kind") if "electrolytic" not in one["title"])
        self.assertEqual(few["steps"], [])
        self.assertIn("wants 5 failures", few["says"])
        self.assertTrue(self.get("failures?by=class"))
        self.get("failures?by=moon", 422)

    def test_words_are_found_in_everything_that_was_written(self) -> None:
        hits = self.get("search?q=tingles")
        self.assertEqual([hit["number"] for hit in hits], [7])
        self.assertIn("tingles", hits[0]["says"])
        self.assertIn(7, [hit["number"] for hit in self.get("search?q=harkw+rs")])  # beginnings of words, all of them
        self.assertEqual(self.get("search?q=zzzzunheard"), [])
        self.assertEqual(self.get("search?q=HARKW+rs"), self.get("search?q=harkw+rs"))
        for name in ("sequence", "by_name", str(self.job(7).id)[:8]):  # names of fields, and ids, are no words of anybody's
            self.assertEqual(self.get(f"search?q={name}"), [], name)
        for words in ("", "   ", "!!&|", "&"):
            self.get(f"search?q={words}", 422)
        for words in ("' or 1=1 --", "%00x", "<script>", "a:*&b", "\\", "ß" * 190):
            self.get("search", 422) if not words else self.client.get("/api/search", {"q": words})
        self.sign_in("stranger")
        self.assertEqual(self.get("search?q=tingles"), [])

    def test_a_line_of_any_length_is_kept_and_found(self) -> None:
        actor = Member.objects.get(username="orne").actor
        many = " ".join(f"w{k:06}" for k in range(50_000))
        for text in (many, "ß" * 900, "ü" * 3_000, "x" * 300, "x " * 200_000):
            with writing():
                append(actor, self.job(7).id, "line", {"text": text})
        for word in ("w000007", "w003900", "x" * 190, "x" * 40, "ß" * 150):
            with self.subTest(word):
                self.assertEqual([hit["number"] for hit in self.get(f"search?q={word}")][:1], [7])

    def test_a_word_is_looked_up_in_its_own_workshop_alone(self) -> None:
        """By the plan: the index of words, and of it what stands behind this workshop."""
        query = Entry.objects.annotate(words=WordsOf()).filter(words=Beginnings("'0:a':*"), workshop_id=self.job(1).workshop_id)
        with connection.cursor() as cursor:
            cursor.execute("SET LOCAL enable_seqscan = off")
            self.assertIn("words_of_entries", query.explain())
            cursor.execute("SELECT entry_words(NULL, 'a') IS NULL")  # of a row as it was before entries knew their workshop
            self.assertEqual(cursor.fetchone(), (True,))
            cursor.execute("SELECT unnest(tsvector_to_array(entry_words(workshop_id, text))) FROM record_entry")
            behind = {word.split(":")[0] for (word,) in cursor.fetchall()}
        self.assertEqual(behind, {str(key)[:8] for key in Entry.objects.values_list("workshop_id", flat=True)})

    def test_a_search_takes_two_statements(self) -> None:
        with self.assertNumQueries(4):
            self.get("search?q=saltgate")

    def test_two_people_hear_of_each_others_entries(self) -> None:
        job = self.job(1)
        before = self.get(f"jobs/{job.id}/beat")["entries"]
        self.sign_in("vell")
        self.post(f"jobs/{job.id}/positions", {"name": "C9", "role": "x", "marking": "1 µF X2 310~"})
        self.sign_in("orne")
        self.assertEqual(self.get(f"jobs/{job.id}/beat")["entries"], before + 1)
