"""A second factor in the real page: set up, asked at the door and for a signature, demanded of everybody."""

import time
from typing import Any

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from dusky_heron.workshops.models import Member, Terms
from tests.api.test_second_factor import code_at
from tests.browser.base import BrowserTest
from tests.databases import PASSWORD

TYPED = "return JSON.stringify({ ...localStorage, ...sessionStorage })"


class SecondFactor(BrowserTest):
    """By mouse and keys, with an authenticator that shows each next code at once."""

    ahead = 0

    def code(self, secret: str) -> str:
        """The next code: one that was used counts no more, and the next half minute's is taken too."""
        now = int(time.time() // 30)
        self.ahead = max(now, self.ahead + 1)
        while self.ahead > int(time.time() // 30) + 1:
            time.sleep(0.5)
        return code_at(secret, self.ahead * 30)

    def said(self, where: str) -> str:
        return self.browser.find_element(By.CSS_SELECTOR, where).text

    def set_up(self, page: Any) -> tuple[str, list[str]]:
        page.fill("Your password", PASSWORD)
        page.press(Keys.ENTER)
        page.see("Let the authenticator read this")
        secret = self.said("[data-secret]")
        page.fill("The code it shows now", "000000")
        page.press(Keys.ENTER)
        page.see("That code does not fit")
        page.fill("The code it shows now", self.code(secret))
        page.press(Keys.ENTER)
        page.see("Ten recovery codes")
        codes = self.said("[aria-label='Recovery codes']").split()
        self.assert_axe_clean("recovery codes")
        page.click("I have them")
        return secret, codes

    def test_set_up_signed_with_and_asked_for_at_the_door(self) -> None:
        page = self.sign_in()
        page.open("/workshop")
        page.click("Set up a second factor")
        self.assert_axe_clean("second factor")
        secret, codes = self.set_up(page)
        page.see("New recovery codes")
        page.click("Change the terms")
        page.labelled_box("everybody needs a second factor").click()
        page.click("Save")
        page.see("Sign with a code")
        self.assert_axe_clean("sign with a code")
        page.fill("Code of your authenticator", "111111")
        page.press(Keys.ENTER)
        page.see("That code does not fit")
        time.sleep(1.1)  # a wrong one closes it for a second
        page.fill("Code of your authenticator", codes[0])
        page.press(Keys.ENTER)
        page.see("Everybody needs a second factor to sign in.")
        self.assertTrue(Terms.objects.get().second_factor)
        self.assertNotIn(codes[0], self.browser.execute_script(TYPED))
        page.click("M. Orne")
        page.click("Sign out")
        page.see("User name")
        page.fill("User name", "orne")
        page.fill("Password", PASSWORD)
        page.press(Keys.ENTER)
        page.see("Type the code of your authenticator")
        page.fill("Code", self.code(secret))
        page.press(Keys.ENTER)
        page.see("Wave-pool circulation pump")

    def test_where_it_is_demanded_nothing_else_is_open(self) -> None:
        Terms.objects.update_or_create(workshop=Member.objects.get(username="orne").workshop, defaults={"second_factor": True})
        page = self.page
        page.open()
        page.see("User name")
        page.press("vell", Keys.TAB, PASSWORD, Keys.ENTER)
        page.see("A second factor first")
        self.assertNotIn("Wave-pool", page.text())
        self.set_up(page)
        page.see("Wave-pool circulation pump")

    def test_a_signature_that_is_not_given_writes_nothing_and_loses_nothing(self) -> None:
        page = self.sign_in()
        page.open("/workshop")
        page.click("Set up a second factor")
        self.set_up(page)
        page.click("Add a member")
        for label, typed in (("Name", "Third"), ("User name", "third"), ("First password", PASSWORD)):
            page.fill(label, typed)
        page.click("Add it")
        page.see("Sign with a code")
        page.press(Keys.ESCAPE)
        page.see("Type a code of your authenticator to sign.")
        self.assertEqual(page.labelled("Name").get_attribute("value"), "Third")
        self.assertFalse(Member.objects.filter(username="third").exists())
