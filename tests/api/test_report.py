"""The first page of a report, sentence by sentence, held against nothing but the texts of the job's entries."""

import html
import json
import re
from typing import Any

from dusky_heron.assessment.models import Reading
from dusky_heron.handback.models import CheckResult
from dusky_heron.handback.report import report_html
from dusky_heron.jobs.models import Job
from dusky_heron.record.actor import Actor
from dusky_heron.record.models import Entry
from tests.api.base import ApiTest
from tests.api.test_handback import HandingBack

FIXED = {
    "Please note", "In short", "What was wrong", "What was found and done", "Checked before handing back", "What it costs",
    "No part was looked at.",
    "Place Marked Measured Found Now",
    "Isolate, lock off and prove dead before opening; what is inside stores energy after unplugging.",
    "Local codes, the equipment's standard and licensed practice decide over anything printed here.",
}  # fmt: skip
STAYING = ("keep", "watch")


def first_page(page: str) -> list[str]:
    """What is read on it, a block a line, cells between bars."""
    text = " ".join(page[page.index("<section>") : page.index("The record behind it")].split())
    for pattern, put in ((r"<(?:tr|p|h1|h2|div|section)[^>]*>", "\n"), (r"<td[^>]*>", "|"), (r"<br>|<th>", " "), (r"<[^>]+>", "")):
        text = re.sub(pattern, put, text)
    return [line for line in (" ".join(html.unescape(line).split()) for line in text.split("\n")) if line]


class Told:
    """What the entries of a job say, those that were struck left out, from their own texts."""

    def __init__(self, job: Job) -> None:
        texts = Entry.objects.filter(chain__subject_id=job.pk).order_by("sequence").values_list("text", "hash")
        said = [json.loads(text) for text, _ in texts]
        struck = {one["body"]["entry"] for one in said if one["kind"] == "struck"}
        self.entries = [one for one in said if one["sequence"] not in struck]
        self.length, self.head = len(said), list(texts)[-1][1]
        self.opened = next(one["body"] for one in said if one["kind"] == "job opened")

    def of(self, kind: str, **where: Any) -> list[Any]:
        return [
            one["body"] | {"by_name": one["by_name"], "sequence": one["sequence"]}
            for one in self.entries
            if one["kind"] == kind and all(one["body"].get(key) == value for key, value in where.items())
        ]

    def last(self, kinds: tuple[str, ...], **where: Any) -> Any:
        """The kind of the last entry of some kinds, None where there is none."""
        found = [one for kind in kinds for one in [*self.of(kind, **where)] for one in [(one["sequence"], kind)]]
        return max(found)[1] if found else None


