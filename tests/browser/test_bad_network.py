"""Two phones on a network that cuts, delays, loses answers and hangs: each act once, in its order, with its own time."""

import datetime
import json
import os
import tempfile
from pathlib import Path
from typing import Any, ClassVar

from django.utils import timezone
from selenium import webdriver
from selenium.webdriver.common.keys import Keys

from dusky_heron.core.model import SIGN_TITLES, Sign
from dusky_heron.discharge.models import ChargeNote
from dusky_heron.jobs.models import Job, Position
from dusky_heron.record.models import Entry
from dusky_heron.record.verifying import verify
from dusky_heron.workshops.models import Member
from tests import drawn_by
from tests.api.test_asfound import picture
from tests.browser.base import BrowserTest
from tests.browser.page import PHONE, Page, start_browser
from tests.browser.proxy import Network, Proxy
from tests.browser.test_device import FILES, KEPT
from tests.browser.test_offline import CONTROLLED
from tests.databases import PASSWORD

ACTS = int(os.environ.get("NETWORK_ACTS", "30"))  # `scripts/test --wider` draws more
STAGES = {"assess": "What is measured", "discharge": "C1 can hold", "found": "One line"}
CAREFUL = ("energised", "unknown", "rising")
AGED = """
    const key = Object.keys(localStorage).find((key) => key.includes('lines proofs'))
    const kept = localStorage.getItem(key)
    const aged = kept.replace(/"at":(\\d{13})(?=,"sent|})/g, (_, at) => `"at":${at - 20 * 60_000}`)
    addEventListener('pagehide', () => { localStorage.setItem(key, aged); localStorage.removeItem('outbox, on its way') })
"""
MOST_S = 3  # the time in the record may be so far from the key: what a Date and a moment on the way leave open


class Phone:
    """One of them, and what was done on it: what was typed, and when."""

    def __init__(self, browser: webdriver.Chrome, url: str, name: str, member: str, photo: str) -> None:
        self.page, self.name, self.member, self.photo = Page(browser, url), name, member, photo
        self.done = list[tuple[str, datetime.datetime, datetime.datetime]]()  # words, and between which moments they were typed
        self.energised = False

    def begin(self, path: str) -> None:
        browser = self.page.browser
        browser.delete_all_cookies()
        self.page.size(*PHONE)
        self.page.sign_in(self.member, PASSWORD)
        self.page.until(lambda: browser.execute_script(CONTROLLED))
        for stage, words in STAGES.items():  # seen once while the network was good
            self.page.open(path + stage)
            self.page.see(words, "Hand back")

    def act(self, kind: str, number: int) -> None:
        """Something typed or pressed; its words tell it from every other."""
        page = self.page
        page.browser.execute_script("document.activeElement.blur()")
        words, begun = f"{self.name}{number:03}", timezone.now()
        if kind == "line":
            page.press("3")
            page.see("One line")
            page.press("l", f"red {words} -> C1", Keys.ENTER)
        elif kind == "reading":
            words = f"{10 + number / 100 + (5 if self.name == 'B' else 0):.2f}u"
            page.press("4")
            page.see("What is measured")
            page.press("r")
            page.retype(words)
            page.press(Keys.ENTER)
        elif kind == "photo":
            page.press("3")
            page.see("Photo of")
            page.fill("Photo of", words)
            page.browser.find_element("css selector", "input[type=file]").send_keys(self.photo)
            page.until(lambda: not page.labelled("Photo of").get_attribute("value"))  # one is being kept at a time
            page.press(Keys.ESCAPE, Keys.ESCAPE)  # of the dialog for its points
        elif kind == "proof":
            page.press("2")
            page.see("C1 can hold")
            if self.energised:
                self._empty()
                self.energised = False
                page.browser.execute_script("document.activeElement.blur()")
            words = f"{101 + number} V DC before"
            page.prove(3, f"{101 + number}")
        elif kind in {*Sign}:
            page.press("4")
            page.see("What is measured")
            words = f'"sign": "{kind}"'
            page.click(SIGN_TITLES[Sign(kind)])
        else:
            page.press("2")
            page.see("C1 can hold")
            self.energised = kind == "energised" and "Energised" in page.text()
            if self.energised:
                page.until(self._armed)
                page.click("Press again")
            else:
                self._empty()
            return
        self.done.append((words, begun, timezone.now()))

    def _empty(self) -> None:
        """Pressed twice; an answer that comes between takes the first press back."""
        self.page.press("e", "e")
        if "Press again: Emp" in self.page.text():
            self.page.press("e")

    def _armed(self) -> bool:
        """A press that means it; an answer that comes just then takes it back, and it is pressed again."""
        if "Press again" not in self.page.text():
            self.page.click("Energised")
        return "Press again" in self.page.text()

    def all_sent(self) -> bool:
        """Nothing waits any more."""
        said = self.page.text()
        on_its_way = self.page.browser.execute_script("return localStorage.getItem('outbox, on its way') ?? '[]'")
        return on_its_way == "[]" and "in this browser" not in said and "No connection" not in said

    def careful(self) -> bool:
        """What it says of the charge is never less than what was noted on it last."""
        said = self.page.text()
        return not self.energised or any(f"C1 {word}" in said for word in CAREFUL)


