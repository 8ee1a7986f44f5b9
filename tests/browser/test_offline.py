"""A dead server and a closed tab in the real page: what is typed stays, and goes once when the server is there again."""

import os
import socket
import tempfile
from pathlib import Path
from typing import Any

import psutil
from django.contrib.sessions.models import Session
from django.core.servers.basehttp import ThreadedWSGIServer
from django.test.testcases import LiveServerThread
from selenium.webdriver.common.keys import Keys

from dusky_heron.asfound.models import Photo
from dusky_heron.assessment.models import Reading
from dusky_heron.discharge.actions import note_charge
from dusky_heron.discharge.schemas import ChargeIn
from dusky_heron.discharge.states import ChargeState
from dusky_heron.jobs.models import Job, Position
from dusky_heron.workshops.actions import found_workshop
from dusky_heron.workshops.models import Member
from tests import some
from tests.api.test_asfound import picture
from tests.browser.base import BrowserTest
from tests.databases import PASSWORD

KEPT = """
    const done = arguments[0]
    caches.open('answers').then(async (kept) => {
        const all = await Promise.all((await kept.keys()).map(async (key) => (await kept.match(key)).text()))
        done(all.join())
    })
"""
FILES_LEFT = """
    const done = arguments[0]
    const opened = indexedDB.open('files')
    opened.onsuccess = () => {
        const asked = opened.result.transaction('waiting').objectStore('waiting').count()
        asked.onsuccess = () => { opened.result.close(); done(asked.result) }
    }
"""
CONTROLLED = "return navigator.serviceWorker.controller !== null"