class Sentences(ApiTest):
    """Shared by the tests below: every line is accounted for."""

    def hold(self, actor: Actor, job: Job, judged: dict[str, Any]) -> list[str]:
        """Each line of the first page; what no entry tells of fails. The lines that were held."""
        told, lines = Told(job), first_page(report_html(actor, job.pk))
        left = [line for line in lines if line not in FIXED and not self.known(line, told, judged, lines)]
        self.assertEqual(left, [], job.title)
        return lines

    def judged(self, job: Job) -> dict[str, Any]:
        """Word and first reason of each place, from its verdict."""
        said = {place.name: self.get(f"positions/{place.pk}/assessment") for place in job.positions.all()}
        return {
            name: (one["verdict"]["word"], next((why["sentence"] for why in one["verdict"]["reasons"]), ""))
            for name, one in said.items()
        }

    def known(self, line: str, told: Told, judged: dict[str, Any], lines: list[str]) -> bool:
        cells = [cell.strip() for cell in line.split("|")[1:]]
        if len(cells) == 5:
            return self.place_row(cells, told, judged)
        if len(cells) == 3:
            return self.check_row(cells, told) or self.cost_row(cells, told)
        if line.split(",")[0] in [place["name"] for place in told.of("position added")]:
            return self.short(line, told, judged)
        if match := re.fullmatch(r"(\S+): (.+) set aside\. (.+) (M\. Orne|T\. Vell)", line):
            where = {"position": match[1], "demand": match[2], "reason": match[3]}
            return any(one["by_name"] == match[4] for one in told.of("demand overridden", **where))
        for begins, held in (("Deviation: ", self.deviation), ("Price", self.price), ("This report rests on", self.chain)):
            if line.startswith(begins):
                return held(line, told)
        return self.standing(line, told, lines) or self.headed(line, told)

    def standing(self, line: str, told: Told, lines: list[str]) -> bool:
        """Whether it was handed back, and what is missing or was signed."""
        back, open_now = told.of("handed back"), self.unsettled(lines)
        signed = {one["check"] for one in told.of("deviation signed")}
        if line.startswith("Warranty"):
            return bool(back) == line.startswith("Warranty until") and (not back or back[-1]["warranty until"][:4] in line)
        if line.startswith("Not handed back. "):
            return not back and open_now == line[17:].rstrip(".").split("; ")
        if line.startswith("It has not been handed back: "):
            return not back and line.split(": ")[1].startswith(f"{len(open_now)} check")
        said = f"It was handed back with {len(signed)} deviation" if signed else "Every check it asks for passed"
        return bool(back) and line.startswith(said)

    def headed(self, line: str, told: Told) -> bool:
        """What the job was opened with."""
        opened = told.opened
        model = f"{opened['maker']} {opened['model']}, serial {opened['serial']} · {opened['supply_voltage']} "
        head = ("Saltgate Lido & Picture House workshop", f"Report of job {opened['number']} ")
        return line in (opened["title"], opened["symptom"]) or line.startswith((model, *head))

    def deviation(self, line: str, told: Told) -> bool:
        said = (f"Deviation: {one['check']}. {one['reason']} Signed {one['by_name']}" for one in told.of("deviation signed"))
        return any(line.startswith(one) for one in said)

    def price(self, line: str, told: Told) -> bool:
        quotes = told.of("quote")
        return line.endswith(f"{quotes[-1]['gross']} {quotes[-1]['currency']}" if quotes else "not quoted yet")

    def cost_row(self, cells: list[str], told: Told) -> bool:
        """A line of the last quote; labour and tax follow from it."""
        quotes = told.of("quote")
        rows = [[one["text"], f"{one['quantity']} × {one['each']}"] for one in quotes[-1]["lines"]] if quotes else []
        return cells[:2] in rows or cells[0] in ("Labour", "Without tax") or cells[0].startswith("Tax ")

    def chain(self, line: str, told: Told) -> bool:
        back = told.of("handed back")
        begins = f"This report rests on {told.length} entries. The head of their chain is"
        head = " ".join(told.head[k : k + 8] for k in range(0, 64, 8))
        by = line.endswith(f" by {back[-1]['by_name']}.") if back else line.endswith("Handed back: not yet.")
        return line.startswith(f"{begins} {head} An entry changed afterwards, or the chain made anew, no longer has it.") and by

    def unsettled(self, lines: list[str]) -> list[str]:
        rows = [[cell.strip() for cell in line.split("|")[1:]] for line in lines]
        return [f"{row[0]} is missing" if row[2] == "missing" else f"{row[0]} failed" for row in rows
                if len(row) == 3 and row[2] in ("missing", "fails")]  # fmt: skip

    def place_row(self, cells: list[str], told: Told, judged: dict[str, Any]) -> bool:
        name = cells[0].split()[0]
        added = told.of("position added", name=name)[-1]
        word, why = judged[name]
        readings = told.of("reading", position=name)
        measured = cells[2] in ("not measured", "not decided by a reading") or any(
            f"{one['value']} {one['interval']}; {one['meter']}" in cells[2] for one in readings
        )
        if cells[2] == "not measured":
            measured = not readings
        told_word = cells[3] == f"{word} {why}".strip()
        return cells[1] == added["marking"] and measured and told_word and self.now(cells[4], name, word, told)

    def now(self, cell: str, name: str, word: str, told: Told) -> bool:
        chosen = told.of("replacement chosen", position=name)
        fitted = told.last(("fitted", "not fitted any more"), position=name) == "fitted"
        if not chosen:
            return cell == ("kept" if word in STAYING else "nothing decided yet")
        parts = chosen[-1]["part"].split(" + ")
        said = "fitted" if fitted else "chosen, not fitted"
        lots = [one["lot"] for one in told.of("taken out of the drawer", position=name) if one["lot"]]
        printed = re.findall(r" lot (\S+)", cell)
        signed = re.findall(r"Signed: (.+?)(?= Signed: |$)", cell)
        return (
            all(part in cell for part in parts)
            and said in cell
            and ("new part fitted" in cell) == fitted
            and printed == lots[-len(printed) :] * bool(printed)
            and signed == chosen[-1].get("signed", [])
        )

    def short(self, line: str, told: Told, judged: dict[str, Any]) -> bool:
        name = line.split(",")[0]
        word, _ = judged[name]
        fitted = told.last(("fitted", "not fitted any more"), position=name) == "fitted"
        chosen = bool(told.of("replacement chosen", position=name))
        return (
            ("in its place" in line) == (chosen and fitted)
            and ("not fitted yet" in line) == (chosen and not fitted)
            and ("stays" in line) == (word in STAYING and not chosen)
            and ("is decided" in line) == (word in ("replace", "condemn") and not chosen)
            and ("not judged" in line) == (word == "unknown")
            and ("not be used again" in line) == (word == "condemn")
        )

    def check_row(self, cells: list[str], told: Told) -> bool:
        title, says, state = cells
        if title == "soak under load" and state == "missing":
            return not told.of("soak begun")
        if title == "soak under load":
            ended = told.of("soak ended")
            word = ("held" if ended[-1]["held"] else "did not hold") if ended else "running"
            return bool(told.of("soak begun")) and state == word and (not ended or ended[-1]["note"] in says)
        place, _, bare = title.rpartition(": ")
        made = told.of("check", check=bare, **({"place": place} if place else {}))
        if state == "signed":
            return any(one["check"] == title for one in told.of("deviation signed"))
        if bare == "new part fitted":
            return bool(told.last(("fitted", "not fitted any more"), position=place) == "fitted") == (state == "passes")
        if bare == "first power, to its last step":
            steps = told.of("power-up step")
            return (state == "passes") == any(step["percent"] == 100 for step in steps[-1:])
        if state == "missing":
            return not made or made[-1]["outcome"] != "passes"
        return bool(made) and bool(made[-1]["outcome"] == state) and made[-1]["says"] in says