class BadNetwork(BrowserTest):
    """Histories of what is typed, drawn; what the network does is drawn as well."""

    phone: ClassVar[webdriver.Chrome]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.phone = start_browser()
        cls.addClassCleanup(cls.phone.quit)

    def test_each_act_once_in_its_order_with_its_own_time(self) -> None:
        of = drawn_by(25)
        job = Job.objects.get(number=1)
        path = f"/jobs/{job.id}/"
        with Proxy(self.server_thread.port, of) as proxy:
            url = f"http://127.0.0.1:{proxy.port}"
            photo = Path(self.enterContext(tempfile.TemporaryDirectory())) / "photo.png"
            photo.write_bytes(picture("PNG"))
            phones = [Phone(self.browser, url, "A", "orne", str(photo)), Phone(self.phone, url, "B", "vell", str(photo))]
            for phone in phones:
                phone.begin(path)
            unseen = of.sample(sorted(SIGN_TITLES), len(SIGN_TITLES))  # each is seen once
            for number in range(ACTS):
                if number % 5 == 0:
                    proxy.turn(of.choice([one for one in Network if one != proxy.network]))
                phone = of.choice(phones)
                kinds = ["line", "reading", "photo", *(("energised", "emptying", "proof") if phone.name == "A" else ())]
                kind = of.choice([*kinds, "sign"] if unseen else kinds)
                phone.act(unseen.pop() if kind == "sign" else kind, number)
                self.assertTrue(phones[0].careful(), phones[0].page.text())
            proxy.turn(Network.GOOD)
            for phone in phones:
                phone.page.until(phone.all_sent)
            self.assertTrue(phones[0].careful())
            for phone in phones:
                phone.page.browser.get("about:blank")
        self.assertTrue(verify(Member.objects.get(username="orne").actor, job.id).whole)
        self.check(job, phones)

    def tearDown(self) -> None:
        self.browser.get_log("browser")  # says what the network did
        super().tearDown()

    def check(self, job: Job, phones: list[Phone]) -> None:
        """Each word once, at its time, in the order of its phone."""
        said: list[Any] = [json.loads(text) for text in self.texts(job)]
        for phone in phones:
            places = list[int]()
            for words, begun, ended in phone.done:
                mine = [entry for entry in said if words in json.dumps(entry["body"])]
                self.assertEqual(len(mine), 1, (phone.name, words))
                when = datetime.datetime.fromisoformat(mine[0].get("taken_at") or mine[0]["at"])
                off_s = max((begun - when).total_seconds(), (when - ended).total_seconds())
                self.assertLess(off_s, MOST_S, (phone.name, words))
                if mine[0]["kind"] != "photo":  # takes long, and holds up nothing else: its time says when it was taken
                    places.append(mine[0]["sequence"])
            self.assertEqual(places, sorted(places), phone.name)

    def texts(self, job: Job) -> list[str]:
        return list(Entry.objects.filter(chain__subject_id=job.id).order_by("sequence").values_list("text", flat=True))


