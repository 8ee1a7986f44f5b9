"""The pictures in docs/screenshots, made from the demo data; run by scripts/shots."""

import time
from pathlib import Path

from selenium.webdriver.common.keys import Keys

from tests.browser.base import BrowserTest
from tests.browser.page import DESKTOP, PHONE

FOLDER = Path(__file__).resolve().parents[2] / "docs" / "screenshots"
MARKING = "µ68 K X2 305~ 2123"


class Shots(BrowserTest):
    """One current picture of each main view."""

    def test_shots(self) -> None:
        FOLDER.mkdir(parents=True, exist_ok=True)
        self.page.open()
        self.page.see("User name")
        self.shot("sign-in")
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
        page.press("3")
        page.see("Lift one lead")
        page.press("r", "12.9u", Keys.TAB, "Blue", Keys.ENTER)
        page.see("Replace C1")
        self.shot("assess")
        page.press("4")
        page.see("Not these")
        self.shot("replace")
        page.press("t")
        page.see("Chosen:")
        page.press("5")
        page.see("Chain whole")
        self.shot("record")
        page.press("1")
        page.see("Save intake")
        self.shot("intake")
        page.press("/", "16 mF 450 VAC 1923")
        page.see("May also be")
        self.shot("reading-box")
        page.press(Keys.ESCAPE)
        for key, words, name in (("d", "3.3 nF", "drawer"), ("m", "Blue hand meter", "meters")):
            page.press(key)
            page.see(words)
            self.shot(name)
        page.dark(True)
        page.open()
        page.see("Open jobs")
        page.press("/", MARKING)
        page.see("may take its place")
        self.shot("bench-dark")
        page.press(Keys.ESCAPE)
        page.click("Changing-room hand dryer")
        page.see("CX1 asks for")
        page.press("3")
        page.see("Replace CX1")
        self.shot("assess-dark")
        page.dark(False)
        page.size(*PHONE)
        page.open()
        page.see("Open jobs")
        self.shot("phone-bench")
        page.click("Wave-pool circulation pump")
        page.see("Chosen:")
        page.press("2")
        page.see("C1 can hold")
        self.shot("phone-discharge")
        page.size(*DESKTOP)

    def shot(self, name: str) -> None:
        time.sleep(0.4)  # let fonts and the last answer settle; a picture, not a test
        self.page.shot(FOLDER / f"{name}.png")