class Reports(Sentences):
    """Every job of the demo as it stands."""

    def test_each_sentence_of_each_demo_report_is_on_record(self) -> None:
        for job in Job.objects.filter(workshop_id=self.actor_of("orne").workshop_id):
            with self.subTest(job.title):
                self.assertGreater(len(self.hold(self.actor_of("orne"), job, self.judged(job))), 15)


class Carried(Sentences, HandingBack):
    """Job 3 carried to its hand-back, looked at on the way."""

    def test_each_sentence_on_the_way_is_on_record(self) -> None:
        actor, job = self.actor_of("orne"), self.job(3)
        self.hold(actor, job, self.judged(job))
        for step in (self.measured_low, self.chosen, self.fit, self.soaked):
            step()
            before = self.judged(job)
            self.hold(actor, job, before)
        self.powered()
        for check_id, value in (("complaint", "yes"), ("holds:CD1", "yes")):
            self.check(check_id, value)
        self.check("idle:CD1", "48 mA", against="230 V")
        self.check("insulation", "1k")
        self.post(f"{self.path}/deviations", {"check_id": "insulation", "reason": "wet; it dries on the heater overnight"})
        lines = [{"text": "X2 680 nF", "quantity": "2", "each": "1.45"}]
        self.put(f"{self.path}/quote", {"version": 0, "lines": lines, "minutes": 45})
        self.hold(actor, job, before)
        self.post(f"{self.path}/return", {})
        said = " ".join(self.hold(actor, job, before))
        for words in (
            "with 1 deviation signed",
            "46.68 GBP",
            "X2 680 nF|2 × 1.45|2.90",
            "Labour|45 min at 48.00/h|36.00",
            "A new part is in its place",
            "Warranty until",
            "by M. Orne",
        ):
            self.assertIn(words, said)

    def test_a_sentence_that_the_record_does_not_hold_is_found(self) -> None:
        """The test itself: what was changed beside the record shows."""
        self.ready()
        actor, job = self.actor_of("orne"), self.job(3)
        judged = self.judged(job)
        self.hold(actor, job, judged)
        for rows, change in (
            (Job.objects.filter(pk=job.pk), {"symptom": "It never worked."}),
            (CheckResult.objects.filter(check_id="insulation"), {"sentence": "Ten times as much."}),
            (Reading.objects.filter(position__job=job), {"meter_name": "Another"}),
        ):
            was = [{name: getattr(row, name) for name in change} for row in rows]
            rows.update(**change)
            with self.assertRaises(AssertionError):
                self.hold(actor, job, judged)
            rows.update(**was[0])
            self.hold(actor, job, judged)
