"""The real page in headless Chromium, driven as a person would: by keys, labels and words seen."""

import os
import tempfile
from functools import cache
from multiprocessing.util import Finalize
from pathlib import Path
from typing import Any

from selenium import webdriver
from selenium.common.exceptions import ElementClickInterceptedException, WebDriverException
from selenium.webdriver.chrome.service import Service
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait

DESKTOP, PHONE = (1280, 800), (390, 844)
NARROW = 640  # px, below which the layout is the phone's
FLAGS = (
    "--headless=new --disable-gpu --disable-quic --no-first-run --disable-background-networking --disable-component-update "
    "--disable-sync --hide-scrollbars --window-size=1280,800 --force-prefers-reduced-motion"
)
FOCUSED = "const e = document.activeElement; return e === document.body ? '' : e.innerText || e.ariaLabel || ''"


def start_browser() -> webdriver.Chrome:
    """A browser with a profile of its own; without a sandbox only for root, who cannot have one."""
    options = webdriver.ChromeOptions()
    options.binary_location = "/usr/bin/chromium"
    for flag in FLAGS.split():
        options.add_argument(flag)
    options.add_argument(f"--user-data-dir={tempfile.mkdtemp(prefix='dusky-browser-')}")
    if os.geteuid() == 0:
        options.add_argument("--no-sandbox")
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    return webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))


@cache
def the_browser() -> webdriver.Chrome:
    """The one of this process; it goes with it."""
    browser = start_browser()
    Finalize(None, browser.quit, exitpriority=10)  # of a process of a pool too, which runs no atexit
    return browser


class Page:
    """What a person does with the page, and what they see."""

    def __init__(self, browser: webdriver.Chrome, url: str) -> None:
        self.browser, self.url = browser, url

    def open(self, path: str = "/") -> None:
        self.browser.get(self.url + path)

    def size(self, width: int, height: int) -> None:
        metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
        self.browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)

    def dark(self, on: bool) -> None:
        self.browser.execute_script("localStorage.setItem('theme', arguments[0])", "dark" if on else "light")
        self.browser.refresh()

    def press(self, *keys: str) -> None:
        """Keys to wherever the focus is."""
        for key in keys:
            ActionChains(self.browser).send_keys(key).perform()

    def prove(self, pairs: int, known: str = "230") -> int:
        """The sequence of a proof, the known source and so many pairs with nothing left; how many keys it took."""
        narrow = (
            self.browser.execute_script("return innerWidth") < NARROW
        )  # there a button stands before the pairs and keeps the focus
        on = [Keys.TAB] * (1 + 2 * pairs * narrow)
        keys = ["p", known, Keys.TAB, known, Keys.TAB, *[Keys.SPACE] * (2 * pairs), *on, known, Keys.TAB, known, Keys.ENTER]
        self.press(*keys)
        return sum(len(key) for key in keys)

    def retype(self, text: str) -> None:
        """Replace what the field with the focus holds."""
        ActionChains(self.browser).key_down(Keys.CONTROL).send_keys("a").key_up(Keys.CONTROL).send_keys(text).perform()

    def fill(self, label: str, text: str) -> None:
        """Replace what a labelled field holds; choose the option by its words in a list of choices."""
        field = self.labelled(label)
        if field.tag_name != "select":
            field.send_keys(Keys.CONTROL, "a")
        field.send_keys(text)

    def labelled(self, label: str) -> WebElement:
        path = f"//label[normalize-space()='{label}' or starts-with(normalize-space(),'{label},')]"
        found = self.until(lambda: self.browser.find_elements(By.XPATH, path))
        return self.browser.find_element(By.ID, found[0].get_attribute("for") or "")

    def labelled_box(self, label: str) -> WebElement:
        """The box to tick that stands within a label."""
        found: list[WebElement] = self.until(lambda: self.browser.find_elements(By.XPATH, f"//label[contains(., {label!r})]/input"))
        return found[0]

    def click_summary(self, words: str) -> None:
        """Open what is folded."""
        self.until(lambda: self.browser.find_elements(By.XPATH, f"//summary[contains(., {words!r})]"))[0].click()

    def click(self, words: str) -> None:
        path = f"//*[self::button or self::a][contains(normalize-space(), {words!r})]"

        def clicked() -> bool:
            found = self.browser.find_element(By.XPATH, path)
            try:
                found.click()
            except ElementClickInterceptedException:  # under the charge line: a person scrolls
                self.browser.execute_script("arguments[0].scrollIntoView({ block: 'center' })", found)
                found.click()
            return True

        self.until(clicked)

    def text(self) -> str:
        """Everything that can be seen, spaces made plain."""
        return " ".join(self.browser.find_element(By.TAG_NAME, "body").text.replace("\u00a0", " ").split())

    def see(self, *words: str) -> str:
        """Wait until all of the words can be seen."""
        try:
            self.until(lambda: all(w in self.text() for w in words))
        except Exception as error:
            missing = [w for w in words if w not in self.text()]
            raise AssertionError(f"not seen: {missing}; on the page: {self.text()}") from error
        return self.text()

    def until(self, condition: Any) -> Any:
        """Wait for a condition; a page that goes while it is read is only not there yet."""
        return WebDriverWait(self.browser, 30, poll_frequency=0.03, ignored_exceptions=(WebDriverException,)).until(
            lambda _: condition()
        )

    def focus_by_tab(self, words: str, *, limit: int = 80) -> None:
        """Tab until what has the focus says these words, as a person without a mouse would."""
        for _ in range(limit):
            if words in self.browser.execute_script(FOCUSED):
                return
            self.press(Keys.TAB)
        raise AssertionError(f"{words!r} cannot be reached by Tab")

    def sign_in(self, username: str, password: str) -> None:
        self.open()
        self.see("User name")
        self.press(username, Keys.TAB, password, Keys.ENTER)
        self.see("Open jobs")

    def shot(self, file: Path | str) -> None:
        self.browser.save_screenshot(str(file))