class SamePort(ThreadedWSGIServer):
    """Takes the port again at once."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs | {"allow_reuse_address": True})


class SamePortThread(LiveServerThread):
    """A live server that may come back where it was."""

    server_class = SamePort


class Cut(BrowserTest):
    """The server really goes and comes back, on the same port."""

    server_thread_class = SamePortThread

    def cut(self) -> None:
        """Stop the server, and hang up on the browser, which keeps its connections."""
        thread: Any = type(self).server_thread
        thread.terminate()
        for one in psutil.Process().net_connections("tcp"):
            if one.laddr.port == thread.port and one.status == psutil.CONN_ESTABLISHED:
                with socket.socket(fileno=os.dup(one.fd)) as held:
                    held.shutdown(socket.SHUT_RDWR)

    def mend(self) -> None:
        """Start it again, where it was stopped."""
        gone: Any = type(self).server_thread
        if gone.is_alive():
            return
        made: Any = self._create_server_thread({})  # type: ignore[attr-defined] # of LiveServerTestCase
        made.port, made.daemon = gone.port, True
        type(self).server_thread = made
        made.start()
        made.is_ready.wait()
        self.assertIsNone(made.error)


class Offline(Cut):
    """What is typed meanwhile waits."""

    def reading(self, value: str) -> None:
        self.browser.execute_script("document.activeElement.blur()")
        self.page.press("r")
        self.page.retype(value)
        self.page.press(Keys.ENTER)

    def test_typed_without_a_server_it_waits_in_order_and_goes_once(self) -> None:
        page = self.sign_in()
        page.until(lambda: self.browser.execute_script(CONTROLLED))
        page.open("/")  # seen once with the page kept
        page.see("Wave-pool circulation pump")
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")
        page.press("4")
        page.see("Judge it", "Blue hand meter")
        path = self.browser.current_url.removeprefix(self.live_server_url)
        self.cut()
        for value, sees in (("12.9u", "1 entry waits in this browser"), ("12.8u", "2 entries wait in this browser")):
            self.reading(value)
            page.see(sees, "No connection")
            self.assertEqual(page.labelled("Reading").get_attribute("value"), "")
        page.open(path)  # the tab was closed, and is opened again without a server
        page.see("2 entries wait in this browser", "Wave-pool circulation pump", "as it was seen last")
        page.click("Which")
        page.see("readings: 12.9u", "readings: 12.8u")
        self.assertEqual(Reading.objects.filter(position__job__number=1).count(), 0)
        self.mend()
        page.until(lambda: "in this browser" not in page.text() and "No connection" not in page.text())
        kept = Reading.objects.filter(position__job__number=1).order_by("id").values_list("typed", flat=True)
        self.assertEqual(list(kept), ["12.9u", "12.8u"])
        for row in Reading.objects.filter(position__job__number=1):  # each says when it was taken, and what was seen then
            self.assertLess(some(row.taken_at), row.at)
            self.assertEqual(row.stands_at, 2)
        page.see("12.8 µF")
        self.browser.get_log("browser")  # says that the server was gone, which it was

    def test_what_is_noted_of_a_charge_without_a_server_is_in_force_at_once(self) -> None:
        """Kept shorted by the server's word; energised here, where nobody answers: the screen is never more careless."""
        page = self.sign_in()
        page.until(lambda: self.browser.execute_script(CONTROLLED))
        place = Position.objects.get(job__number=1)
        note_charge(Member.objects.get(username="orne").actor, place.id, ChargeIn(state=ChargeState.KEPT_SHORTED))
        page.open("/")
        page.see("Wave-pool circulation pump")
        page.click("Wave-pool circulation pump")
        page.see("Lift one lead")
        page.press("2")
        page.see("kept shorted since", "Link off, and energised")
        path = self.browser.current_url.removeprefix(self.live_server_url)
        self.cut()
        page.click("Link off, and energised")
        page.click("Press again")
        page.see("1 entry waits in this browser", "energised since", "not sent yet")
        self.assertNotIn("kept shorted since", page.text())
        page.open(path)  # the tab was closed, and is opened again
        page.see("not sent yet", "energised since")
        page.press("4")
        page.see("It is energised: no meter on it, no hand near it. That is not sent yet.")
        page.press("b")
        page.see("C1 energised since")
        self.assertNotIn("kept shorted since", page.text())
        self.mend()
        page.until(lambda: "in this browser" not in page.text() and "not sent yet" not in page.text())
        page.see("C1 energised since")
        self.browser.get_log("browser")

    def test_what_is_half_typed_is_there_again(self) -> None:
        page = self.half_typed()
        path = self.browser.current_url.removeprefix(self.live_server_url)
        self.browser.get("about:blank")
        page.open(path)
        page.see("Judge it")
        page.until(
            lambda: self.browser.execute_script("return [...document.querySelectorAll('input')].some((i) => i.value === '12.7')")
        )

    def test_what_one_member_saw_is_not_shown_to_the_next(self) -> None:
        page = self.sign_in()
        page.until(lambda: self.browser.execute_script(CONTROLLED))
        page.open("/")
        page.see("Wave-pool circulation pump")
        found_workshop("Far Quay", "stranger", "S. Tranger", PASSWORD)
        self.browser.delete_all_cookies()  # the session ran out, nobody signed out
        page.sign_in("stranger", PASSWORD)
        page.see("The bench is empty")
        page.until(lambda: "Wave-pool" not in self.browser.execute_async_script(KEPT))
        self.cut()
        page.open("/drawer")
        page.until(lambda: "Dusky Heron" in page.text())
        self.assertNotIn("16 µF ±5 % 450 V~", page.text())
        self.browser.get_log("browser")
        self.mend()

    def left_here(self) -> str:
        """All that a browser keeps: answers, and what was typed or waits."""
        typed = self.browser.execute_script("return JSON.stringify({ ...localStorage, ...sessionStorage })")
        return f"{typed} {self.browser.execute_async_script(KEPT)}"

    def half_typed(self) -> Any:
        """A reading begun in the first job."""
        page = self.sign_in()
        page.until(lambda: self.browser.execute_script(CONTROLLED))
        page.open("/")
        page.see("Wave-pool circulation pump")
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")
        page.press("4")
        page.see("Judge it")
        self.browser.execute_script("document.activeElement.blur()")
        page.press("r", "1", "2", ".", "7")
        return page

    def ends(self, asked: str) -> None:
        """Every session ends at the server, and the page asks for something."""
        link = self.browser.find_element("link text", asked)
        Session.objects.all().delete()
        self.browser.execute_script("arguments[0].click()", link)  # whether or not the page has noticed by itself
        self.page.see("You were signed out")
        self.assertNotIn("Wave-pool", self.page.text())

    def test_an_ended_session_locks_and_only_its_own_member_finds_everything_again(self) -> None:
        page = self.half_typed()
        self.ends("Drawer")
        page.press("orne", Keys.TAB, PASSWORD, Keys.ENTER)
        page.see("33 µF")
        page.click("Bench")
        page.see("Wave-pool circulation pump")
        self.assertIn("12.7", self.left_here())
        self.ends("Meters")
        found_workshop("Far Quay", "stranger", "S. Tranger", PASSWORD)
        page.press("stranger", Keys.TAB, PASSWORD, Keys.ENTER)
        page.see("The bench is empty")
        page.until(lambda: "Wave-pool" not in self.left_here() and "12.7" not in self.left_here())
        self.assertNotIn("Wave-pool", self.browser.page_source)

    def test_signing_out_says_what_is_unsent_and_leaves_nothing_even_without_a_server(self) -> None:
        page = self.half_typed()
        self.cut()
        self.reading("12.9u")
        page.see("1 entry waits in this browser")
        page.click("M. Orne")
        page.click("Sign out")
        page.see("Not everything was sent", "1 entry waits")
        page.click("Stay signed in")
        page.see("Wave-pool circulation pump")
        page.click("M. Orne")
        page.click("Sign out")
        page.click("lose them")
        page.see("User name")
        left = self.left_here()
        for words in ("12.9u", "12.7", "Wave-pool"):
            self.assertNotIn(words, left)
        self.mend()
        page.open("/")
        page.see("User name")
        page.until(lambda: not Session.objects.exists())  # the server was told as soon as it answered
        self.assertEqual(Reading.objects.filter(position__job__number=1).count(), 0)
        self.browser.get_log("browser")

    def test_another_tab_of_who_signed_out_shows_nothing_any_more(self) -> None:
        page = self.half_typed()
        first = self.browser.current_window_handle
        self.browser.switch_to.new_window("tab")
        page.open("/")
        page.see("Wave-pool circulation pump")
        page.click("M. Orne")
        page.click("Sign out")
        page.see("User name")
        self.browser.switch_to.window(first)
        page.see("User name")
        self.assertNotIn("Wave-pool", self.browser.page_source)
        self.assertNotIn("12.7", self.left_here())

    def test_a_password_is_never_kept(self) -> None:
        page = self.sign_in()
        page.open("/workshop")
        page.click("Change my password")
        page.see("Present password")
        self.cut()
        page.fill("Present password", PASSWORD)
        page.fill("New password", "ochre-eggs-in-the-reeds")
        page.press(Keys.ENTER)
        page.see("The server does not answer")
        self.assertNotIn("ochre-eggs", self.left_here())
        self.assertNotIn(PASSWORD, self.left_here())
        self.mend()
        self.browser.get_log("browser")


