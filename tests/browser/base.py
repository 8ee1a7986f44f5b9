"""A live server over the demo data, and a browser signed in to it."""

import os
import re
import subprocess
import sys
from pathlib import Path
from typing import ClassVar

from django.conf import settings
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.db import connection
from selenium import webdriver

import tests.api.base  # noqa: F401 - keeps the request log quiet
from tests.browser.page import DESKTOP, Page, the_browser
from tests.databases import DEMO, PASSWORD, Committing

ROOT = Path(__file__).resolve().parents[2]
AXE = ROOT / "frontend/node_modules/axe-core/axe.min.js"
SAID = re.compile(r"status of 4|/api/ground|/kept\b|/static/worked/")  # what the page shows; what it fetches at rest ends with it


class BrowserTest(Committing, StaticLiveServerTestCase):
    """Each test starts from the demo data, in one browser for all; no view may break the page's policy."""

    begins_with = DEMO
    host = "127.0.0.1"
    browser: ClassVar[webdriver.Chrome]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.browser = the_browser()

    def setUp(self) -> None:
        self.browser.delete_all_cookies()
        self.page = Page(self.browser, self.live_server_url)
        self.page.size(*DESKTOP)
        self.browser.get_log("browser")

    def tearDown(self) -> None:
        said = [entry["message"] for entry in self.browser.get_log("browser") if entry["level"] == "SEVERE"]
        broken = [line for line in said if not SAID.search(line)]
        self.assertFalse(broken)
        self.browser.get("about:blank")

    def sign_in(self, username: str = "orne") -> Page:
        self.page.sign_in(username, PASSWORD)
        return self.page

    def work(self, **environment: str) -> None:
        """Let a real worker do what waits for it, in a process of its own."""
        base = settings.DATABASES["default"]
        url = f"postgres://{base['USER']}:{base['PASSWORD']}@{base['HOST']}:{base['PORT']}/{connection.settings_dict['NAME']}"
        command = [sys.executable, "manage.py", "worker", "--once"]
        subprocess.run(
            command,
            cwd=ROOT,
            env=os.environ | {"DATABASE_URL": url, "MEDIA_ROOT": settings.MEDIA_ROOT} | environment,
            check=True,
            capture_output=True,
            start_new_session=True,  # it gives way, and its session with it
        )

    def assert_axe_clean(self, name: str) -> None:
        """No finding of axe-core for WCAG 2.2 A and AA."""
        self.browser.execute_script(AXE.read_text(encoding="utf-8"))
        rules = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]
        run = "const [tags, done] = arguments; axe.run({runOnly: tags}).then((found) => done(found.violations))"
        found = self.browser.execute_async_script(run, rules)
        said = [f"{v['id']}: {v['help']}: {[n['html'][:160] for n in v['nodes']][:3]}" for v in found]
        self.assertFalse(said, f"{name}: {said}")
