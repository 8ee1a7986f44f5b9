"""The drawer: found by meaning, every quantity explained, labelled; long work that stops when asked."""

import datetime
from typing import Any

from django.db.models import Sum
from django.utils import timezone

from dusky_heron.longwork.models import Work
from dusky_heron.longwork.progress import StopAsked
from dusky_heron.stock.actions.imports import take_import
from dusky_heron.stock.models import Movement, Part
from tests import drawn_by
from tests.api.base import ApiTest
from tests.api.test_imports import GOOD, HEAD, Lists


class Found(ApiTest):
    """A word is text, a value, a class or a pitch, whichever it may be."""

    def test_words_mean_what_they_say(self) -> None:
        every = {part["marking"]: part for part in self.get("parts")}
        self.assertEqual(len(every), len({part["marking"] for part in self.get("parts")}))
        for words in ("x2 680n 22.5", "680nF X2", "x2 0.68u", "0,68µF x2 22,5"):
            found = self.get(f"parts?words={words.replace('µ', '%C2%B5')}")
            self.assertTrue(found, words)
            for part in found:
                self.assertIn(680e-9, [round(figure["value"], 15) for figure in part["capacitance"]], words)
                self.assertIn("X2", part["marking"].replace("X1Y2", ""))
        self.assertTrue(all(part["pitch_mm"] == 22.5 for part in self.get("parts?words=x2 680n 22.5")))
        self.assertEqual(self.get("parts?words=x2 680n no-such-place"), [])
        self.assertTrue(all(part["kind"] == "motor_run" for part in self.get("parts?words=motor run 450")))
        for hostile in ("%25", "_", "'; drop table", "\\", "1e400", "nan"):
            self.assertIsInstance(self.get(f"parts?words={hostile}"), list)


class Asked(ApiTest):
    """The drawer by what a part is, beside words: each of them by itself, and together."""

    def ids(self, query: str) -> set[str]:
        return {part["marking"] for part in self.get(f"parts?{query}")}

    def add(self, **changed: object) -> str:
        given = {"marking": "47 nF K X2 305 V~", "kind": "film_safety", "quantity": 3, "pitch_mm": 10, "place": "Q9"}
        return str(self.post("parts", given | changed)["marking"])

    def test_each_asks_for_its_own(self) -> None:
        year = timezone.localdate().year
        plain = self.add(date_code=f"{(year - 1) % 100:02}10")
        added = {
            "kind=electrolytic": self.add(marking="33 µF 450 V-", kind="electrolytic", date_code=f"{(year - 1) % 100:02}10"),
            "safety_class=Y2": self.add(marking="4.7 nF Y2 300 V~", kind="ceramic_safety", date_code=f"{(year - 1) % 100:02}10"),
            "pitch_mm=7.5": self.add(marking="47 nF K X2 310 V~", pitch_mm=7.5, date_code=f"{(year - 1) % 100:02}10"),
            "state=none_left": self.add(marking="47 nF K X2 315 V~", quantity=0, date_code=f"{(year - 1) % 100:02}10"),
            "state=salvaged": self.add(marking="47 nF K X2 320 V~", origin="salvaged", date_code=f"{(year - 1) % 100:02}10"),
            "age=old": self.add(marking="47 nF K X2 330 V~", date_code=f"{(year - 7) % 100:02}10"),
            "age=undated": self.add(marking="47 nF K X2 350 V~"),
        }
        for query, marking in added.items():
            with self.subTest(query):
                self.assertEqual(self.ids(f"words=Q9&{query}"), {marking})
        self.assertEqual(self.ids("words=Q9&state=in_stock"), {plain, *added.values()} - {added["state=none_left"]})
        self.assertEqual(self.ids("words=Q9&state=in_stock&age=old&safety_class=X2&pitch_mm=10"), {added["age=old"]})
        self.assertEqual(self.ids("words=Q9&state=none_left&age=old"), set())

    def test_five_years_are_counted_from_the_week_it_was_made(self) -> None:
        today = timezone.localdate()
        for days, old in ((5 * 366 + 20, True), (5 * 365 - 20, False)):
            year, week, _ = (today - datetime.timedelta(days=days)).isocalendar()
            marking = self.add(marking=f"{days} pF K X1 440 V~", date_code=f"{year % 100:02}{week:02}")
            self.assertEqual(marking in self.ids("words=Q9&age=old"), old, days)

    def test_what_nobody_can_ask_for_is_said_at_its_field(self) -> None:
        for query, field in (("state=lost", "state"), ("kind=jar", "kind"), ("pitch_mm=-1", "pitch_mm"), ("age=1", "age"),
                             ("safety_class=Z9", "safety_class"), ("pitch_mm=inf", "pitch_mm")):  # fmt: skip
            with self.subTest(query):
                self.assertEqual([one["field"] for one in self.get(f"parts?{query}", 422)["errors"]], [field])