class WhileItHangs(BrowserTest):
    """Nothing is answered: what is noted on top is in force, and what is typed stays where it was typed."""

    def setUp(self) -> None:
        super().setUp()
        proxy = self.enterContext(Proxy(self.server_thread.port, drawn_by(26)))
        self.page = Page(self.browser, f"http://127.0.0.1:{proxy.port}")
        self.browser.delete_all_cookies()
        self.page.sign_in("orne", PASSWORD)
        self.turn = proxy.turn
        self.page.open(f"/jobs/{Job.objects.get(number=1).id}/discharge")
        self.page.see("C1 can hold", "Prove it below")

    def tearDown(self) -> None:
        self.turn(Network.GOOD)
        self.page.until(lambda: self.browser.execute_script("return localStorage.getItem('outbox, on its way')") is None)
        self.browser.get("about:blank")
        self.browser.get_log("browser")  # says what the network did
        super().tearDown()

    def test_live_again_is_said_before_the_note_before_it_was_answered(self) -> None:
        page = self.page
        self.turn(Network.HANGS)
        page.press("e", "e")
        page.click("Energised")
        page.click("Press again")
        page.see("C1 energised")
        self.turn(Network.GOOD)
        page.see("C1 energised since")
        place = Position.objects.get(job__number=1, name="C1")
        page.until(lambda: ChargeNote.standing(position=place).count() == 2)
        self.assertEqual([note.state for note in ChargeNote.standing(position=place)], ["emptying", "energised"])

    def test_what_may_have_charged_it_takes_the_proof(self) -> None:
        page = self.page
        page.prove(3)
        page.see("C1 proved below 5 V at")
        page.press("4")
        page.see("Judge it")
        self.turn(Network.HANGS)
        page.fill("What is measured", "insulation")
        page.fill("Measured", "lifted")
        page.fill("Reading", ">60M")
        page.press(Keys.ENTER)
        page.see("C1 unknown")

    def test_a_rise_stops_the_work(self) -> None:
        page = self.page
        page.until(lambda: self.browser.execute_async_script(KEPT) == FILES)
        page.press("e", "e")
        page.see("C1 emptying since", "Watching it fall")
        self.turn(Network.HANGS)
        page.press("f")
        for row in ("0, 31", "1, 23", "2, 18", "3, 325"):
            page.press(row, Keys.ENTER)
        page.see("It stepped up: something fed it again. Stop, hands off", "C1 rising")

    def test_an_answer_that_comes_late_takes_nothing_from_what_is_typed(self) -> None:
        page = self.page
        self.turn(Network.LATE)
        page.press("e", "e")
        page.press("p", "131", Keys.TAB, "131", Keys.TAB, Keys.SPACE)
        page.see("C1 emptying since")
        self.assertEqual(self.typed()[:4], ["131", "131", "<1", ""])
        self.turn(Network.GOOD)
        page.press(*[Keys.SPACE] * 5, Keys.TAB, "131", Keys.TAB, "131", Keys.ENTER)
        page.see("C1 proved below 5 V at")
        self.assertEqual(set(self.typed()), {""})

    def typed(self) -> list[str]:
        return [
            field.get_attribute("value") or ""
            for field in self.browser.find_elements("css selector", "section[aria-label='Prove it'] input")
        ]

    def test_a_proof_that_is_refused_long_after_it_was_read_is_read_again(self) -> None:
        page = self.page
        self.turn(Network.HANGS)
        page.press("p", "131", Keys.TAB, "131", Keys.TAB, *[Keys.SPACE] * 6, Keys.TAB, "40", Keys.TAB, "40", Keys.ENTER)
        page.see("Proof by 131 V, 131 V")
        self.browser.execute_script(AGED)  # the page was closed before the answer, and is opened again after twenty minutes
        self.turn(Network.GOOD)
        self.browser.refresh()
        page.see("Prove it below", "read it again")
        self.assertEqual(set(self.typed()), {""})
        page.prove(3, "131")
        place = Position.objects.get(job__number=1, name="C1")
        page.until(lambda: [note.state for note in ChargeNote.standing(position=place)] == ["proved"])
