"""Typing at the speed of hands while every answer comes 0.8 s late: nothing is lost, doubled or misplaced."""

import re

from django.conf import settings
from django.test import override_settings
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from dusky_heron.asfound.models import FoundLine
from dusky_heron.assessment.models import Reading
from dusky_heron.discharge.actions import note_charge
from dusky_heron.discharge.schemas import ChargeIn
from dusky_heron.discharge.states import ChargeState
from dusky_heron.fitting.models import FitTick
from dusky_heron.jobs.models import Job, Position
from dusky_heron.workshops.models import Member
from tests.browser.base import BrowserTest
from tests.browser.slow import late

A_SECOND = 12  # characters
BOARD = [(f"{10 * k} µF M 400 V", f"{10.1 * k:.1f}u") for k in range(1, 13)]
WIRES = [f"{colour} {end} -> J{k}" for k, (colour, end) in enumerate(zip(["red", "blue", "grey"] * 4, "abcdefghijkl", strict=True))]


@override_settings(MIDDLEWARE=["tests.browser.slow.Slow", *settings.MIDDLEWARE])
class Hands(BrowserTest):
    """Twelve characters a second, no pause between lines."""

    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def tearDown(self) -> None:
        late["s"] = 0.0
        super().tearDown()

    def typed(self, *words: str) -> None:
        """All of them in one go."""
        chain = ActionChains(self.browser)
        for key in "".join(words):
            chain.send_keys(key).pause(1 / A_SECOND)
        chain.perform()

    def test_a_board(self) -> None:
        page = self.page
        page.press("j")
        page.see("What it is")
        page.press("Boiler board", Keys.ENTER)
        page.see("Name the first position")
        page.press("a")
        page.see("What is printed on it", "No position yet.")
        late["s"] = 0.8
        self.typed(*[f"{marking}{Keys.TAB}{value}{Keys.ENTER}" for marking, value in BOARD])
        page.see("saving")
        self.typed("470 µF")  # begun, and left as it is
        job = Job.objects.get(title="Boiler board")
        page.until(lambda: Position.objects.filter(job=job).count() == len(BOARD) and "saving" not in page.text())
        kept = list(Position.objects.filter(job=job).order_by("sequence").values_list("name", "marking"))
        self.assertEqual(kept, [(f"C{k}", marking) for k, (marking, _) in enumerate(BOARD, 1)])
        read = list(Reading.objects.filter(position__job=job).values_list("position__name", "typed"))
        self.assertEqual(sorted(read), sorted((f"C{k}", value) for k, (_, value) in enumerate(BOARD, 1)))
        self.assertEqual(page.labelled("What is printed on it").get_attribute("value"), "470 µF")
        self.assertEqual(page.labelled("Name").get_attribute("value"), "C13")
        late["s"] = 0.0
        self.browser.refresh()
        page.until(lambda: page.labelled("What is printed on it").get_attribute("value") == "470 µF")

    def test_how_it_was_found(self) -> None:
        page = self.page
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")
        page.press("3")
        page.see("Nothing noted yet")
        late["s"] = 0.8
        page.press("l")
        self.typed(*[f"{wire}{Keys.ENTER}" for wire in (*WIRES[:5], "no arrow here", *WIRES[5:])], "green")
        page.until(lambda: FoundLine.objects.filter(job__number=1).count() == len(WIRES) and "saving" not in page.text())
        self.assertEqual([line.typed for line in FoundLine.objects.filter(job__number=1)], WIRES)
        page.see("no arrow here", "Enter what you type first")  # refused, and in nobody's way
        page.retype(Keys.DELETE)
        page.click("Mend it")
        self.assertEqual(page.labelled("One line: colour from -> to").get_attribute("value"), "no arrow here")
        page.see("A wire needs an arrow")

    def test_what_is_fitted(self) -> None:
        page = self.page
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")
        page.press("e", "e")
        page.see("emptying since")
        page.press("4")
        page.see("Lift one lead")
        page.press("r", "12.9u", Keys.TAB, "Blue", Keys.ENTER)
        page.see("Replace C1")
        page.press("5")
        page.see("Not these")
        page.press("t")
        page.see("Chosen")
        page.press("6")
        page.click("Take it out of the drawer")
        page.until(lambda: "out of the drawer first" not in page.text())
        place = Position.objects.get(job__number=1)
        note_charge(Member.objects.get(username="orne").actor, place.id, ChargeIn(state=ChargeState.KEPT_SHORTED))
        page.see("kept shorted")
        count = len(self.browser.find_elements("css selector", "ol input[type=checkbox]"))
        self.browser.execute_script("document.activeElement.blur()")
        late["s"] = 0.8
        self.typed("t" * count)
        said = page.see(f"{count} of {count}")
        self.assertTrue(re.search("saving", said))
        page.see("every line is ticked")
        self.assertEqual(FitTick.objects.filter(choice__position=place).count(), count)