class Explained(ApiTest):
    """The sum of its movements is the quantity there is, whatever was done."""

    def explained(self) -> None:
        for part in Part.objects.annotate(moved=Sum("movements__change")):
            self.assertEqual(part.quantity, part.moved or 0, part.marking)

    def test_the_demo_and_whatever_follows(self) -> None:
        self.explained()
        luck = drawn_by(41)
        parts = self.get("parts")[:6]
        for _ in range(40):
            part = luck.choice(parts)
            now = Part.objects.get(id=part["id"]).quantity
            change = luck.choice((-3, -1, 1, 5))
            refused = now + change < 0
            answer = self.post(f"parts/{part['id']}/movements", {"change": change}, 422 if refused else 200)
            self.assertEqual(Part.objects.get(id=part["id"]).quantity, now if refused else now + change)
            if refused:
                self.assertEqual(answer["errors"][0]["field"], "change")
        self.post(f"parts/{parts[0]['id']}/movements", {"counted": 999_999})
        much = self.post(f"parts/{parts[0]['id']}/movements", {"change": 2}, 422)["errors"][0]["sentence"]
        self.assertIn("More than 1000000 of one part", much)
        self.assertEqual(max(part["quantity"] for part in self.get("parts")), 999_999)  # the drawer is still shown
        counted = self.post(f"parts/{parts[0]['id']}/movements", {"counted": 7, "says": "shelf counted"})
        self.assertEqual((counted["part"]["quantity"], counted["movements"][0]["why"]), (7, "counted"))
        self.put(f"parts/{parts[0]['id']}", counted["part"] | {"quantity": 2})
        self.explained()
        self.post(f"parts/{parts[0]['id']}/movements", {}, 422)

    def test_lists_and_undone_lists_too(self) -> None:
        one = Part.objects.filter(quantity__gt=0).first()
        assert one
        sheet = f"id;marking;quantity\n{one.id};{one.marking};99\n;820 nF J X2 310 V~;3\n"
        taken = Lists.send(self, sheet, "take")  # type: ignore[arg-type]
        self.explained()
        self.done(self.post(f"part-lists/{taken['id']}/undo", {}, 202))
        self.explained()
        self.assertEqual(
            [m.change for m in Movement.objects.filter(part=one)], [one.quantity, 99 - one.quantity, one.quantity - 99]
        )

    def test_an_apprentice_moves_parts_and_a_stranger_sees_none(self) -> None:
        part = self.get("parts")[0]["id"]
        self.sign_in("vell")
        self.post(f"parts/{part}/movements", {"change": 1})
        self.sign_in("stranger")
        self.post(f"parts/{part}/movements", {"change": 1}, 404)
        self.get(f"parts/{part}/movements", 404)
        self.get(f"parts/{part}/label", 404)


class Labels(ApiTest):
    """A code of ISO/IEC 18004: 17 + 4 v modules a side, a finder in three corners, and not in the fourth."""

    FINDER = ("1111111", "1000001", "1011101", "1011101", "1011101", "1000001", "1111111")

    def test_labels_of_a_drawer_and_of_a_removed_part(self) -> None:
        part = next(p for p in self.get("parts") if p["place"])
        position = self.position(1, "C1")
        for path, opens, title in (
            (f"parts/{part['id']}/label", f"/drawer?part={part['id']}", part["capacitance"][0]["number"]),
            (f"positions/{position.id}/label", f"/jobs/{position.job_id}/replace?position={position.id}", "Job 1, C1"),
        ):
            label = self.get(path)
            self.assertTrue(label["url"].endswith(opens), label["url"])
            self.assertIn(title, label["title"])
            side = label["modules"]
            self.assertEqual((side - 17) % 4, 0)
            dark = {tuple(map(int, square.split("h")[0].split())) for square in label["dark"].split("M")[1:]}
            corners = [
                all(((left + x, top + y) in dark) == (bit == "1") for y, row in enumerate(self.FINDER) for x, bit in enumerate(row))
                for left, top in ((0, 0), (side - 7, 0), (0, side - 7), (side - 7, side - 7))
            ]
            self.assertEqual(corners, [True, True, True, False])


class Stopped(ApiTest):
    """Long work stops whole."""

    def test_what_has_not_begun_never_begins(self) -> None:
        before = Part.objects.count()
        asked = self.post_list()
        self.assertEqual(self.post(f"work/{asked['id']}/stop", {})["state"], "stopped")
        self.assertEqual((self.done(asked)["state"], Part.objects.count()), ("stopped", before))
        self.assertEqual(bytes(Work.objects.get(id=asked["id"]).given), b"")

    def test_what_is_half_done_is_undone(self) -> None:
        def stop(done: int, total: int) -> None:
            if done:
                raise StopAsked

        before = (Part.objects.count(), Movement.objects.count())
        rows = "".join(f"{k} nF K X2 310 V~;safety film;1;Z{k};1\n" for k in range(1, 900))
        with self.assertRaises(StopAsked):
            take_import(self.actor_of("orne"), "long.csv", (HEAD + rows).encode(), stop)
        self.assertEqual((Part.objects.count(), Movement.objects.count()), before)

    def test_it_is_nobody_elses_and_a_member_who_left_gets_nothing(self) -> None:
        asked = self.post_list()
        self.sign_in("stranger")
        self.get(f"work/{asked['id']}", 404)
        self.post(f"work/{asked['id']}/stop", {}, 404)
        self.sign_in("orne")
        Work.objects.get(id=asked["id"]).by.__class__.objects.filter(username="orne").update(is_active=False)
        self.client.logout()
        self.sign_in("vell")
        self.assertEqual(self.done(asked)["state"], "refused")

    def post_list(self) -> Any:
        from django.core.files.uploadedfile import SimpleUploadedFile

        file = SimpleUploadedFile("list.csv", (HEAD + GOOD).encode(), "text/csv")
        return self.answer(self.client.post("/api/part-lists", {"file": file}), 202)
