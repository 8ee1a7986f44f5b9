"""The pictures in docs/screenshots, made from the demo data; run by scripts/shots."""

import math
import tempfile
import time
from pathlib import Path

from selenium.webdriver.common.keys import Keys

from tests.browser.base import BrowserTest
from tests.browser.page import DESKTOP, PHONE

FOLDER = Path(__file__).resolve().parents[2] / "docs" / "screenshots"
AMBIGUOUS = "16 mF 450 VAC 1923"
LIST = """marking;kind;quantity;place
820 nF J X2 310 V~;safety film;3;B5
16 µF ±5 % 450 V~ S3 25/085/21;motor run;6;A1
nothing;spring;x;
"""
MARKING = "µ68 K X2 305~ 2123"


class Shots(BrowserTest):
    """One current picture of each main view."""

    def test_shots(self) -> None:
        FOLDER.mkdir(parents=True, exist_ok=True)
        page = self.sign_in()
        page.press("/", MARKING)
        page.see("may take its place")
        self.shot("bench")
        page.press(Keys.ESCAPE)
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")
        self.shot("discharge")
        page.press("e")
        page.see("emptying since")
        page.press("4")
        page.see("Lift one lead")
        page.press("r", "12.9u", Keys.TAB, "Blue", Keys.ENTER)
        page.see("Replace C1")
        self.shot("assess")
        page.press("5")
        page.see("Not these")
        self.shot("replace")
        page.press("t")
        page.see("Chosen:")
        page.press("9")
        page.see("Chain whole")
        self.shot("record")
        page.press("/", AMBIGUOUS)
        page.see("Which is it?")
        self.shot("reading-box")
        page.press(Keys.ESCAPE)
        self.discharging()
        page.press("d")
        page.see("3.3 nF")
        self.shot("drawer")
        self.buying()
        self.as_found_and_board()
        page.dark(True)
        page.open()
        page.see("Open jobs")
        page.click("Changing-room hand dryer")
        page.see("CX1 asks for")
        page.press("4")
        page.see("Replace CX1")
        self.shot("assess-dark")
        page.dark(False)
        page.size(*PHONE)
        page.open()
        page.see("Open jobs")
        self.shot("phone-bench")
        page.open()
        page.click("Chlorine dosing controller")
        page.press("5")
        page.see("CD1 asks for")
        self.scroll_to("May take the place, best first")
        self.shot("phone-replace")
        page.size(*DESKTOP)

    def buying(self) -> None:
        """A stock list seen before it is taken, the cheapest basket, and a part drawn in its space with those refused."""
        page = self.page
        page.click("Import a list")
        page.see("Nothing is changed")
        with tempfile.NamedTemporaryFile("w", suffix=".csv", encoding="utf-8") as file:
            file.write(LIST)
            file.flush()
            self.browser.find_element("css selector", "input[type=file]").send_keys(file.name)
            page.see("waiting for the worker")
            self.work()
        page.see("Mend the refused rows first")
        self.shot("import")
        page.press(Keys.ESCAPE)
        page.open("/shopping")
        page.see("Nothing cheaper exists")
        self.shot("basket")
        page.press("b")
        page.see("Open jobs")
        page.click("Changing-room hand dryer")
        page.see("CX1")
        page.press("5")
        page.see("from above")
        self.browser.execute_script("document.querySelector('figure').scrollIntoView({block: 'center'})")
        self.shot("fit")

    def as_found_and_board(self) -> None:
        """How the organ supply was found, a board of the lamp supply, and what the workshop decides for itself."""
        page = self.page
        page.press("b")
        page.see("Open jobs")
        page.click("Organ relay supply")
        page.see("All at a glance")
        page.press("3")
        page.see("rectifier", "Under the chassis")
        self.shot("as-found")
        page.press("b")
        page.see("Open jobs")
        page.click("Ticket-gate lamp supply")
        page.see("All at a glance")
        page.press("a")
        page.see("Next")
        page.press("r")
        for marking, value in (("100 µF 25 V", "97u"), ("220 µF 25 V", "131u"), ("47 µF 50 V", "45.1u")):
            page.press(marking, Keys.TAB, value, Keys.ENTER)
            page.until(lambda: page.labelled("What is printed on it").get_attribute("value") == "")
        self.shot("board")
        page.open("/policy")
        page.see("Where practitioners disagree", "Limits of verdicts")
        self.shot("policy")
        page.open("/dropper")
        page.see("hold every load")
        self.shot("dropper")
        page.open("/supply")
        page.see("within the 60 µF")
        page.fill("Grown to", "100u")
        page.see("more than the 60 µF")
        self.shot("supply")

    def discharging(self) -> None:
        """The Discharge stage in its states: a fall that is watched."""
        page = self.page
        page.press("b")
        page.see("Open jobs")
        page.click("Stage-front flash bank")
        page.see("C4 can hold")
        page.press("e")
        self.fall(start=360, tau=3.6, step=1.0)
        self.scroll_to("Watching it fall")
        self.shot("discharge-fall")

    def fall(self, *, start: float, tau: float, step: float) -> None:
        """Log nine readings of a fall with a little noise."""
        self.page.see("Watching it fall")
        rows = [f"{k * step:g}, {start * math.exp(-k * step / tau) * (1 + 0.004 * (-1) ** k):.1f}" for k in range(9)]
        self.page.press("f")
        for index, row in enumerate(rows):
            self.page.press(row, Keys.ENTER)
            self.page.until(lambda rows=index + 1: self.page.text().count("Watching it fall") and self.logged() == rows)
        self.browser.execute_script("document.activeElement.blur()")

    def logged(self) -> int:
        """How many readings the plot says it shows."""
        found = self.browser.find_elements("css selector", "figure tbody tr")
        return len(found)

    def scroll_to(self, label: str) -> None:
        self.browser.execute_script(f"document.querySelector('[aria-label=\"{label}\"]').scrollIntoView()")

    def shot(self, name: str) -> None:
        time.sleep(0.4)  # let fonts and the last answer settle; a picture, not a test
        self.page.shot(FOLDER / f"{name}.png")
