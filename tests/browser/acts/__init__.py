"""Jobs written down as acts, done by keyboard as quickly as the page lets one, with every key counted.

A row is an act: what is done, where, with which words, and the key that does it at once where the page has one.
Words are what a person has to say whatever the page is like; every key beside them counts, Tab and Enter among them.
"""

import csv
import re
from collections.abc import Callable, Iterator
from contextlib import suppress
from pathlib import Path
from typing import Any

from selenium.common.exceptions import TimeoutException
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from tests.browser.page import Page

HERE = Path(__file__).parent
LOOK = (HERE / "look.js").read_text(encoding="utf-8")
NEAR = 4  # Tabs; from so many on, a person asks for the letters of what can be reached


class Acts:
    """Hands on a page that know where everything is, and take the shortest way there."""

    def __init__(self, page: Page, later: Callable[[], None]) -> None:
        self.page, self.browser, self.later = page, page.browser, later
        self.keys, self.words, self.said = 0, 0, list[tuple[int, str]]()
        self.letters = True  # until the page shows none

    def job(self, name: str, until: str = "") -> None:
        """All acts of one, or those before one goes to a stage."""
        for act in acts_of(name):
            if act["act"] == "go" and act["where"] == until:
                return
            before = self.keys
            try:
                getattr(self, act["act"])(act["where"], act["words"], act["key"])
            except Exception as error:
                raise AssertionError(f"{name}: {act}: {error}; {self.page.text()}") from error
            self.said.append((self.keys - before, "|".join(act.values())))

    def see(self, where: str, words: str, key: str) -> None:
        """Waits for what is shown, and does nothing."""
        self.page.see(words)

    def go(self, where: str, words: str, key: str) -> None:
        """Presses what is called so, by its key or by walking there; at times twice, to show that it is meant."""
        times = 2 if words == "twice" else 1
        if key.endswith("?"):  # a key that not every page has: where it has, it says so on the button
            key = key[0] if self._look("hinted", self._find("press", where)) == key[0] else ""
        if key and self._leave():
            self._press(*[key] * times)
        elif self._reach("press", where):  # its letters have pressed it
            self._press(*[Keys.ENTER] * (times - 1))
        else:
            self._press(*[Keys.ENTER] * times)

    def type(self, where: str, words: str, key: str) -> None:
        """Says words in a field; what it already says costs nothing."""
        field = self._find("field", where)
        if self._value(field) == words:
            return
        by_letters = self._reach("field", where, key)
        if self._value(field) and not by_letters:  # its letters choose what it says
            ActionChains(self.browser).key_down(Keys.CONTROL).send_keys("a").key_up(Keys.CONTROL).perform()
            self.keys += 1
        self.words += len(words)
        self.page.press(words)

    def choose(self, where: str, words: str, key: str) -> None:
        """Says the words of a choice; what is chosen already costs nothing."""
        field = self._find("field", where)
        chosen = "return arguments[0].selectedOptions[0]?.text ?? ''"
        if words in self.browser.execute_script(chosen, field):
            return
        self._reach("field", where, key)
        self.words += len(words)
        self.page.press(words)
        self.page.until(lambda: words in self.browser.execute_script(chosen, field))

    def tick(self, where: str, words: str, key: str) -> None:
        """A box of that name; one that is ticked costs nothing."""
        ticked = self.browser.execute_script("return arguments[0].checked", self._find("field", where))
        if not ticked and not self._reach("field", where, key):
            self._press(Keys.SPACE)

    def enter(self, where: str, words: str, key: str) -> None:
        """Enter, where the focus is."""
        self._press(Keys.ENTER)

    def press(self, where: str, words: str, key: str) -> None:
        """The same key so many times, where the focus is."""
        self._press(*[{"space": Keys.SPACE, "tab": Keys.TAB}.get(key, key)] * int(words))

    def each(self, where: str, words: str, key: str) -> None:
        """The same key until all is done, once for each thing to do."""
        for _ in range(20):
            text = self.page.text()
            if any(done == of for done, of in counted(text)):
                self.page.see(words)
                return
            if not self._leave():
                raise AssertionError("the keys would go into a field")
            self._press(key)
            with suppress(TimeoutException):
                self._moved(text)
        raise AssertionError(f"not all is done: {counted(self.page.text())}")

    def _moved(self, before: str) -> None:
        WebDriverWait(self.browser, 5, poll_frequency=0.03).until(lambda _: counted(self.page.text()) != counted(before))

    def wait(self, where: str, words: str, key: str) -> None:
        """Time goes by, until the soak is over."""
        self.later()

    def _press(self, *keys: str) -> None:
        self.keys += len(keys)
        self.page.press(*keys)

    def _find(self, kind: str, words: str) -> Any:
        return self.page.until(lambda: self._look("find", kind, words))

    def _look(self, what: str, *given: Any) -> Any:
        return self.browser.execute_script(f"{LOOK}; return {what}(...arguments)", *given)

    def _value(self, field: Any) -> str:
        return str(self.browser.execute_script("return arguments[0].value", field))

    def _leave(self) -> bool:
        """Out of the field, where single keys act; not every page lets one."""
        if self._look("within"):
            return False
        if self._look("typing"):
            self._press(Keys.ESCAPE)
        return not self._look("typing")

    def _reach(self, kind: str, words: str, key: str = "") -> bool:
        """The focus to what is called so, the shortest way; whether by its letters, which press what can be pressed."""
        target = self._find(kind, words)
        by = self._look("far", target)
        if key and (abs(by) > 1 or not by) and not self._look("has", target) and self._leave():
            self._press(key)
            self.page.until(lambda: self._look("typing"))  # there, or in a field near it
        elif self.letters and abs(by) >= NEAR and self._by_letters(target):
            return True
        for _ in range(6):
            target = self._find(kind, words)  # the page may have drawn it anew
            if self._look("has", target):
                return False
            by = self._look("far", target)
            many = [Keys.TAB] * abs(by)
            self.keys += len(many)
            chain = ActionChains(self.browser)
            if by < 0:
                chain.key_down(Keys.SHIFT)
            chain.send_keys(*many)
            if by < 0:
                chain.key_up(Keys.SHIFT)
            chain.perform()
        raise AssertionError(f"{words!r} cannot be reached by Tab, at {self._look('where')}, {self._look('far', target)} from it")

    def _by_letters(self, target: Any) -> bool:
        """By the letters that the page puts beside what can be reached, where it does."""
        if self._look("typing") or self._look("within"):
            ActionChains(self.browser).key_down(Keys.ALT).send_keys("g").key_up(Keys.ALT).perform()
        else:
            self.page.press("g")
        letters = self._look("letters", target)
        if letters is None:
            self.letters = False
            return False
        self.keys += 1
        self._press(*letters)
        return True


def counted(text: str) -> list[tuple[str, str]]:
    """How many are done of how many."""
    return re.findall(r"(\d+) of (\d+)", text)


def acts_of(name: str) -> Iterator[dict[str, str]]:
    """One job's, in their order."""
    with (HERE / f"{name}.csv").open(encoding="utf-8") as file:
        yield from csv.DictReader(file, delimiter="|", restval="")
