"""A marking that is not certain: one key settles it in the reading box, on the board, in an import; until then no proof."""

import os
import tempfile
from pathlib import Path

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from dusky_heron.jobs.models import Job
from tests.browser.base import BrowserTest
from tests.browser.page import PHONE, Page

PICTURES = os.environ.get("LOOK_AT")  # a folder for pictures to look at while a view is made


class Doubts(BrowserTest):
    """The question first, each answer with its key."""

    def look(self, name: str) -> None:
        if PICTURES:
            self.page.shot(Path(PICTURES) / f"{name}.png")

    def test_one_key_settles_it_in_the_reading_box(self) -> None:
        page = self.sign_in()
        page.press("/", "10,000 MFD 50 VDC")
        seen = page.see("Which capacitance is printed?", "10 000 µF", "F2", "10 µF", "F3")
        self.assertLess(seen.index("Which capacitance is printed?"), seen.index("microfarad, as the trade prints them"))
        self.assert_axe_clean("a doubt")
        self.look("doubt-box")
        page.press(Keys.F3)
        self.until_gone(page, "Which capacitance is printed?")
        self.assertEqual(self.box(page), "10 MFD 50 VDC")
        page.retype("40/20/20 MFD 450/25 WVDC")
        page.see("Which volts is it rated for?", "450 + 450 + 25 V DC")
        self.look("doubt-can")
        page.press(Keys.F2)
        self.until_gone(page, "Which volts is it rated for?")
        self.assertEqual(self.box(page), "40+20+20 MFD 450/450/25 WVDC")

    def test_the_misreadings_of_old_are_asked_or_right(self) -> None:
        page = self.sign_in()
        page.press("/")
        for text, seen in (
            ("470 µF 450 VDC -40+105°C", "at 450 V"),
            ("47 µF 63 VDC 105C", "up to 105 °C"),
            ("40/20/20 MFD 450/450/25 WVDC", "at 450 V"),
            ("10,000 MFD 50 VDC", "Which capacitance is printed?"),
            ("450 µF 450V -40+105°C", "450 V DC"),
        ):
            with self.subTest(text):
                page.retype(text)
                page.see(seen)

    def test_an_unread_figure_is_asked_about_and_can_be_only_text(self) -> None:
        page = self.sign_in()
        page.press("/", "16 µF ±5 % 450 V~ 47X9")
        page.see("“47X9” was not understood. What is it?", "neither value, volts nor class")
        self.look("doubt-unread")
        page.press(Keys.F2)
        page.see("only text, as said")

    def test_one_key_settles_it_on_the_board(self) -> None:
        page = self.sign_in()
        page.open(f"/jobs/{self.job_of('Wave-pool')}/board")
        page.see("What is printed on it")
        page.press("r", "10,000 µF 63 V")
        page.see("Which capacitance is printed?", "F2")
        self.look("doubt-board")
        page.press(Keys.F2)
        self.until_gone(page, "Which capacitance is printed?")
        page.press(Keys.TAB)
        page.fill("What is printed on it", "3,300 µF 63 VDC")
        page.press(Keys.ENTER)
        page.see("3,300 µF 63 VDC")
        page.until(lambda: self.browser.find_elements(By.CSS_SELECTOR, "li [aria-label='not settled']"))

    def test_nothing_is_proved_while_the_volts_are_open(self) -> None:
        page = self.sign_in()
        job = self.job_of("Wave-pool")
        page.open(f"/jobs/{job}/intake")
        page.see("Add a position")
        page.press("n")
        page.see("What is printed on it")
        page.fill("Name, such as C1", "C9")
        page.fill("What it does", "snubber")
        page.fill("What is printed on it", "0.1 µF 630 V")
        page.see("Which volts is it rated for?")
        self.look("doubt-form")
        page.press(Keys.ENTER)
        page.see("C9")
        page.click("C9")
        page.press("2")
        page.see("C9 can hold", "Which volts is it rated for?", "Nothing is proved until it is.")
        self.look("doubt-proof")
        page.size(*PHONE)
        self.look("doubt-proof-phone")
        page.size(1280, 800)
        page.press(Keys.F2)
        self.until_gone(page, "Nothing is proved until it is.")
        page.see("630 VDC")
        page.press("p", "230", Keys.TAB, "230", Keys.TAB, "1,200", Keys.ENTER)
        page.see("is “1,200” 1.2 or 1200?")

    def test_one_key_settles_it_in_an_import(self) -> None:
        page = self.sign_in()
        page.open("/drawer")
        page.click("Import a list")
        page.see("Nothing is changed")
        with tempfile.TemporaryDirectory() as folder:
            Path(folder, "list.csv").write_text(
                'marking;kind;quantity\n820 nF J X2 310 V~;safety film;3\n"4,700 µF 63 V";electrolytic;5\n', encoding="utf-8"
            )
            self.browser.find_element(By.CSS_SELECTOR, "input[type=file]").send_keys(str(Path(folder, "list.csv")))
            page.see("waiting for the worker")
            self.work()
            page.see("1 of them leave open what is printed")
            page.click("Take it, all of it")
            page.see("Taking the list")
            self.work()
            page.see("Taken, all of it.", "One part waits", "Which capacitance is printed?")
            self.look("doubt-import")
            self.assert_axe_clean("parts to be settled")
            page.press(Keys.F2)
            self.until_gone(page, "One part waits")

    def test_pictures_of_the_doubt_at_both_sizes(self) -> None:
        page = self.sign_in()
        page.size(*PHONE)
        page.press("/", "10,000 MFD 50 VDC")
        page.see("Which capacitance is printed?")
        self.look("doubt-box-phone")
        for button in self.browser.find_elements(By.CSS_SELECTOR, "[aria-label='Not settled'] button"):
            self.assertGreaterEqual(button.size["height"], 44)

    def box(self, page: Page) -> str:
        field = self.browser.find_element(By.CSS_SELECTOR, "input[aria-label^='Reading box']")
        return str(field.get_attribute("value"))

    def until_gone(self, page: Page, words: str) -> None:
        page.until(lambda: words not in page.text())

    def job_of(self, title: str) -> str:
        return str(Job.objects.get(title__startswith=title).id)