class PhotosWait(Cut):
    """A photo taken with no server is there at once, outlives the page, and goes once, with its own time."""

    def choose(self, folder: str, *sizes: int) -> None:
        files = [Path(folder) / f"{size}.png" for size in sizes]
        for file, size in zip(files, sizes, strict=True):
            file.write_bytes(picture("PNG", (size, 300)))
        self.browser.find_element("css selector", "input[type=file]").send_keys("\n".join(map(str, files)))

    def drawn(self) -> list[int]:
        """How wide the pictures are drawn of the photos that wait."""
        return list(self.browser.execute_script("return [...document.querySelectorAll('canvas')].map((one) => one.height)"))

    def test_two_wait_and_one_is_taken_out(self) -> None:
        page = self.sign_in()
        page.until(lambda: self.browser.execute_script(CONTROLLED))
        path = f"/jobs/{Job.objects.get(number=1).id}/found"
        page.open(path)
        page.see("No photo yet")
        self.cut()
        with tempfile.TemporaryDirectory() as folder:
            page.fill("Photo of", "TB1")
            self.choose(folder, 400)
            page.see("TB1 not sent yet", "1 entry waits in this browser", "a photo, ", " kB, since", "room for")
            page.fill("Photo of", "tray")
            self.choose(folder, 600, 960)
            page.see("tray 1 not sent yet", "tray 2 not sent yet", "3 photos")
        page.until(lambda: self.drawn() == [360, 240, 150])  # 300 high each, 480 wide
        page.open(path)
        page.see("TB1 not sent yet", "tray 2 not sent yet")
        page.until(lambda: self.drawn() == [360, 240, 150])
        self.assert_axe_clean("photos that wait")
        taken_out = self.browser.find_elements("xpath", "//li[contains(., 'tray 1')]//button")[0]
        taken_out.click()
        page.see("Press again: Take it out")
        taken_out.click()
        page.until(lambda: "tray 1" not in page.text())
        self.assertFalse(Photo.objects.filter(job__number=1).exists())
        self.mend()
        page.until(lambda: "not sent yet" not in page.text() and "No connection" not in page.text())
        page.see("TB1 0 points", "tray 2 0 points")
        kept = list(Photo.objects.filter(job__number=1).order_by("sequence"))
        self.assertEqual([(one.caption, one.width) for one in kept], [("TB1", 400), ("tray 2", 960)])
        self.assertTrue(all(some(one.taken_at) < one.at for one in kept))
        self.assertEqual(self.browser.execute_async_script(FILES_LEFT), 0)
        self.browser.get_log("browser")  # says that the server was gone, which it was
